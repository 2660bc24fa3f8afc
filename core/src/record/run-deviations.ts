import type { LoopDocument } from '../loop/document.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import type { Range } from '../signal/stage.ts'
import { combine } from '../statistics/budget.ts'
import { comparisonBudget, NO_EXTRAS, type KnownInstrument } from '../verify/comparison-budget.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { sayTolerance } from '../verify/tolerance.ts'
import { appliedSpan } from './applied-law.ts'
import { canonicalJson } from './canonical-json.ts'
import type { RunStartedPayload } from './kinds/run-started.ts'

/** Where a verification is judged by something else than the recorded loop, or reckons with less than the register says. */
export interface RunDeviation {
  /** Field of the run's beginning. */
  readonly path: 'tolerance' | 'inputRange' | 'outputRange' | 'U_pct'
  readonly says: string
}

const same = (a: unknown, b: unknown): boolean => canonicalJson(a) === canonicalJson(b)
const sayRange = (r: Range) => `${sayNumber(r.low)} to ${sayNumber(r.high)} ${printedUnit(r.unit)}`
/** Figures that were rounded on their way are not another statement. */
const ROUNDING = 1e-6
/** A half width from trials scatters about the formula's, and may honestly differ where the formula fails. */
const LEAST_SHARE_BY_TRIALS = 0.5

/**
 * What a verification's beginning says differently from the revision it names and from the instruments' certificates
 * in the register. Nothing here is forbidden; it needs a reason, and stands on every paper.
 */
export function runDeviations(
  started: RunStartedPayload,
  document: LoopDocument,
  instruments: readonly KnownInstrument[],
): RunDeviation[] {
  const out: RunDeviation[] = []
  const scale = loopScale(document.path)
  if (!document.tolerance) out.push({ path: 'tolerance', says: 'The loop’s document holds no tolerance.' })
  else if (!same(started.tolerance, document.tolerance))
    out.push({
      path: 'tolerance',
      says: `Judged by ${sayTolerance(started.tolerance, started.outputRange.unit)}; revision ${started.revision} of the loop says ${sayTolerance(document.tolerance, scale?.output.unit ?? started.outputRange.unit)}.`,
    })
  for (const [path, told, recorded] of [
    ['inputRange', started.inputRange, scale?.input],
    ['outputRange', started.outputRange, scale?.output],
  ] as const)
    if (!recorded) out.push({ path, says: 'The loop’s document holds no range.' })
    else if (!same(told, { low: recorded.low, high: recorded.high, unit: recorded.unit }))
      out.push({
        path,
        says: `${path === 'inputRange' ? 'Transmitter' : 'Receiver'} taken as ${sayRange(told)}; revision ${started.revision} of the loop says ${sayRange(recorded)}.`,
      })
  const budget = started.budget
  const made =
    scale &&
    comparisonBudget(
      scale,
      instruments,
      NO_EXTRAS,
      started.applies ? appliedSpan(started.applies, started.inputRange) : null,
    )
  // A figure that somebody knows belongs to a standard as well: one that gives what is applied.
  if (made && started.U_pct > 0 && made.unknownApplied !== null)
    out.push({ path: 'U_pct', says: `U is stated. ${made.unknownApplied}` })
  if (budget && made) {
    const U = budget.lines.length > 0 ? combine(budget.lines).U : 0
    const least = budget.method === 'trials' ? LEAST_SHARE_BY_TRIALS * U : U * (1 - ROUNDING)
    const most = budget.method === 'trials' ? U / LEAST_SHARE_BY_TRIALS : U * (1 + ROUNDING)
    if (!(started.U_pct >= Math.min(50, least) && started.U_pct <= most))
      out.push({
        path: 'U_pct',
        says: `U is stated as ${sayNumber(started.U_pct, 3)} % of span; its own lines make ${sayNumber(U, 3)} %.`,
      })
    for (const line of made.lines) {
      const told = budget.lines.find((l) => l.title === line.title)
      const size = told ? told.value * Math.abs(told.c) : 0
      if (size < line.value * Math.abs(line.c) * (1 - ROUNDING))
        out.push({
          path: 'U_pct',
          says: `${line.title} is reckoned ${told ? 'smaller than' : 'not at all, against'} ${sayNumber(line.value, 3)} ${line.unit} in the register.`,
        })
    }
  }
  return out
}
