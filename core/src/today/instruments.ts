import { convertRangeEnd, differenceIn } from '../quantity/units.ts'
import { LEAST_RATIO } from '../procedure/instruments.ts'
import { equipmentU, type EquipmentFunction } from '../verify/equipment-spec.ts'
import type { JobNeed } from './job.ts'

/** An instrument of the plant, with what its certificate says it can do. */
export interface PlantInstrument {
  readonly id: string
  /** As people call it; no other has it. */
  readonly label: string
  readonly functions: readonly EquipmentFunction[]
  /** Last day of its certificate. */
  readonly dueOn: string
}

/** The planner's ratio is of the allowed error to a standard uncertainty, ours to the expanded one (k = 2). */
const RATIO = 2 * LEAST_RATIO

/** Units that can stand for each other, by the first of them that was asked for. */
export function unitClasses(needs: readonly JobNeed[]): readonly string[] {
  const out: string[] = []
  for (const { unit } of needs)
    if (!out.some((u) => convertRangeEnd(1, unit, u).kind === 'value')) out.push(unit)
  return out
}
const classOf = (classes: readonly string[], unit: string): string | null =>
  classes.find((u) => convertRangeEnd(1, unit, u).kind === 'value') ?? null

const inUnit = (x: number, from: string, to: string): number => {
  const told = convertRangeEnd(x, from, to)
  return told.kind === 'value' ? told.value : NaN
}

/** A need as the planner asks: kind and unit are the unit of its class. */
export function needForPlan(classes: readonly string[], n: JobNeed) {
  const unit = classOf(classes, n.unit)
  if (unit === null) return null
  const ends = [inUnit(n.low, n.unit, unit), inUnit(n.high, n.unit, unit)]
  return {
    kind: unit,
    unit,
    lo: Math.min(...ends),
    hi: Math.max(...ends),
    // A hair more: exactly three times better is three times better, whatever a conversion rounds.
    tolerance: (differenceIn(n.allowed, n.unit, unit) ?? 0) * (1 + 1e-9),
    ratio: RATIO,
  }
}

/** A hair beyond the end is the rounding of a conversion, not another range. */
const SLACK = 1e-6

/**
 * An instrument as the planner knows it, once for each kind of thing that is asked for and that it can do. Of several
 * ranges the one that is known best and takes the most of what is asked for.
 * @param highest - the largest value that is asked for in each class: there its uncertainty is told
 */
export function instrumentsForPlan(
  all: readonly PlantInstrument[],
  classes: readonly string[],
  highest: ReadonlyMap<string, number>,
) {
  return all.flatMap((x) => {
    const seen = new Set<string>()
    return x.functions
      .flatMap((f) => {
        const unit = classOf(classes, f.unit)
        if (unit === null || !f.uncertainty) return []
        const at = Math.min(f.high, inUnit(highest.get(unit) ?? 0, unit, f.unit))
        const u = differenceIn(equipmentU(f, at), f.unit, unit) ?? 0
        const [lo, hi] = [inUnit(f.low, f.unit, unit), inUnit(f.high, f.unit, unit)]
        const hair = SLACK * (hi - lo)
        return u > 0 ? [{ unit, lo: Math.min(lo, hi) - hair, hi: Math.max(lo, hi) + hair, u }] : []
      })
      .sort((a, b) => b.hi - b.lo - (a.hi - a.lo) || a.u - b.u)
      .flatMap((f) => {
        if (seen.has(f.unit)) return []
        seen.add(f.unit)
        const id = seen.size === 1 ? x.label : `${x.label} (${f.unit})`
        return [{ id, of: x.id, kind: f.unit, ...f, dueOn: x.dueOn }]
      })
  })
}
