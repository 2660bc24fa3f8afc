import { abortSteps, WORK_STEPS, type AbortStep, type WorkEvent, type WorkState } from './order-of-work.ts'
import type { Step } from './step.ts'

const stateAfter = new Map<string, WorkState>(WORK_STEPS.map(([e, s]) => [e, s]))

const ABORT_WORDS: Partial<Readonly<Record<AbortStep, readonly [title: string, says: string]>>> = {
  releaseFixed: ['Release the held current', 'The output follows the measurement again.'],
  revertTrim: [
    'Put the trim back',
    'Write back trim and range of the closed as-found; the record says “not adjusted”.',
  ],
  spotCheck: ['Check one point', 'It reads as it did as found.'],
  ventStandard: ['Vent the standard', 'No pressure is left in pump and hose.'],
  disconnect: ['Take off the standard', 'Hose off, the loop’s link back in its terminals.'],
  restore: ['Valves back', 'Block valves open, equaliser and vents shut.'],
  check: ['Does it read what the process is?', 'If not: it stays in manual and out of service.'],
  unbypass: ['Trips active again', 'Each one that was bypassed.'],
  auto: ['Back to automatic', 'The operator takes it back.'],
  close: ['Tell the operators', 'The work has ended early; say what state the loop is in.'],
}

/** Steps back that an operator has a part in. */
const BY_OPERATOR: ReadonlySet<AbortStep> = new Set(['unbypass', 'auto'])

function stepBack(id: AbortStep): Step {
  const [title, says] = ABORT_WORDS[id] ?? [id, '']
  const isWork = stateAfter.has(id)
  if (id === 'check')
    return {
      id: 'abort-check',
      kind: 'decide',
      work: 'check',
      title,
      says,
      choices: [
        { value: 'agrees', title: 'It agrees' },
        { value: 'fails', title: 'It does not' },
      ],
    }
  const confirmedBy = BY_OPERATOR.has(id) ? { confirmedBy: 'operator' } : {}
  return {
    ...confirmedBy,
    id: `abort-${id}`,
    kind: id === 'close' ? 'tell' : id === 'releaseFixed' ? 'apply' : 'confirm',
    title,
    says,
    ...(id === 'releaseFixed' ? { holdCurrent_mA: null } : {}),
    ...(id === 'revertTrim' ? { command: { kind: 'revert' as const } } : {}),
    ...(isWork ? { work: id as WorkEvent } : {}),
    ...(id === 'close' || id === 'releaseFixed' ? {} : { hold: ['Done.'] }),
  }
}

/** What was stored may stand: whoever stops decides, and the record says which. */
const KEEP_OR_REVERT: Step = {
  id: 'abort-keep',
  kind: 'decide',
  title: 'Put the trim back, or keep it?',
  says: 'It is stored and nobody has read it as left. Put back, the loop is as it was found; kept, it is adjusted and not verified.',
  choices: [
    { value: 'revert', title: 'Put it back as found' },
    { value: 'keep', title: 'Keep it, not verified' },
  ],
  recommends: 'revert',
  drops: { keep: ['abort-revertTrim', 'abort-spotCheck'] },
}
/** Every step that a way back may hold. */
export const ALL_STEPS_BACK: readonly Step[] = [
  ...Object.keys(ABORT_WORDS).map((id) => stepBack(id as AbortStep)),
  KEEP_OR_REVERT,
]

/**
 * The way back as steps, each ticked by the person who does it.
 * @param trim - whether something written is put back, and whether it is stored already
 */
export function stepsBack(
  work: WorkState,
  fixedCurrent: boolean,
  trim: { readonly revert: boolean; readonly stored: boolean } = { revert: true, stored: false },
): Step[] {
  const steps = abortSteps(work, fixedCurrent)
    .map(stepBack)
    .filter((s) => trim.revert || !['abort-revertTrim', 'abort-spotCheck'].includes(s.id))
  if (!trim.revert || !trim.stored) return steps
  const at = steps.findIndex((s) => s.id === 'abort-revertTrim')
  return at < 0 ? steps : [...steps.slice(0, at), KEEP_OR_REVERT, ...steps.slice(at)]
}
