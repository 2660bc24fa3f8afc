import { currentOf, measures } from '../signal/current-range.ts'
import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { unitsPerCount } from '../signal/card-codes.ts'
import { pointsOf, type RelayPlan } from '../signal/relay-plan.ts'
import { stageOf, type Range, type Stage } from '../signal/stage.ts'

/** What a range does to resolution and accuracy. */
export interface RangeFigures {
  readonly span: number
  readonly turndown: number | null
  /** Input units per code of the card. */
  readonly perCount: number | null
  readonly perHundredthMA: number
  /** Reference accuracy in input units, by the form a, or b + c·TD beyond the knee. */
  readonly accuracy: number | null
}
export interface TripPlace {
  readonly name: string
  readonly at: number
  readonly before_mA: number
  readonly after_mA: number
  readonly reachable: boolean
}
const TYPICAL = { a: 0.065, b: 0.015, c: 0.005, knee: 10 }

export function rangeFigures(stages: readonly Stage[], range: Range): RangeFigures {
  const input = stageOf(stages, 'input')
  const limits = stageOf(stages, 'sensor')?.limits
  const span = Math.abs(range.high - range.low)
  const td = limits ? Math.max(Math.abs(limits.low), Math.abs(limits.high)) / span : null
  const pct = td === null ? null : td <= TYPICAL.knee ? TYPICAL.a : TYPICAL.b + TYPICAL.c * td
  return {
    span,
    turndown: td,
    perCount: input ? unitsPerCount(input, span, false, 1) : null,
    perHundredthMA: (span * 0.01) / 16,
    accuracy: pct === null ? null : (pct * span) / 100,
  }
}

/** Where each point of each relay sits on the current before and after, and whether it can still be reached. */
export function tripPlaces(before: Range, after: Range, trips: readonly RelayPlan[]): TripPlace[] {
  const mA = (r: Range, v: number) => currentOf((v - r.low) / (r.high - r.low))
  return trips.flatMap((t) =>
    pointsOf(t).map(([name, at]): TripPlace => {
      const after_mA = mA(after, at)
      return { name, at, before_mA: mA(before, at), after_mA, reachable: measures(after_mA) }
    }),
  )
}

/** What a re-range changes, what it leaves alone, and what has to follow. */
export function judgeReRange(stages: readonly Stage[], after: Range, trips: readonly RelayPlan[]): Finding[] {
  const transmitter = stageOf(stages, 'transmitter')
  if (!transmitter) return []
  const before = transmitter.range
  const limits = stageOf(stages, 'sensor')?.limits
  const unit = printedUnit(after.unit)
  const out: Finding[] = []
  if (after.low === after.high)
    return [
      {
        code: 'NO_SPAN',
        severity: 'stop',
        where: ['transmitter'],
        says: 'Both ends are the same: a range needs a span.',
      },
    ]
  if (limits && [after.low, after.high].some((v) => v < limits.low || v > limits.high))
    out.push({
      code: 'RANGE_OUTSIDE_SENSOR',
      severity: 'stop',
      where: ['sensor', 'transmitter'],
      says: `The sensor measures ${sayNumber(limits.low)} to ${sayNumber(limits.high)} ${unit}; this range goes beyond.`,
    })
  const figures = rangeFigures(stages, after)
  if (figures.turndown !== null && figures.turndown > TYPICAL.knee)
    out.push({
      code: 'TURNDOWN',
      severity: 'warn',
      where: ['transmitter'],
      says: `A turndown of ${sayNumber(figures.turndown, 3)}: the error in ${unit} hardly falls below ${sayNumber(figures.accuracy ?? 0, 2)} ${unit} any more.`,
      rule: 'typical; check the data sheet',
    })
  if (Math.sign(after.high - after.low) !== Math.sign(before.high - before.low))
    out.push({
      code: 'ACTION_TURNED',
      severity: 'stop',
      where: ['transmitter', 'controller'],
      says: 'The signal would run the other way: a controller’s action has to be turned as well.',
    })
  for (const t of tripPlaces(before, after, trips))
    if (!t.reachable)
      out.push({
        code: 'TRIP_UNREACHABLE',
        severity: 'stop',
        where: ['trip', t.name],
        says: `${t.name} would sit at ${sayNumber(t.after_mA, 4)} mA, outside what the loop can carry: it never trips.`,
      })
    else if (Math.abs(t.after_mA - t.before_mA) > 0.005)
      out.push({
        code: 'TRIP_MOVES',
        severity: 'warn',
        where: ['trip', t.name],
        says: `${t.name} sits at ${sayNumber(t.before_mA, 4)} mA now and at ${sayNumber(t.after_mA, 4)} mA after: set it again where it is set in mA or percent.`,
      })
  out.push({
    code: 'SENSOR_TRIM_STAYS',
    severity: 'note',
    where: ['transmitter'],
    says: `A re-range moves what 4 and 20 mA mean and leaves the sensor trim alone: a zero that is off stays off by the same ${unit}. Every receiver has to follow.`,
  })
  return out
}
