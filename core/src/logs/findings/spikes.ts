import { median } from '../../numeric/median.ts'
import { joinedRuns, type LogFinding, type Values } from './finding.ts'

const AROUND = 4
const CHUNK = 64
const OUTLIERS = 4
const FEWEST_FOR_SCALE = 20
const LONGEST = 4

/** Median of the nine values around each; at the ends of as many on both sides as there are: a slope is no spike. */
function medianOfNine(x: Float64Array): Float64Array {
  const out = new Float64Array(x.length)
  const window: number[] = []
  for (let i = 0; i < x.length; i++) {
    window.length = 0
    const around = Math.min(AROUND, i, x.length - 1 - i)
    for (let k = i - around; k <= i + around; k++) {
      // Kept in order by insertion: nine are too few for a sort.
      const value = x[k] ?? 0
      let at = window.length
      window.push(value)
      while (at > 0 && (window[at - 1] ?? 0) > value) {
        window[at] = window[at - 1] ?? 0
        at--
      }
      window[at] = value
    }
    const half = window.length >> 1
    const upper = window[half] ?? 0
    out[i] = window.length % 2 === 1 ? upper : (upper + (window[half - 1] ?? 0)) / 2
  }
  return out
}

/** Scatter of the residuals of each chunk without its four largest; NaN where too few are there. */
function scales(r: Float64Array, isCounted: (i: number) => boolean): Float64Array {
  const out = new Float64Array(Math.ceil(r.length / CHUNK)).fill(NaN)
  for (let c = 0; c < out.length; c++) {
    const squares: number[] = []
    for (let i = c * CHUNK; i < Math.min(r.length, (c + 1) * CHUNK); i++)
      if (isCounted(i)) squares.push((r[i] ?? 0) ** 2)
    if (squares.length < FEWEST_FOR_SCALE) continue
    squares.sort((a, b) => a - b)
    const kept = squares.slice(0, -OUTLIERS)
    out[c] = 1.2 * Math.sqrt(kept.reduce((a, b) => a + b, 0) / kept.length)
  }
  const middle = median(out.filter((x) => !Number.isNaN(x)))
  return out.map((x) => (Number.isNaN(x) ? (Number.isNaN(middle) ? 0 : middle) : x))
}

/**
 * One to four values that stand out from the nine around them.
 * @param least - scatter that is taken at least: half a step of a quantised log, what computing leaves
 * @returns the findings, and the values with each spike replaced by its median
 */
export function spikes(
  s: Values,
  spikeK: number,
  least: number,
  limits: readonly number[],
): { readonly found: readonly LogFinding[]; readonly values: Values } {
  const mid = medianOfNine(s.x)
  const r = s.x.map((x, i) => x - (mid[i] ?? 0))
  const own = scales(r, (i) => !limits.includes(s.x[i] ?? NaN))
  const overall = median(own)
  const scaleAt = own.map((_, c) => Math.max(overall, own[c - 1] ?? 0, own[c] ?? 0, own[c + 1] ?? 0, least))
  const isOut = (i: number) => Math.abs(r[i] ?? 0) > spikeK * (scaleAt[Math.floor(i / CHUNK)] ?? 0)
  const x = s.x.slice()
  const found = joinedRuns(s.n, isOut, 1)
    .filter((run) => run.count <= LONGEST)
    .map(({ from, to, count }): LogFinding => {
      let size = 0
      for (let i = from; i <= to; i++) {
        if (Math.abs(r[i] ?? 0) > Math.abs(size)) size = r[i] ?? 0
        if (isOut(i)) x[i] = mid[i] ?? 0
      }
      return { code: 'SPIKE', from: s.t[from] ?? 0, to: s.t[to] ?? 0, evidence: { size, samples: count } }
    })
  return { found, values: { ...s, x } }
}
