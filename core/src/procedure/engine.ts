import { refused, type Refused } from '../refused.ts'
import type { Signing } from '../signing/signing.ts'
import { reviewProblem, withSignature } from '../signing/signature.ts'
import { sayNumber } from '../quantity/round.ts'
import { transmitter, type Transmitter } from '../transmitter/transmitter.ts'
import type { Adjustment } from '../trim/adjust.ts'
import { REFUSALS, trimPlausible, WARNINGS } from '../trim/plausible.ts'
import type { ProcedureEventBody, ProcedureStarted } from './events.ts'
import { handOverProblem } from './hand-over.ts'
import { WORK_STEPS, type WorkEvent, type WorkState } from './order-of-work.ts'
import { adviceFor } from './advice.ts'
import { procedureOf } from './catalogue.ts'
import { standing } from './closing.ts'
import { type Dated, type GateState } from './gate.ts'
import { gatesOf, isReleased, sayShut } from './gates.ts'
import { belongsTo, contextMadeFor, stepsOf } from './made-for.ts'
import { wrote } from './outcome.ts'
import { seriesOf, type ProcedureRun } from './run.ts'
import type { Step, Values } from './step.ts'
import { stepsBack } from './way-back.ts'

export interface ProcedureHappened {
  readonly body: ProcedureEventBody
  readonly by: string
  readonly at: string
}
export type ProcedureFolded = { readonly kind: 'run'; readonly run: ProcedureRun } | Refused

const stateAfter = new Map<string, WorkState>(WORK_STEPS.map(([e, s]) => [e, s]))

/** The device as far as typed numbers tell it: what it reads is taken for its raw value. */
const deviceOf = (s: ProcedureStarted): Transmitter =>
  transmitter(
    { LSL: s.context.limits.low, USL: s.context.limits.high, kind: s.context.kind },
    {},
    s.context.range.low,
    s.context.range.high,
  )

/** The adjustment that a step asks for, with what was typed; null where it is none. */
export function adjustmentOf(step: Step, values: Values): Adjustment | null {
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

/** Why a trim would shift the reading by more than the plant lets it, or null. @param pv - what it reads now */
function shiftProblem({ started }: ProcedureRun, a: Adjustment, pv: number): string | null {
  const most = started.gates?.shift_pct
  const applied =
    a.kind === 'zeroTrim' ? 0 : a.kind === 'lowerTrim' || a.kind === 'upperTrim' ? a.applied : null
  if (most === undefined || applied === null) return null
  const { low, high } = started.context.limits
  const shift = (100 * Math.abs(applied - pv)) / Math.max(Math.abs(low), Math.abs(high))
  return shift <= most * (1 + 1e-9)
    ? null
    : `The trim would shift it by ${sayNumber(shift, 3)} % of the sensor’s upper limit; up to ${sayNumber(most)} % is trimmed away here. Look for the cause.`
}

/** Whether an adjustment makes sense, from the numbers that were typed or read. */
export function adjustmentProblem(
  run: ProcedureRun,
  step: Step,
  values: Values,
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
    inManual: isReleased(run),
    asFoundClosed: run.done.some((d) => d.step.work === 'finishAsFound' || d.step.phase === 'asFound'),
    stable: true,
  })
  return {
    refused: verdict.code === 'OK' ? shiftProblem(run, a, pv) : REFUSALS[verdict.code],
    warnings: verdict.warnings.map((w) => WARNINGS[w]),
  }
}

type StepPayload = Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload']

/**
 * The gates of a step with what is told of it.
 * @param at - when it is done, ISO 8601
 * @param instruments - those of the run, where they are known
 */
export const gatesAt = (
  run: ProcedureRun,
  step: Step,
  p: Pick<StepPayload, 'values' | 'seen' | 'again'>,
  at: string,
  instruments?: readonly Dated[],
): readonly GateState[] =>
  gatesOf(run, step, { values: p.values, seen: p.seen ?? null, again: p.again ?? null, at, instruments })

/** Gates that are shut and were not passed over by name. */
export const shutGates = (gates: readonly GateState[], p: Pick<StepPayload, 'overruled'>): GateState[] =>
  gates.filter((g) => !g.holds && !p.overruled?.gates.includes(g.id))

