import type { Pixels } from './pixels.ts'
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

/**
 * Puts the chunks of a log that lie wholly inside one pixel into it.
 * @param rising - they rise: those that are seen are found without looking at all
 * @returns places of the chunks whose own samples are needed: they lie across the edge of a pixel
 */
export function chunksIntoPixels(chunks: Float64Array, pixels: Pixels, rising = false): number[] {
  const cut: number[] = []
  const begin = rising ? firstOf(chunks, 2, (latest) => latest >= pixels.from) : 0
  const end = rising ? firstOf(chunks, 1, (earliest) => earliest > pixels.to) : chunks.length / HELD
  for (let k = begin, at = begin * HELD; k < end; k++, at += HELD) {
    const count = chunks[at] ?? 0
    const earliest = chunks[at + 1] ?? NaN
    const latest = chunks[at + 2] ?? NaN
    if (count === 0 || latest < pixels.from || earliest > pixels.to) continue
    const pixel = pixels.at(earliest)
    if (pixel >= 0 && pixel === pixels.at(latest))
      pixels.put(pixel, count, chunks[at + 3] ?? NaN, chunks[at + 4] ?? NaN, chunks[at + 5] ?? NaN)
    else cut.push(k)
  }
  return cut
}

/** Puts single samples into their pixels. */
export function samplesIntoPixels(samples: Float64Array, pixels: Pixels): void {
  for (let i = 0; i < samples.length; i += ROW) {
    const value = samples[i + 1] ?? NaN
    if (!Number.isNaN(value)) pixels.put(pixels.at(samples[i] ?? NaN), 1, value, value, value)
  }
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
