import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import type { Range } from '../signal/stage.ts'
import type { LoopScale, Reading } from './reading-errors.ts'

/** A standard is rarely set further than this outside the range; a slipped decimal nearly always is. */
const OUTSIDE_PCT = 15
/** No device that still measures is off by this much: rather a unit, a decimal or a wrong column. */
const FAR_PCT = 25
const LARGEST_LOOP_MA = 25

const pct = (r: Range, v: number) => (100 * (v - r.low)) / (r.high - r.low)
const outside = (r: Range, v: number) => pct(r, v) < -OUTSIDE_PCT || pct(r, v) > 100 + OUTSIDE_PCT

/** Asks about values that look like a slip: kept as typed, only asked about. */
export function plausibility(scale: LoopScale, r: Reading): Finding[] {
  const { input, output } = scale
  const ask = (where: string, says: string): Finding => ({
    code: 'IMPLAUSIBLE',
    severity: 'warn',
    where: [where],
    says,
  })
  const range = (x: Range) => `${sayNumber(x.low)} to ${sayNumber(x.high)} ${printedUnit(x.unit)}`
  const out: Finding[] = []
  if (r.applied !== null && outside(input, r.applied))
    out.push(
      ask(
        'applied',
        `${sayNumber(r.applied)} ${printedUnit(input.unit)} is far outside the range ${range(input)}. Are decimal and unit right?`,
      ),
    )
  else if (
    r.applied !== null &&
    r.pv !== null &&
    Math.abs(pct(input, r.pv) - pct(input, r.applied)) > FAR_PCT
  )
    out.push(
      ask(
        'pv',
        `The transmitter’s ${sayNumber(r.pv)} is far from the applied ${sayNumber(r.applied)} ${printedUnit(input.unit)}. Are decimal, unit and column right?`,
      ),
    )
  if (r.loopCurrent_mA !== null && (r.loopCurrent_mA < 0 || r.loopCurrent_mA > LARGEST_LOOP_MA))
    out.push(
      ask(
        'loopCurrent_mA',
        r.loopCurrent_mA < 0
          ? `A loop current of ${sayNumber(r.loopCurrent_mA)} mA has a minus sign: the meter’s leads are swapped.`
          : `${sayNumber(r.loopCurrent_mA)} mA is more than a loop carries. Is the decimal point right?`,
      ),
    )
  if (r.controller !== null && outside(output, r.controller))
    out.push(
      ask(
        'controller',
        `${sayNumber(r.controller)} ${printedUnit(output.unit)} is far outside ${range(output)}. Are decimal and unit right?`,
      ),
    )
  return out
}