function stepProblem(run: ProcedureRun, step: Step, p: StepPayload, at: string): string | null {
  if (p.step !== step.id) return `The next step is “${step.title}”.`
  const ticks = step.hold?.length ?? 0
  if (p.ticks < ticks) return `Confirm all ${ticks} points before going on.`
  if (step.confirmedBy && p.confirmedBy === '') return `Name the ${step.confirmedBy} who confirmed it.`
  if (step.needsNote && p.note.trim() === '') return `${step.needsNote} is missing.`
  for (const f of step.fields ?? []) if (p.values[f.name] === undefined) return `${f.label} is missing.`
  if (step.kind === 'decide' && !step.choices?.some((c) => c.value === p.choice)) return 'Choose one of them.'
  if (step.judged && p.note.trim() === '') {
    const advised = adviceFor(run)?.choice
    if (advised && advised !== p.choice) return 'It goes against what the readings say: write down why.'
  }
  const says = step.gate?.(p.values, step.series ? seriesOf(run, step.series) : []) ?? null
  if (says) return says
  const shut = shutGates(gatesAt(run, step, p, at), p)
  if (shut.length > 0) return sayShut(shut)
  const problem = adjustmentProblem(run, step, p.values)
  return problem.refused
}

/** What is left after a step: a decision to leave alone skips the adjustment and the as-left readings. */
function leftAfter(run: ProcedureRun, step: Step, choice: string | null): readonly Step[] {
  const dropped = choice === null ? undefined : step.drops?.[choice]
  const rest = run.left.slice(1).filter((s) => !dropped?.includes(s.id))
  const target = choice === null ? undefined : step.jumps?.[choice]
  if (target !== undefined) {
    const there = rest.findIndex((s) => s.id === target)
    return there < 0 ? rest : rest.slice(there)
  }
  if (!step.judged || choice !== 'leave') return rest
  const skip = rest.findIndex((s) => s.phase !== 'asLeft' && s.kind !== 'write' && !s.adjusting)
  return skip < 0 ? [] : rest.slice(skip)
}

/** Where the work stands at its beginning: at nothing, or at what stands from the procedure before. */
const begunAt = ({ after }: ProcedureStarted): WorkState =>
  WORK_STEPS.filter(([e]) => after?.did.some((w) => w === e)).at(-1)?.[1] ?? 'IDLE'

