import { Generator } from '../../statistics/generator.ts'
import type { LogFindingCode } from '../findings/finding.ts'
import { rounded, T0 } from './series.ts'

/** A made-up log with one fault of a size that must be found, or none. */
export interface FaultyLog {
  readonly t: number[]
  readonly v: number[]
  readonly q?: number[]
  readonly range?: { readonly lo: number; readonly hi: number }
  /** Where the fault begins, index; −1: of the whole. */
  readonly at: number
  /** Its size, where it has one. */
  readonly size: number
}

const pick = <T>(g: Generator, xs: readonly T[]): T => xs[Math.floor(g.uniform() * xs.length)] ?? (xs[0] as T)
const between = (g: Generator, a: number, b: number) => a + (b - a) * g.uniform()

/** Noise in which neighbours are alike, at a level, with a resolution fit for it. */
function quiet(g: Generator) {
  const n = Math.floor(between(g, 3000, 8000))
  const phi = g.uniform() < 0.33 ? 0 : between(g, 0.2, 0.97)
  const [level, sd] = [between(g, 20, 400), between(g, 0.05, 2)]
  const a: number[] = []
  let x = g.normal()
  for (let i = 0; i < n; i++) {
    x = phi * x + Math.sqrt(1 - phi * phi) * g.normal()
    a.push(x)
  }
  const differences = sd * Math.sqrt(2 * (1 - phi))
  const step = 10 ** Math.floor(Math.log10(between(g, 0.05, 0.5) * differences))
  return { n, phi, level, sd, a, step, differences, inflated: (1 + phi) / (1 - phi) }
}

/**
 * A log with one fault by its code, sized as the rules promise to find; `null`: without any.
 * @param seed - the same seed gives the same log
 */
export function faultyLog(seed: number, code: LogFindingCode | null): FaultyLog {
  const g = new Generator(seed)
  const q = quiet(g)
  const { n, sd, level } = q
  const at = Math.floor(between(g, 0.2, 0.8) * n)
  const sign = g.uniform() < 0.5 ? -1 : 1
  const t = Array.from({ length: n }, (_, i) => T0 + i * 1000)
  let v = q.a.map((x) => level + sd * x)
  let size = 0
  let range: FaultyLog['range']
  let quality: number[] | undefined
  const rest = (f: (x: number, i: number) => number) => {
    v = v.map(f)
  }
  const round = () => {
    rest((x) => rounded(x, q.step))
  }
  switch (code) {
    case 'STEP':
      size = sign * Math.max(3, 36 * Math.sqrt(q.inflated / n)) * sd * between(g, 1, 1.5)
      rest((x, i) => (i < at ? x : x + size))
      break
    case 'DRIFT':
      size = sign * Math.max(4, 60 * Math.sqrt(q.inflated / n)) * sd * between(g, 1, 1.5)
      rest((x, i) => x + (size * i) / (n - 1))
      break
    case 'NOISE_CHANGED':
      size = between(g, 2, 4)
      v = q.a.map((x, i) => level + sd * x * (i < at ? 1 : size))
      break
    case 'PERIODIC': {
      const period = between(g, 20, n / 15)
      const S = (1 - q.phi ** 2) / (1 + q.phi ** 2 - 2 * q.phi * Math.cos((2 * Math.PI) / period))
      const amplitude = Math.max(0.8, 1.6 * Math.sqrt((4 * 1.5 * 60 * S) / n)) * sd
      size = period
      rest((x, i) => x + amplitude * Math.sin((2 * Math.PI * i) / period))
      break
    }
    case 'UNIT_CHANGED':
      size = pick(g, [1000, 10, 60, 3.6, 14.5037738, 6.894757, 4.402868, 3.785411784, 2.204623, 25.4])
      if (sign < 0) size = 1 / size
      break
  }
  round()
  switch (code) {
    case 'UNIT_CHANGED':
      rest((x, i) => (i < at ? x : x * size))
      break
    case 'SPIKE':
      size = sign * 15 * sd
      rest((x, i) => (i === at ? x + size : x))
      break
    case 'FROZEN': {
      const held = v[at] ?? 0
      rest((x, i) => (i >= at && i < at + 150 ? held : x))
      break
    }
    case 'QUANTISED': {
      const coarse = Math.ceil(2 * q.differences * 10) / 10
      size = coarse
      v = q.a.map((x) => coarse * Math.round((level + sd * x) / coarse))
      break
    }
    case 'AT_LIMIT': {
      const limit = level + between(g, 0.2, 0.9) * sd
      size = rounded(limit, q.step)
      rest((x) => Math.min(x, size))
      break
    }
    case 'OUT_OF_RANGE':
      range = { lo: level - 8 * sd, hi: level + 8 * sd }
      rest((x, i) => (i >= at && i < at + 60 ? x + 13 * sd : x))
      break
    case 'SIGNAL_LOW':
      quality = t.map((_, i) => (i >= at && i < at + 45 ? 30 : 90))
      break
    case 'DUPLICATE':
      t[at] = t[at - 1] ?? 0
      break
    case 'BACKWARDS':
      for (let i = at; i < n; i++) t[i] = (t[i] ?? 0) - 60_500
      break
    case 'GAP':
      t.splice(at, 12)
      v.splice(at, 12)
      break
  }
  return { t, v, ...(quality ? { q: quality } : {}), ...(range ? { range } : {}), at, size }
}
