import type { Strokes } from './pixels.ts'
import { deviationOf, merged, type Summary, summaryOf } from './summary.ts'

/** Rows of which one summary is held. */
export const CHUNK = 64

/** Rows of one block: what is written and read at a time. */
export const BLOCK = 64 * CHUNK
/** Numbers of a row: time and value; NaN where there is no value. */
const ROW = 2
/** Bytes of a row of a block. */
export const ROW_BYTES = ROW * 8

/** Numbers kept of a chunk: count, earliest, latest, then of its values min, max, mean, squares about it. */
const HELD = 7

/** Rows of one channel as they are kept: samples, and for each 64 of them what is needed to draw and to sum up. */
export interface Block {
  readonly rows: number
  readonly from: number
  readonly to: number
  /** Time and value of each row, one after the other. */
  readonly samples: Float64Array
  readonly chunks: Float64Array
}

/** Puts rows into a block. @param v - NaN: no value */
export function blockOf(t: ArrayLike<number>, v: ArrayLike<number>): Block {
  const rows = t.length
  const samples = new Float64Array(rows * ROW)
  const chunks = new Float64Array(Math.ceil(rows / CHUNK) * HELD)
  let [from, to] = [Infinity, -Infinity]
  for (let i = 0; i < rows; i++) {
    samples[2 * i] = t[i] ?? NaN
    samples[2 * i + 1] = v[i] ?? NaN
  }
  for (let k = 0; k * CHUNK < rows; k++) {
    const vs: number[] = []
    let [earliest, latest] = [Infinity, -Infinity]
    for (let i = k * CHUNK; i < Math.min(rows, (k + 1) * CHUNK); i++) {
      const [time, value] = [t[i] ?? NaN, v[i] ?? NaN]
      earliest = Math.min(earliest, time)
      latest = Math.max(latest, time)
      if (!Number.isNaN(value)) vs.push(value)
    }
    from = Math.min(from, earliest)
    to = Math.max(to, latest)
    const s = summaryOf(vs)
    chunks.set([s?.count ?? 0, earliest, latest], k * HELD)
    if (s) chunks.set([s.min, s.max, s.mean, s.m2], k * HELD + 3)
  }
  return { rows, from, to, samples, chunks }
}

/** What all chunks of a log hold together: count, mean, squares about it, ends; null of none. */
export function summedUp(chunks: Float64Array, from = -Infinity, to = Infinity) {
  let whole: Summary | null = null
  for (let at = 0; at < chunks.length; at += HELD) {
    const count = chunks[at] ?? 0
    if (count === 0 || (chunks[at + 1] ?? 0) < from || (chunks[at + 2] ?? 0) > to) continue
    const [min = 0, max = 0, mean = 0, m2 = 0] = chunks.subarray(at + 3, at + HELD)
    const chunk = { count, min, max, mean, m2 }
    whole = whole ? merged(whole, chunk) : chunk
  }
  if (!whole) return null
  const { count, mean, min, max } = whole
  return { n: count, mean, sd: deviationOf(whole), min, max }
}

/** Whether no chunk begins or ends before the one before it. */
export function isRising(chunks: Float64Array): boolean {
  for (let at = HELD; at < chunks.length; at += HELD)
    if (!((chunks[at + 1] ?? NaN) >= (chunks[at + 1 - HELD] ?? NaN))) return false
    else if (!((chunks[at + 2] ?? NaN) >= (chunks[at + 2 - HELD] ?? NaN))) return false
  return true
}

/** The first chunk of rising ones of which a number is at least, or more than, a limit. */
function firstOf(chunks: Float64Array, number: 1 | 2, reached: (x: number) => boolean): number {
  let [low, high] = [0, chunks.length / HELD]
  while (low < high) {
    const middle = (low + high) >> 1
    if (reached(chunks[middle * HELD + number] ?? NaN)) high = middle
    else low = middle + 1
  }
  return low
}

/** Chunks of which one is made for views of much. */
const TOGETHER = 16