/** Next state of a procedure after one event, or a sentence why it cannot come now. */
export function applyProcedureEvent(
  run: ProcedureRun | null,
  { body, by, at }: ProcedureHappened,
): ProcedureFolded {
  if (body.type === 'procedure.started') {
    if (run) return refused('This procedure has already begun.')
    const procedure = procedureOf(body.payload.procedure)
    if (!procedure) return refused(`There is no procedure “${body.payload.procedure}”.`)
    const { rules, way, notInServiceBy } = body.payload
    if (way !== undefined && way !== 'inService' && (notInServiceBy ?? '') === '')
      return refused('Say by name who has told that the loop is not in service.')
    if (body.payload.context.discrete && body.payload.withDevice)
      return refused('A loop that switches has no device on a link: its readings are typed.')
    const unfit = rules === undefined ? null : procedure.unfit?.(contextMadeFor(body.payload))
    if (unfit) return refused(unfit.says)
    return {
      kind: 'run',
      run: {
        started: body.payload,
        startedBy: by,
        startedAt: at,
        runner: by,
        state: 'running',
        work: begunAt(body.payload),
        done: [],
        left: stepsOf(procedure, body.payload),
        fixedCurrent: body.payload.after?.held === true,
        abort: null,
      },
    }
  }
  if (!run) return refused('The procedure has not begun.')
  const over = run.state !== 'running' && run.state !== 'aborting'
  if (body.type === 'procedure.signed')
    return over ? signedBy(run, body.payload, by, at) : refused('It is signed once it has ended.')
  if (over) return refused('This procedure has ended.')
  if (body.type === 'procedure.takenOver') {
    if (by === run.runner) return refused('You are working at it already.')
    if (body.payload.from !== run.runner) return refused('Somebody else has taken it over meanwhile.')
    return { kind: 'run', run: { ...run, runner: by } }
  }
  if (by !== run.runner) return refused('Somebody else is working at it. Take it over first.')
  if (body.type === 'procedure.handedOver') {
    const says = handOverProblem(run, body.payload.to)
    return says
      ? refused(says)
      : { kind: 'run', run: { ...run, left: [], state: 'handedOver', handed: body.payload } }
  }
  if (body.type === 'procedure.abortAsked') {
    if (run.state === 'aborting') return refused('The way back has begun already.')
    const left = wayBack(run)
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
  // What stands in a record from before there were gates was right by the rules of its time.
  if (run.started.rules === undefined) return asItWas(run, body.payload, by, at)
  const says = stepProblem(run, step, body.payload, at)
  if (says) return refused(says)
  return { kind: 'run', run: after(run, step, body.payload, by, at) }
}

/** The run with one more signature: first of who worked at it, then of others who looked it through. */
function signedBy(run: ProcedureRun, p: Signing, by: string, at: string): ProcedureFolded {
  const there = run.signatures ?? []
  const worked = by === run.runner || run.done.some((d) => d.by === by)
  const says =
    p.as === 'reviewer'
      ? reviewProblem(there, p, by)
      : there.length > 0
        ? 'This procedure is signed already. One technician signs; another person reviews it.'
        : worked
          ? null
          : 'Who worked at it signs it as done.'
  if (says !== null) return refused(says)
  return { kind: 'run', run: { ...run, signatures: withSignature(there, p, by, at) } }
}

/** A step of an older record: what was put in between since is passed over. */
function asItWas(run: ProcedureRun, p: StepPayload, by: string, at: string): ProcedureFolded {
  const i = run.left.findIndex((s) => s.id === p.step)
  const step = run.left[i]
  if (!step) return { kind: 'run', run }
  return { kind: 'run', run: after({ ...run, left: run.left.slice(i) }, step, p, by, at) }
}

/** The way back from here: put back what was written, unless it stands and was proved good. */
function wayBack(run: ProcedureRun): Step[] {
  const way = run.started.way ?? 'inService'
  const good = run.started.rules !== undefined && ['adjusted', 'untouched'].includes(standing(run).result)
  const has = (work: WorkEvent) =>
    run.done.some((d) => d.step.work === work) || run.started.after?.did.some((w) => w === work) === true
  // Older records end the way back as they were begun.
  const opened = run.started.rules === undefined || has('isolate') || has('vent')
  const connected = run.started.rules === undefined || has('connect')
  const written = wrote(run)
  const stored = has('adjust') || has('finishAsLeft')
  const state: WorkState = written && !good && !stored ? 'ADJUSTED' : run.work
  return stepsBack(state, run.fixedCurrent, { revert: written && !good, stored }).filter(
    (s) =>
      belongsTo(way, s) &&
      (opened || !['abort-restore'].includes(s.id)) &&
      (connected || !['abort-ventStandard', 'abort-disconnect'].includes(s.id)),
  )
}

/** The run after a step that is allowed. */
function after(run: ProcedureRun, step: Step, p: StepPayload, by: string, at: string): ProcedureRun {
  const { values, choice, note, confirmedBy, seen, again, overruled } = p
  const failed = step.work === 'check' && choice === 'fails'
  // A check that fails leaves it in manual, the bypass listed: only the operators are told.
  const left = failed ? run.left.slice(1).filter((s) => s.work === 'close') : leftAfter(run, step, choice)
  const work = step.work ? (stateAfter.get(step.work) ?? run.work) : run.work
  const outOfService = failed || run.done.some((d) => d.step.work === 'check' && d.choice === 'fails')
  const done = {
    step,
    values,
    choice,
    note,
    confirmedBy,
    by,
    at,
    ...(seen ? { seen } : {}),
    ...(again ? { again } : {}),
    ...(overruled ? { overruled } : {}),
  }
  return {
    ...run,
    work,
    left,
    fixedCurrent: step.holdCurrent_mA === undefined ? run.fixedCurrent : step.holdCurrent_mA !== null,
    done: [...run.done, done],
    state: left.length > 0 ? run.state : outOfService ? 'outOfService' : run.abort ? 'aborted' : 'done',
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
