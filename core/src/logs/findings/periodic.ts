import { cholesky, solve } from '../../numeric/cholesky.ts'
import { powerSpectrum } from '../../numeric/fft.ts'
import { median } from '../../numeric/median.ts'
import type { LogFinding, Values } from './finding.ts'

const MOST_POINTS = 32_768
const FEWEST_PERIODS = 10
const HARMONICS = 3

/** Values without the line of least squares over time. */
function withoutLine(clock: Float64Array, x: Float64Array): Float64Array {
  const n = x.length
  let [mt, mx] = [0, 0]
  for (let i = 0; i < n; i++) {
    mt += (clock[i] ?? 0) / n
    mx += (x[i] ?? 0) / n
  }
  let [tt, tx] = [0, 0]
  for (let i = 0; i < n; i++) {
    const u = (clock[i] ?? 0) - mt
    tt += u * u
    tx += u * ((x[i] ?? 0) - mx)
  }
  const slope = tt > 0 ? tx / tt : 0
  return x.map((v, i) => v - mx - slope * ((clock[i] ?? 0) - mt))
}

/** Values by straight lines every `step` seconds, halved by means of two until few enough. */
function evenly(s: Values, step: number): { readonly x: Float64Array; readonly step: number } {
  const last = s.clock[s.n - 1] ?? 0
  let x = new Float64Array(Math.floor(last / step + 1e-9) + 1)
  for (let k = 0, i = 0; k < x.length; k++) {
    const time = k * step
    while (i + 2 < s.n && (s.clock[i + 1] ?? 0) <= time) i++
    const [t0, t1] = [s.clock[i] ?? 0, s.clock[i + 1] ?? 0]
    const [a, b] = [s.x[i] ?? 0, s.x[i + 1] ?? 0]
    x[k] = t1 > t0 ? a + ((b - a) * (time - t0)) / (t1 - t0) : a
  }
  let wide = step
  while (x.length > MOST_POINTS) {
    x = Float64Array.from({ length: x.length >> 1 }, (_, k) => ((x[2 * k] ?? 0) + (x[2 * k + 1] ?? 0)) / 2)
    wide *= 2
  }
  return { x, step: wide }
}

/** Whether the median of a stretch lies below a value: cheaper than the median, and mostly told at once. */
function medianIsBelow(I: Float64Array, from: number, to: number, value: number): boolean {
  let left = (to - from) / 2
  for (let i = from; i < to; i++) if (!((I[i] ?? 0) < value) && --left < 0) return false
  return true
}

/** How far each bin stands above what lies around it; 0 where that is not above `least`. */
function overBackground(I: Float64Array, least: number): Float64Array {
  const R = new Float64Array(I.length)
  for (let k = FEWEST_PERIODS; k < I.length; k++) {
    const w = Math.min(50, Math.max(8, Math.floor(k / 2)))
    const sides = [
      [Math.max(1, k - 3 - w), k - 3],
      [k + 4, Math.min(I.length, k + 4 + w)],
    ].filter(([from = 0, to = 0]) => to - from >= 4)
    const few = ((I[k] ?? 0) * Math.LN2) / least
    if (!sides.every(([from = 0, to = 0]) => medianIsBelow(I, from, to, few))) continue
    const background = Math.max(...sides.map(([from, to]) => median(I.subarray(from, to)))) / Math.LN2
    const ratio = background > 0 ? (I[k] ?? 0) / background : 0
    R[k] = ratio > least ? ratio : 0
  }
  return R
}

/** The wave of a frequency and its harmonics that fits best. */
function waveOf(clock: Float64Array, e: Float64Array, hz: number, nyquist: number) {
  // Not beyond half the pace of the samples, where a harmonic would be another wave.
  const size = 2 * Math.max(1, Math.min(HARMONICS, Math.ceil(nyquist / hz) - 1))
  const A = Array.from({ length: size }, () => new Array<number>(size).fill(0))
  const b = new Array<number>(size).fill(0)
  const row = new Array<number>(size).fill(0)
  // Each harmonic from the one before it: two roots of the circle for each sample, not six.
  const fill = (i: number) => {
    const angle = 2 * Math.PI * hz * (clock[i] ?? 0)
    const c = Math.cos(angle)
    const s = Math.sin(angle)
    row[0] = c
    row[1] = s
    for (let p = 2; p < size; p += 2) {
      row[p] = (row[p - 2] ?? 0) * c - (row[p - 1] ?? 0) * s
      row[p + 1] = (row[p - 1] ?? 0) * c + (row[p - 2] ?? 0) * s
    }
  }
  for (let i = 0; i < e.length; i++) {
    fill(i)
    for (let p = 0; p < size; p++) {
      b[p] = (b[p] ?? 0) + (row[p] ?? 0) * (e[i] ?? 0)
      const line = A[p]
      if (line) for (let q = 0; q <= p; q++) line[q] = (line[q] ?? 0) + (row[p] ?? 0) * (row[q] ?? 0)
    }
  }
  for (let p = 0; p < size; p++) for (let q = 0; q < p; q++) (A[q] ?? [])[p] = A[p]?.[q] ?? 0
  const fit = solve(cholesky(A), b)
  return Float64Array.from(e, (_, i) => {
    fill(i)
    let sum = 0
    for (let p = 0; p < size; p++) sum += (fit[p] ?? 0) * (row[p] ?? 0)
    return sum
  })
}

