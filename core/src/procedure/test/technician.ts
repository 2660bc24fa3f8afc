import type { DeviceCommand } from '../../device/command.ts'
import { healthChange_pct } from '../../device/health.ts'
import { command } from '../../device/commands.ts'
import {
  alertsOf,
  inputAt,
  movedAt_s,
  readStandIn,
  samplesOf,
  settled,
  standardShows,
  taskAt,
  type StandIn,
} from '../../device/stand-in.ts'
import { signalTrends } from '../../device/signal-trend.ts'
import { adviceFor } from '../advice.ts'
import { allowedOf } from '../allowed.ts'
import { USUAL_GATES, type GateNumbers } from '../gate-numbers.ts'
import { carefulAnswer } from '../careful-answer.ts'
import { commandOf } from '../command.ts'
import { applyProcedureEvent, gatesAt, shutGates, type ProcedureHappened } from '../engine.ts'
import { RULES, type ProcedureEventBody, type ProcedureStarted } from '../events.ts'
import { readAgainAfter_s } from '../still-gate.ts'
import { recommendedOf, type ProcedureRun } from '../run.ts'
import { MOST_WINDOW_S, seenOf, windowFor_s, type Seen } from '../seen.ts'
import { isNoisy } from '../still.ts'
import type { FieldSource, ProcedureContext, Step, StepField, Values } from '../step.ts'

type StepPayload = Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload']

/** A device, its clock, and a technician who works a procedure at it; over the link or with typed readings. */
export interface Job {
  run: ProcedureRun
  device: StandIn
  t_s: number
  readonly events: ProcedureHappened[]
  /** What was refused on the way. */
  readonly refused: string[]
}
export interface Habits {
  /** Numbers that the device cannot tell, by the name of their field. */
  readonly knows?: (step: Step, field: StepField, job: Job) => number | undefined
  /** Choices other than the recommended ones, by step. */
  readonly chooses?: Readonly<Record<string, string>>
  /** Seconds before a step is done that waits for nothing. */
  readonly pace_s?: number
  /** Waits this long for a gate, then gives up, s. */
  readonly patience_s?: number
  /** What the input's motion is called in the field: the flow behind shut valves that leak, say. */
  readonly disturb?: (device: StandIn, step: Step) => StandIn
}

const ZERO = Date.parse('2026-11-25T06:00:00.000Z')
const SAMPLES_A_SECOND = 4
export const isoAt = (t_s: number): string => new Date(ZERO + Math.round(t_s * 1000)).toISOString()
/** As a meter shows it: five digits. */
const typed = (x: number): number => Number(x.toPrecision(6))

type Known = Pick<ProcedureContext, 'tau_s' | 'tolerance_pct' | 'range'>
export function lookAt(
  now: StandIn,
  t_s: number,
  context: Known,
  { still_s }: GateNumbers = USUAL_GATES,
): Seen | null {
  const device = settled(now, t_s)
  const tau_s = Math.max(context.tau_s, device.applied.damping_s)
  const moved_s = movedAt_s(device)
  const asFar = (back_s: number) =>
    samplesOf(device, t_s, Math.ceil(Math.min(back_s + 2, t_s - moved_s + 1) * SAMPLES_A_SECOND))
  const allowed = allowedOf(context)
  const still = {
    allowed,
    signals: signalTrends(device, t_s),
    moved_s,
    standard: standardShows(device, t_s),
    held_mA: device.transmitter.state.fixed_mA,
    tau_s,
    still_s,
    range: { LRV: device.transmitter.state.LRV, URV: device.transmitter.state.URV },
  }
  const short = seenOf({ ...still, samples: asFar(windowFor_s(tau_s, still_s)) })
  // As far back as the noise asks, and no further: thousands of looks are made in a test.
  return short && isNoisy({ n: short.n, scatter: short.pvScatter }, allowed.pv)
    ? seenOf({ ...still, samples: asFar(MOST_WINDOW_S) })
    : short
}

function order(job: Job, c: DeviceCommand | null): boolean {
  if (!c) return true
  const done = command(job.device, job.t_s, c, `${job.events.length} ${job.t_s} ${c.kind}`)
  job.device = done.device
  if (!done.answer.ok) job.refused.push(done.answer.says)
  return done.answer.ok
}

function shown(job: Job, from: FieldSource, seen: Seen): number | undefined {
  const d = settled(job.device, job.t_s)
  if (typeof from === 'object') return signalTrends(d, job.t_s)[from.signal]?.value
  switch (from) {
    case 'pv':
      return seen.pv
    case 'current':
      return seen.mA
    case 'noise':
      return 2 * seen.pvScatter
    case 'standard':
      return seen.standard ?? undefined
    case 'alerts':
      return alertsOf(d, job.t_s).length
    case 'checksBefore':
      return d.checks.length - 1
    case 'change': {
      const [first, last] = [d.checks[0], d.checks.at(-1)]
      return healthChange_pct(
        (last?.signals ?? []).map((s) => ({
          figure: s.figure,
          checked: s.value,
          reference: first?.signals.find((x) => x.name === s.name)?.value ?? null,
        })),
      )
    }
    case 'LRV':
      return d.transmitter.state.LRV
    case 'URV':
      return d.transmitter.state.URV
  }
}

/** What receivers show of the current that flows now. */
function receiverShows(job: Job): number {
  const { receiver } = job.run.started.context
  const mA = readStandIn(job.device, job.t_s).mA
  const low = receiver?.shows[0] ?? 0
  const high = receiver?.shows.at(-1) ?? 100
  return low + ((high - low) * (mA - 4)) / 16
}

