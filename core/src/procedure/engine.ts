import { transmitter, type Adjustment, type Transmitter } from '../device/transmitter.ts'
import { REFUSALS, trimPlausible, WARNINGS } from '../device/plausible.ts'
import { bufferProblem } from './buffer-check.ts'
import type { ProcedureEventBody, ProcedureStarted } from './events.ts'
import { abortSteps, WORK_STEPS, type AbortStep, type WorkEvent, type WorkState } from './order-of-work.ts'
import { procedureOf } from './procedures/index.ts'
import type { Step } from './step.ts'

export interface DoneStep {
  readonly step: Step
  readonly values: Readonly<Record<string, number>>
  readonly choice: string | null
  readonly note: string
  readonly confirmedBy: string
  readonly by: string
  readonly at: string
}
export type ProcedureState = 'running' | 'aborting' | 'done' | 'aborted' | 'outOfService'

/** A procedure as its events tell it. */
export interface ProcedureRun {
  readonly started: ProcedureStarted
  readonly startedBy: string
  readonly startedAt: string
  /** Who works at it now; nobody else's steps count. */
  readonly runner: string
  readonly state: ProcedureState
  readonly work: WorkState
  readonly done: readonly DoneStep[]
  readonly left: readonly Step[]
  readonly fixedCurrent: boolean
  readonly abort: { readonly reason: string; readonly by: string; readonly at: string } | null
}
export interface ProcedureHappened {
  readonly body: ProcedureEventBody
  readonly by: string
  readonly at: string
}
export type ProcedureFolded =
  { readonly kind: 'run'; readonly run: ProcedureRun } | { readonly kind: 'refused'; readonly says: string }

const refused = (says: string): ProcedureFolded => ({ kind: 'refused', says })
const stateAfter = new Map<string, WorkState>(WORK_STEPS.map(([e, s]) => [e, s]))

const ABORT_WORDS: Readonly<Record<AbortStep, readonly [title: string, says: string]>> = {
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
  notify: ['', ''],
  manual: ['', ''],
  bypassTrips: ['', ''],
  isolate: ['', ''],
  vent: ['', ''],
  connect: ['', ''],
  startAsFound: ['', ''],
  finishAsFound: ['', ''],
  adjust: ['', ''],
  finishAsLeft: ['', ''],
}

/** Steps back that an operator has a part in. */
const BY_OPERATOR: ReadonlySet<AbortStep> = new Set(['unbypass', 'auto'])

/** The way back as steps, each ticked by the person who does it. */
function stepsBack(work: WorkState, fixedCurrent: boolean): Step[] {
  return abortSteps(work, fixedCurrent).map((id): Step => {
    const [title, says] = ABORT_WORDS[id]
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
      ...(isWork ? { work: id as WorkEvent } : {}),
      ...(id === 'close' || id === 'releaseFixed' ? {} : { hold: ['Done.'] }),
    }
  })
}

/** The device as far as typed numbers tell it: what it reads is taken for its raw value. */
const deviceOf = (s: ProcedureStarted): Transmitter =>
  transmitter(
    { LSL: s.context.limits.low, USL: s.context.limits.high, kind: s.context.kind },
    {},
    s.context.range.low,
    s.context.range.high,
  )

function adjustmentOf(step: Step, values: Readonly<Record<string, number>>): Adjustment | null {
  switch (step.adjustment) {
    case 'lowerTrim':
    case 'upperTrim':
      return { kind: step.adjustment, applied: values['applied'] ?? NaN }
    case 'range':
      return { kind: 'range', LRV: values['LRV'] ?? NaN, URV: values['URV'] ?? NaN }
    case 'outputTrim4':
    case 'outputTrim20':
      return { kind: step.adjustment, measured_mA: values['measured'] ?? NaN }
    case 'zeroTrim':
      return { kind: 'zeroTrim' }
    default:
      return null
  }
}

/** Whether an adjustment makes sense, from the numbers that were typed or read. */
export function adjustmentProblem(
  run: ProcedureRun,
  step: Step,
  values: Readonly<Record<string, number>>,
): { readonly refused: string | null; readonly warnings: readonly string[] } {
  const a = adjustmentOf(step, values)
  if (!a) return { refused: null, warnings: [] }
  const device = deviceOf(run.started)
  // What the transmitter reads now: typed with the step, else the last reading at this input.
  const near = [...run.done]
    .reverse()
    .find((d) => d.step.kind === 'read' && d.step.apply === step.apply && d.values['pv'] !== undefined)
  const pv = values['pv'] ?? near?.values['pv'] ?? step.apply ?? 0
  const verdict = trimPlausible(device, a, pv, {
    inManual: run.done.some((d) => d.step.work === 'manual'),
    asFoundClosed: run.done.some((d) => d.step.work === 'finishAsFound' || d.step.phase === 'asFound'),
    stable: true,
  })
  return {
    refused: verdict.code === 'OK' ? null : REFUSALS[verdict.code],
    warnings: verdict.warnings.map((w) => WARNINGS[w]),
  }
}

