import { median } from '../../numeric/median.ts'
import { inflation, neighbourCorrelation } from '../correlation.ts'
import type { Values } from './finding.ts'
import type { Term } from './select.ts'

/** What two units of one quantity differ by; nearer to 1 than 1.5 nothing can be told from a step of the process. */
const FACTORS = [
  1000, 100, 10, 60, 3600, 3.6, 24, 86.4, 14.5037738, 6.894757, 4.014631, 2.490889, 4.402868, 15.850323,
  3.785411784, 2.204623, 3.28084, 2.54, 25.4,
]
const CHANGES = [
  ...FACTORS.flatMap((f) => [f, 1 / f]).map((factor) => ({ factor, offset: 0 })),
  { factor: 1.8, offset: 32 },
  { factor: 1 / 1.8, offset: -32 / 1.8 },
]
const LEVEL_WITHIN = 0.02
const LEFT_OUT = 2

export interface UnitChange {
  readonly sample: number
  /** behind = before · factor + offset */
  readonly factor: number
  readonly offset: number
  /** Levels behind by before, as found. */
  readonly ratio: number
}

function partOf(x: Float64Array) {
  const middle = median(x)
  let squares = 0
  for (let i = 1; i < x.length; i++) squares += ((x[i] ?? 0) - (x[i - 1] ?? 0)) ** 2
  const e = x.map((v) => v - middle)
  const sd = Math.sqrt(e.reduce((a, b) => a + b * b, 0) / Math.max(1, x.length - 1))
  return {
    level: middle,
    moves: Math.sqrt(squares / Math.max(1, x.length - 1)),
    u: sd * Math.sqrt(inflation(neighbourCorrelation(e)) / x.length),
  }
}

/** Whether a step is one of units: level and scatter change together by what two units differ by. */
export function unitChanged(s: Values, terms: readonly Term[]): UnitChange | null {
  const steps = terms.filter((t) => t.kind === 'step').sort((a, b) => a.sample - b.sample)
  for (const [k, step] of steps.entries()) {
    const start = (steps[k - 1]?.sample ?? -LEFT_OUT) + LEFT_OUT
    const end = (steps[k + 1]?.sample ?? s.n + LEFT_OUT) - LEFT_OUT
    const [before, behind] = [
      s.x.subarray(start, step.sample - LEFT_OUT),
      s.x.subarray(step.sample + LEFT_OUT, end),
    ]
    if (before.length < 8 || behind.length < 8) continue
    const [a, b] = [partOf(before), partOf(behind)]
    if (!(a.moves > 0) || !(b.moves > 0) || a.level === 0) continue
    const scatter = b.moves / a.moves
    const fits = CHANGES.filter(({ factor, offset }) => {
      const wanted = a.level * factor + offset
      if (wanted === 0) return false
      const u = Math.hypot(b.u / wanted, (a.u * factor) / wanted)
      const within = offset === 0 ? 1.5 : 1.3
      return (
        Math.abs(b.level / wanted - 1) <= LEVEL_WITHIN + 3 * u &&
        scatter <= within * factor &&
        scatter >= factor / within
      )
    }).map((c) => ({ ...c, off: Math.abs(Math.log(b.level / (a.level * c.factor + c.offset))) }))
    const best = fits.sort((x, y) => x.off - y.off)[0]
    if (best)
      return { sample: step.sample, factor: best.factor, offset: best.offset, ratio: b.level / a.level }
  }
  return null
}