/** What a meter and the controller show at a discrete input that is as it should be. */
const AT_A_GOOD_INPUT: Values = {
  one_V: 22.8,
  zero_V: 0.4,
  whileSensing: 1,
  whileNot: 0,
  cut: 0,
  counted: 10,
}

function valueOf(job: Job, step: Step, f: StepField, seen: Seen, habits: Habits): number {
  const known = habits.knows?.(step, f, job)
  if (known !== undefined) return known
  const wanted = f.wanted?.(job.run)
  if (wanted) return typed(wanted.value)
  const told = f.readsFrom === undefined ? undefined : shown(job, f.readsFrom, seen)
  if (told !== undefined) return job.run.started.withDevice ? told : typed(told)
  if (f.name === 'shown') return typed(receiverShows(job))
  if (f.name === 'known') return typed(inputAt(job.device, job.t_s))
  if (f.name === 'applied') return typed(standardShows(job.device, job.t_s) ?? inputAt(job.device, job.t_s))
  // What stands in the field at the nozzle, and on the bottles.
  if (f.name === 't0_C') return 20
  if (f.name === 'after') return 101.3
  if (f.name === 'temperature') return 18.4
  if (f.name === 't') return job.device.temperature_C
  if (f.name === 'flowFactor') return 31.2345
  if (f.name === 'driveFrequency') return 102.4
  if (f.name === 'buffer') return step.id === 'buffer-2' ? 4 : 7
  if (f.name === 'pv') return typed(seen.pv)
  if (f.name === 'mA' || f.name === 'measured') return typed(seen.mA)
  return AT_A_GOOD_INPUT[f.name] ?? f.preset ?? 0
}

export function happen(job: Job, body: ProcedureEventBody, by = 'wren'): boolean {
  const event = { body, by, at: isoAt(job.t_s) }
  const next = applyProcedureEvent(job.run, event)
  if (next.kind === 'refused') {
    job.refused.push(next.says)
    return false
  }
  job.events.push(event)
  job.run = next.run
  return true
}

/** The answer to the step that is next, as the device stands now. */
export function answerNow(job: Job, step: Step, habits: Habits, before: Values | null): StepPayload | null {
  const seen = lookAt(job.device, job.t_s, job.run.started.context, job.run.started.gates)
  if (!seen) return null
  const values = Object.fromEntries(
    (step.fields ?? []).map((f) => [f.name, valueOf(job, step, f, seen, habits)]),
  )
  const advised = step.judged ? (adviceFor(job.run)?.choice ?? null) : null
  const choice =
    habits.chooses?.[step.id] ?? advised ?? recommendedOf(job.run, step) ?? step.choices?.[0]?.value ?? null
  const body = carefulAnswer(step, {}, { values, choice }, isoAt(job.t_s), 'once')
  if (body.type !== 'procedure.step') return null
  const { payload } = body
  return {
    ...payload,
    note: step.needsNote ? 'HV-1 and HV-2' : step.judged && choice !== advised ? 'by the shift leader' : '',
    ...(job.run.started.withDevice ? { seen } : {}),
    ...(before && readAgainAfter_s(job.run, step) !== null
      ? { again: { at: isoAt(job.t_s - 61), values: before } }
      : {}),
  }
}

/** Does the step that is next with patience; false where a gate never opens or the device refuses. */
export function doStep(job: Job, habits: Habits = {}): boolean {
  const step = job.run.left[0]
  if (!step) return false
  job.t_s += habits.pace_s ?? 2
  const first = answerNow(job, step, habits, null)
  if (!first) return false
  const before = step.before?.(first.values, job.run)
  if (before) order(job, before.command)
  if (habits.disturb) job.device = habits.disturb(job.device, step)
  const until = job.t_s + (habits.patience_s ?? 300)
  for (;;) {
    const one = answerNow(job, step, habits, null)
    if (readAgainAfter_s(job.run, step) !== null) job.t_s += 61
    const p = answerNow(job, step, habits, one?.values ?? null)
    if (!p) {
      // Nothing has been seen since it moved.
      job.t_s += 1
      continue
    }
    const waits = step.task && taskAt(job.device, job.t_s) !== null
    if (!waits && shutGates(gatesAt(job.run, step, p, isoAt(job.t_s)), p).length === 0) {
      if (!order(job, commandOf(job.run, step, { values: p.values, choice: p.choice }))) return false
      return happen(job, { type: 'procedure.step', payload: p })
    }
    if (job.t_s > until) {
      job.refused.push(
        shutGates(gatesAt(job.run, step, p, isoAt(job.t_s)), p)
          .map((g) => g.says)
          .join('; '),
      )
      return false
    }
    job.t_s += 1
  }
}

export function beginJob(
  procedure: string,
  context: ProcedureContext,
  device: StandIn,
  more: Partial<ProcedureStarted> = {},
): Job {
  const body: ProcedureEventBody = {
    type: 'procedure.started',
    payload: {
      procedure,
      revision: 1,
      context,
      withDevice: true,
      equipment: [],
      rules: RULES,
      ...more,
    },
  }
  const event = { body, by: 'wren', at: isoAt(30) }
  const begun = applyProcedureEvent(null, event)
  if (begun.kind === 'refused') throw new Error(begun.says)
  return {
    run: begun.run,
    device: { ...device, connected: true, unlocked: true },
    t_s: 30,
    events: [event],
    refused: [],
  }
}
/** From the first step to the last, or to the one that is never done. */
export function perform(job: Job, habits: Habits = {}): Job {
  for (let i = 0; i < 150 && job.run.left[0]; i++) if (!doStep(job, habits)) break
  return job
}
