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

/** Every step that a way back may hold. */
export const ALL_STEPS_BACK: readonly Step[] = Object.keys(ABORT_WORDS).map((id) => stepBack(id as AbortStep))

/** The way back as steps, each ticked by the person who does it. */
export const stepsBack = (work: WorkState, fixedCurrent: boolean): Step[] =>
  abortSteps(work, fixedCurrent).map(stepBack)