/** One frequency alone by least squares: by how much the squares fall, and its amplitude. */
function aloneAt(clock: Float64Array, e: Float64Array, hz: number) {
  let [cc, ss, cs, ec, es] = [0, 0, 0, 0, 0]
  for (let i = 0; i < e.length; i++) {
    const angle = 2 * Math.PI * hz * (clock[i] ?? 0)
    const [c, s, y] = [Math.cos(angle), Math.sin(angle), e[i] ?? 0]
    cc += c * c
    ss += s * s
    cs += c * s
    ec += y * c
    es += y * s
  }
  const det = cc * ss - cs * cs
  const [a, b] = det > 0 ? [(ss * ec - cs * es) / det, (cc * es - cs * ec) / det] : [0, 0]
  return { power: a * ec + b * es, amplitude: Math.hypot(a, b) }
}

/** Where a function is largest between two places, in 24 steps of the golden section. */
function goldenSection(f: (x: number) => number, from: number, to: number): number {
  const g = (Math.sqrt(5) - 1) / 2
  let [a, b] = [from, to]
  let [p, q] = [b - g * (b - a), a + g * (b - a)]
  let [fp, fq] = [f(p), f(q)]
  for (let i = 0; i < 24; i++) {
    if (fp > fq) {
      ;[b, q, fq] = [q, p, fp]
      p = b - g * (b - a)
      fp = f(p)
    } else {
      ;[a, p, fp] = [p, q, fq]
      q = a + g * (b - a)
      fq = f(q)
    }
  }
  return (a + b) / 2
}

/**
 * A wave that comes again at least ten times: its period, and the values without it and two harmonics.
 * @param interval_s - usual time between samples, s
 * @param least - how far its line must stand above what lies around it
 */
export function periodic(
  s: Values,
  interval_s: number,
  least: number,
): { readonly found: LogFinding; readonly values: Values } | null {
  if (!(interval_s > 0) || s.n < 64) return null
  const grid = evenly(s, interval_s)
  const N = grid.x.length
  if (N < 4 * FEWEST_PERIODS) return null
  const flat = withoutLine(
    Float64Array.from({ length: N }, (_, i) => i),
    grid.x,
  )
  const I = powerSpectrum(flat.map((x, i) => x * (0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / N))))
  const R = overBackground(I, least)
  let peak = 0
  for (let k = FEWEST_PERIODS; k < R.length; k++) if ((R[k] ?? 0) > (R[peak] ?? 0)) peak = k
  if (peak === 0) return null
  for (const part of [4, 3, 2]) {
    const near = Math.round(peak / part)
    const bins = [near - 1, near, near + 1].filter((k) => (R[k] ?? 0) > 0)
    if (bins.length === 0) continue
    peak = bins.reduce((a, b) => ((R[b] ?? 0) > (R[a] ?? 0) ? b : a))
    break
  }
  const log = (k: number) => Math.log(Math.max(1e-300, I[k] ?? 0))
  const [l, m, r] = [log(peak - 1), log(peak), log(peak + 1)]
  const shift = l - 2 * m + r < 0 ? Math.max(-0.5, Math.min(0.5, (l - r) / (2 * (l - 2 * m + r)))) : 0
  const bin = 1 / (N * grid.step)
  const e = withoutLine(s.clock, s.x)
  const at = (peak + shift) * bin
  const hz = goldenSection((f) => aloneAt(s.clock, e, f).power, at - bin / 2, at + bin / 2)
  const { amplitude } = aloneAt(s.clock, e, hz)
  const wave = waveOf(s.clock, e, hz, 1 / (2 * interval_s))
  return {
    found: {
      code: 'PERIODIC',
      from: s.t[0] ?? 0,
      to: s.t[s.n - 1] ?? 0,
      evidence: { period_s: 1 / hz, amplitude, ratio: R[peak] ?? 0 },
    },
    values: { ...s, x: s.x.map((x, i) => x - (wave[i] ?? 0)) },
  }
}
