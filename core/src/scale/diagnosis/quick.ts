import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { stageKindOf } from '../../signal/chain.ts'
import type { Stage, StationId } from '../../signal/stage.ts'
import { stageOf } from '../../signal/stage.ts'
import { STATION_NAMES } from '../../signal/station-names.ts'
import { ACTION_SAYS, MISTAKE_SAYS, recommend } from '../../trim/recommend.ts'
import { questions } from '../../verify/contradiction.ts'
import { namedPlan } from '../../verify/plan.ts'
import { appliedAt, loopScale, type Reading } from '../../verify/reading-errors.ts'
import { toleranceAt, type Tolerance } from '../../verify/tolerance.ts'
import { judge, verdictOf, type Judgement } from '../../verify/verdict.ts'
import { actFor } from './acts.ts'
import { documentedChain, readableStations } from './documented.ts'
import { toldShapes } from './explain.ts'
import { scaleAt, spanAt } from './links.ts'
import { locate, type SegmentResult } from './locate.ts'
import { nextMeasurement } from './next-measurement.ts'
import { causesOf, sayExplanation } from './told.ts'

/** The points at which a loop is looked at in a hurry: a quarter of the range apart, rising. */
export const QUICK_PLAN = namedPlan('P5')

/** What was read at one of them; what was not is null. */
export interface QuickRow {
  readonly pv: number | null
  readonly loopCurrent_mA: number | null
  readonly controller: number | null
}
export interface QuickTask {
  readonly stages: readonly Stage[]
  readonly needsRoot: boolean
  readonly tolerance: Tolerance
  readonly absolute: boolean
  /** One for each point of the plan. */
  readonly rows: readonly QuickRow[]
}
export interface Quick {
  readonly judgement: Judgement
  /** Which part of the loop is off, as far as it was read. */
  readonly where: string
  /** The mistake by its name, and its usual causes. */
  readonly what: string | null
  readonly causes: readonly string[]
  /** The smallest right act. */
  readonly act: string
  readonly next: string
}

/** Expanded uncertainty that a reading usually has: share of the span, and mA. */
const USUAL_SHARE = 0.0005
const USUAL_MA = 0.005
/** The output's share of the tolerance where the loop's is not parted, % of span. */
const OUTPUT_PCT = 0.1
/** Where nobody has said the uncertainty, a quarter of the tolerance is taken. */
const USUAL_SHARE_OF_T = 0.25

const STATIONS = { pv: 'PV', loopCurrent_mA: 'MA', controller: 'EU' } as const
const name = (id: StationId) => STATION_NAMES[stageKindOf(id)]

/** Readings of a loop as found, by the points of the quick plan: what is applied is what the plan says. */
export function quickReadings({ stages, rows }: Pick<QuickTask, 'stages' | 'rows'>): Reading[] {
  const scale = loopScale(stages)
  if (!scale) return []
  return QUICK_PLAN.map((p, i): Reading => {
    const row = rows[i] ?? { pv: null, loopCurrent_mA: null, controller: null }
    const any = row.pv ?? row.loopCurrent_mA ?? row.controller
    return {
      index: p.index,
      direction: p.direction,
      applied: any === null ? null : appliedAt(scale, p.level_pct),
      ...row,
    }
  })
}

/** The columns that every point with a reading has: only those can be held against each other. */
const wholeColumns = (used: readonly Reading[]) =>
  (Object.keys(STATIONS) as (keyof typeof STATIONS)[]).filter((c) => used.every((r) => r[c] !== null))

function suspectOf(task: QuickTask, used: readonly Reading[]): SegmentResult | null {
  const chain = documentedChain(task.stages, task.needsRoot)
  const scale = loopScale(task.stages)
  if (!chain || !scale) return null
  const columns = wholeColumns(used)
  const span = Math.abs(scale.input.high - scale.input.low)
  const T = (100 * toleranceAt(task.tolerance, span, scale.input.high)) / span
  const located = locate({
    chain,
    levels: used.map((r) => ({
      dir: 1,
      values: {
        IN: r.applied ?? 0,
        ...Object.fromEntries(columns.map((c) => [STATIONS[c], r[c] ?? 0])),
      },
    })),
    u: {
      IN: (USUAL_SHARE * Math.abs(spanAt(chain, 'IN'))) / 2,
      PV: (USUAL_SHARE * Math.abs(spanAt(chain, 'PV'))) / 2,
      MA: USUAL_MA / 2,
      EU: (USUAL_SHARE * Math.abs(spanAt(chain, 'EU'))) / 2,
    },
    tol: { PV: Math.max(0, T - OUTPUT_PCT), MA: Math.min(T, OUTPUT_PCT), EU: OUTPUT_PCT },
  })
  return located.firstOut ?? located.segments.find((s) => s.state === 'INDETERMINATE') ?? null
}