function stepProblem(
  run: ProcedureRun,
  step: Step,
  p: Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload'],
): string | null {
  if (p.step !== step.id) return `The next step is “${step.title}”.`
  const ticks = step.hold?.length ?? 0
  if (p.ticks < ticks) return `Confirm all ${ticks} points before going on.`
  if (step.confirmedBy && p.confirmedBy === '') return `Name the ${step.confirmedBy} who confirmed it.`
  for (const f of step.fields ?? []) if (p.values[f.name] === undefined) return `${f.label} is missing.`
  if (step.kind === 'decide' && !step.choices?.some((c) => c.value === p.choice)) return 'Choose one of them.'
  if (step.id.startsWith('buffer-')) {
    const earlier = run.done.filter((d) => d.step.id.startsWith('buffer-')).map((d) => d.values)
    const says = bufferProblem(p.values, earlier)
    if (says) return says
  }
  const problem = adjustmentProblem(run, step, p.values)
  return problem.refused
}

/** What is left after a step: a decision to leave alone skips the adjustment and the as-left readings. */
function leftAfter(run: ProcedureRun, step: Step, choice: string | null): readonly Step[] {
  const rest = run.left.slice(1)
  const target = choice === null ? undefined : step.jumps?.[choice]
  if (target !== undefined) {
    const there = rest.findIndex((s) => s.id === target)
    return there < 0 ? rest : rest.slice(there)
  }
  if (step.id !== 'decide' || choice !== 'leave') return rest
  const skip = rest.findIndex(
    (s) => s.phase !== 'asLeft' && s.kind !== 'write' && s.id !== 'adjusted' && s.id !== 'release',
  )
  return skip < 0 ? [] : rest.slice(skip)
}

/** Next state of a procedure after one event, or a sentence why it cannot come now. */
export function applyProcedureEvent(
  run: ProcedureRun | null,
  { body, by, at }: ProcedureHappened,
): ProcedureFolded {
  if (body.type === 'procedure.started') {
    if (run) return refused('This procedure has already begun.')
    const procedure = procedureOf(body.payload.procedure)
    if (!procedure) return refused(`There is no procedure “${body.payload.procedure}”.`)
    return {
      kind: 'run',
      run: {
        started: body.payload,
        startedBy: by,
        startedAt: at,
        runner: by,
        state: 'running',
        work: 'IDLE',
        done: [],
        left: procedure.steps(body.payload.context),
        fixedCurrent: false,
        abort: null,
      },
    }
  }
  if (!run) return refused('The procedure has not begun.')
  const over = run.state !== 'running' && run.state !== 'aborting'
  if (over) return refused('This procedure has ended.')
  if (body.type === 'procedure.takenOver') {
    if (by === run.runner) return refused('You are working at it already.')
    if (body.payload.from !== run.runner) return refused('Somebody else has taken it over meanwhile.')
    return { kind: 'run', run: { ...run, runner: by } }
  }
  if (by !== run.runner) return refused('Somebody else is working at it. Take it over first.')
  if (body.type === 'procedure.abortAsked') {
    if (run.state === 'aborting') return refused('The way back has begun already.')
    // Something was written and not closed yet: it is put back like an adjustment.
    const touched = run.work === 'AS_FOUND_DONE' && run.done.some((d) => d.step.kind === 'write')
    const left = stepsBack(touched ? 'ADJUSTED' : run.work, run.fixedCurrent)
    return {
      kind: 'run',
      run: {
        ...run,
        abort: { reason: body.payload.reason, by, at },
        left,
        state: left.length > 0 ? 'aborting' : 'aborted',
      },
    }
  }
  const step = run.left[0]
  if (!step) return refused('Every step is done.')
  const says = stepProblem(run, step, body.payload)
  if (says) return refused(says)
  const { values, choice, note, confirmedBy } = body.payload
  const failed = step.work === 'check' && choice === 'fails'
  // A check that fails leaves it in manual, the bypass listed: only the operators are told.
  const left = failed ? run.left.slice(1).filter((s) => s.work === 'close') : leftAfter(run, step, choice)
  const work = step.work ? (stateAfter.get(step.work) ?? run.work) : run.work
  const outOfService = failed || run.done.some((d) => d.step.work === 'check' && d.choice === 'fails')
  return {
    kind: 'run',
    run: {
      ...run,
      work,
      left,
      fixedCurrent: step.holdCurrent_mA === undefined ? run.fixedCurrent : step.holdCurrent_mA !== null,
      done: [...run.done, { step, values, choice, note, confirmedBy, by, at }],
      state: left.length > 0 ? run.state : outOfService ? 'outOfService' : run.abort ? 'aborted' : 'done',
    },
  }
}

/** A procedure from all its events. @throws Error when stored events contradict the rules */
export function foldProcedure(events: readonly ProcedureHappened[]): ProcedureRun | null {
  let run: ProcedureRun | null = null
  for (const e of events) {
    const next = applyProcedureEvent(run, e)
    if (next.kind === 'refused') throw new Error(`stored event ${e.body.type}: ${next.says}`)
    run = next.run
  }
  return run
}

/** The readings of a phase that have an input to be held against, in order. */
export const readingsOf = (run: ProcedureRun, phase: 'asFound' | 'asLeft') =>
  run.done
    .filter(
      (d) =>
        d.step.kind === 'read' &&
        d.step.phase === phase &&
        (d.values['applied'] ?? d.step.apply) !== undefined,
    )
    .map((d) => ({
      applied: d.values['applied'] ?? d.step.apply ?? 0,
      pv: d.values['pv'] ?? 0,
      mA: d.values['mA'] ?? null,
    }))