/** Of every 16 chunks one: what is needed to draw a long stretch without looking at each of them. */
export function coarser(chunks: Float64Array): Float64Array {
  const all = chunks.length / HELD
  const coarse = new Float64Array(Math.ceil(all / TOGETHER) * HELD)
  for (let k = 0; k < all; k++) {
    const [at, to] = [k * HELD, Math.floor(k / TOGETHER) * HELD]
    const begins = k % TOGETHER === 0
    const take = (n: number, of: (a: number, b: number) => number) => {
      const x = chunks[at + n] ?? NaN
      coarse[to + n] = begins ? x : of(coarse[to + n] ?? NaN, x)
    }
    take(1, Math.min)
    take(2, Math.max)
    if ((chunks[at] ?? 0) === 0) continue
    const [seen, min, max] = [(coarse[to] ?? 0) > 0, chunks[at + 3] ?? NaN, chunks[at + 4] ?? NaN]
    coarse[to + 3] = seen ? Math.min(coarse[to + 3] ?? NaN, min) : min
    coarse[to + 4] = seen ? Math.max(coarse[to + 4] ?? NaN, max) : max
    coarse[to] = (coarse[to] ?? 0) + (chunks[at] ?? 0)
  }
  return coarse
}

/** Puts those that lie wholly inside one pixel into it; places of those that lie across the edge of one. */
function wholeOnes(
  held: Float64Array,
  strokes: Strokes,
  begin: number,
  end: number,
  across: number[],
): boolean {
  let whole = false
  for (let k = begin, at = begin * HELD; k < end; k++, at += HELD) {
    const earliest = held[at + 1] ?? NaN
    const latest = held[at + 2] ?? NaN
    if ((held[at] ?? 0) === 0 || latest < strokes.from || earliest > strokes.to) continue
    const pixel = strokes.at(earliest)
    if (pixel >= 0 && pixel === strokes.at(latest)) {
      strokes.put(pixel, held[at + 3] ?? NaN, held[at + 4] ?? NaN)
      whole = true
    } else across.push(k)
  }
  return whole
}

/** Whether something of it may stand out of what is drawn without it, in one of its pixels. */
function standsOut(held: Float64Array, strokes: Strokes, k: number): boolean {
  const at = k * HELD
  const [min, max] = [held[at + 3] ?? NaN, held[at + 4] ?? NaN]
  const last = strokes.at(Math.min(held[at + 2] ?? NaN, strokes.to))
  for (let p = strokes.at(Math.max(held[at + 1] ?? NaN, strokes.from)); p <= last; p++)
    if (min < (strokes.min[p] ?? 0) || max > (strokes.max[p] ?? 0)) return true
  return false
}

/**
 * Puts the chunks of a log that lie wholly inside one pixel into it.
 * @param coarse - of the same chunks, see `coarser`
 * @param rising - they rise: those that are seen are found without looking at all
 * @returns whether there were any, and places of the chunks whose own samples are needed: they lie across the edge of
 * a pixel, and something of theirs may stand out of what is drawn in one of its pixels without them
 */
export function chunksIntoStrokes(
  chunks: Float64Array,
  coarse: Float64Array,
  strokes: Strokes,
  rising = false,
): { readonly whole: boolean; readonly cut: readonly number[] } {
  const begin = rising ? firstOf(coarse, 2, (latest) => latest >= strokes.from) : 0
  const end = rising ? firstOf(coarse, 1, (earliest) => earliest > strokes.to) : coarse.length / HELD
  const [opened, across]: [number[], number[]] = [[], []]
  let whole = wholeOnes(coarse, strokes, begin, end, opened)
  for (const k of opened)
    if (standsOut(coarse, strokes, k)) {
      const last = Math.min((k + 1) * TOGETHER, chunks.length / HELD)
      if (wholeOnes(chunks, strokes, k * TOGETHER, last, across)) whole = true
    }
  return { whole, cut: across.filter((k) => standsOut(chunks, strokes, k)) }
}

/** Times and values of rows from..to, nulls where there is no value. */
export function channelOf(samples: Float64Array, from = -Infinity, to = Infinity) {
  const [t, v]: [number[], (number | null)[]] = [[], []]
  for (let i = 0; i < samples.length; i += ROW) {
    const time = samples[i] ?? NaN
    if (!(time >= from && time <= to)) continue
    const value = samples[i + 1] ?? NaN
    t.push(time)
    v.push(Number.isNaN(value) ? null : value)
  }
  return { t, v }
}