/** Where transmitter and current were both read the trims are decided by rule; null where they were not. */
function decided(task: QuickTask, used: readonly Reading[]): string | null {
  const scale = loopScale(task.stages)
  const transmitter = stageOf(task.stages, 'transmitter')
  const points = used.flatMap((r) =>
    r.applied === null || r.pv === null || r.loopCurrent_mA === null
      ? []
      : [{ x: r.applied, dir: r.direction, pv: r.pv, mA: r.loopCurrent_mA }],
  )
  if (!scale || !transmitter || points.length < 2) return null
  const { low: L, high: U } = scale.input
  const span = Math.abs(U - L)
  const T = (100 * toleranceAt(task.tolerance, span, U)) / span
  const each = (x: number) => ({ sensor: x, output: x, total: x })
  const r = recommend({
    points,
    L,
    U,
    Ld: L,
    Ud: U,
    transfer: transmitter.transfer,
    T: each(T),
    uncertainty: each(T * USUAL_SHARE_OF_T),
    absolute: task.absolute,
  })
  if (r.actions.length === 0) return null
  return [...r.mistakes.map((m) => MISTAKE_SAYS[m]), ...r.actions.map((a) => ACTION_SAYS[a])].join(' ')
}

/** The reading that tells most of a stretch that was not read through, or the level where one more would. */
function nextFor(s: SegmentResult, stages: readonly Stage[]): string {
  const inside = s.links.slice(0, -1).map((link) => link.split('>')[1] as StationId)
  const there = inside.filter((id) => readableStations(stages).includes(id))
  const n = there.length > 0 ? nextMeasurement({ links: s.links, readings: [] }) : null
  const at = n && [n.bestByGain, n.bestPerMinute].find((id) => id !== null && there.includes(id))
  if (at)
    return `Read ${name(at)} at the point that is furthest off: it tells on which side of it the error lies.`
  const look = s.explanation?.answer === 'named' ? undefined : s.explanation?.lookNext[0]
  return look
    ? `Read once more at ${sayNumber(look.u * 100, 3)} %: that tells most between the names left.`
    : 'After the act read all five points again: they are the proof.'
}

/**
 * What a few readings in a hurry say of a loop: the verdict, which part is off, the mistake by its name, the smallest
 * right act and what to read next. What was not read is not judged.
 * @returns null before anything was read
 */
export function quickAsFound(task: QuickTask): Quick | null {
  const scale = loopScale(task.stages)
  const all = quickReadings(task)
  const used = all.filter((r) => r.applied !== null)
  if (!scale || used.length === 0) return null
  const open = [...questions(scale, task.tolerance, all)].flatMap(([index, fs]) =>
    fs.map((f) => `at ${sayNumber(QUICK_PLAN[index]?.level_pct ?? 0, 3)} %: ${f.says}`),
  )
  const judgement = judge({
    scale,
    tolerance: task.tolerance,
    plan: QUICK_PLAN,
    readings: all,
    U_pct: 0,
    phase: 'asFound',
    open,
  })
  if (!judgement) return null
  const columns = wholeColumns(used)
  const unread = [
    ...(columns.includes('pv') ? [] : ['the transmitter’s own value']),
    ...(columns.includes('loopCurrent_mA') ? [] : ['the current']),
    ...(columns.includes('controller') || !stageOf(task.stages, 'controller') ? [] : ['the controller']),
  ]
  const suspect = suspectOf(task, used)
  const verdict = verdictOf(judgement)
  if (verdict === 'PASS' && suspect?.state !== 'OUT')
    return {
      judgement,
      where: `What was read follows what was applied.${unread.length > 0 ? ` Not read, so not judged: ${unread.join(', ')}.` : ''}`,
      what: null,
      causes: [],
      act: ACTION_SAYS.none,
      next:
        judgement.missing.length > 0
          ? `Read the other ${judgement.missing.length} points too.`
          : unread.length > 0
            ? `Read ${unread.at(-1) ?? ''} at one point, then it is known to its end.`
            : 'Nothing. For the record it is verified with its instruments named.',
    }
  if (verdict === null)
    return {
      judgement,
      where: 'Not judged before that was looked at again.',
      what: null,
      causes: [],
      act: 'Change nothing yet.',
      next: 'Read that point again.',
    }
  if (!suspect)
    return {
      judgement,
      where: 'Every part that was read is inside; together they are not.',
      what: null,
      causes: [],
      act: decided(task, used) ?? 'Change nothing yet.',
      next:
        unread.length > 0
          ? `Read ${unread[0] ?? ''} at every point.`
          : 'Read again, with better instruments.',
    }
  const first = suspect.explanation ? toldShapes(suspect.explanation)[0] : undefined
  const chain = documentedChain(task.stages, task.needsRoot)
  const isReceiver = suspect.from === 'MA'
  return {
    judgement,
    where: `The error comes in between ${name(suspect.from)} and ${name(suspect.to)}.`,
    what:
      suspect.explanation && suspect.explanation.state === 'RANKED' && chain
        ? sayExplanation(suspect.explanation, printedUnit(scaleAt(chain, suspect.to).unit))
        : 'More points are needed to name it.',
    causes: first ? causesOf(suspect.links, first.shape) : [],
    act: isReceiver
      ? 'Leave the transmitter alone: its current is right. Compare range, unit, codes and shunt of the receiver with the sheet.'
      : suspect.to === 'MA' && suspect.from === 'IN'
        ? actFor(first?.shape ?? null, task.absolute)
        : (decided(task, used) ?? actFor(first?.shape ?? null, task.absolute)),
    next: nextFor(suspect, task.stages),
  }
}
