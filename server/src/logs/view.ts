import { CHUNK, chunksIntoStrokes, channelOf, summedUp } from '@calm/core/logs/blocks'
import { Strokes } from '@calm/core/logs/pixels'
import type { LogView } from '@calm/contract/logs'
import { LRUCache } from 'lru-cache'
import type pg from 'pg'
import { joined } from './floats.ts'
import { type Chunks, chunksOf, samplesOfChunks, type Stretch } from './samples.ts'

/** Of logs that were looked at lately: a kept log never changes. */
const CHUNKS_BYTES = 96 * 1024 * 1024
/** Whoever pans asks for nearly the same samples again. */
const SAMPLES_BYTES = 64 * 1024 * 1024

const DIGITS = 7
/** To so many digits, as they are sent; a text for each of two thousand numbers would take longer than to find them. */
export function rounded(x: number): number {
  if (x === 0 || !Number.isFinite(x)) return x
  const places = DIGITS - 1 - Math.floor(Math.log10(Math.abs(x)))
  if (places < 0) return Math.round(x / 10 ** -places) * 10 ** -places
  return places > 22 ? Number(x.toPrecision(DIGITS)) : Math.round(x * 10 ** places) / 10 ** places
}

/** No channel has as many rows: a chunk's place among them and its own number make one key. */
const MOST_CHUNKS = 2 ** 24

/** Draws stretches of logs from what is held of their chunks, and the few samples at the edges of pixels. */
export function logViews(pool: pg.Pool) {
  let channelsHeld = 0
  const channels = new LRUCache<string, Chunks & { readonly number: number }, Stretch>({
    maxSize: CHUNKS_BYTES,
    sizeCalculation: (c) => Math.max(1, c.chunks.byteLength + c.coarse.byteLength),
    fetchMethod: async (_key, _stale, { context }) => ({
      ...(await chunksOf(pool, context)),
      number: channelsHeld++,
    }),
  })
  const samples = new LRUCache<number, Float64Array>({
    maxSize: SAMPLES_BYTES,
    sizeCalculation: (s) => Math.max(1, s.byteLength),
  })
  const hold = (log: string, channel: number) =>
    channels.forceFetch(`${log} ${channel}`, { context: { log, channel } })
  /** Samples of some chunks in their order; those that are not at hand in one question. */
  async function samplesAt(log: string, channel: number, places: readonly number[]) {
    const c = await hold(log, channel)
    const first = c.number * MOST_CHUNKS
    const held = places.map((k) => samples.get(first + k))
    const missing = places.filter((_, i) => held[i] === undefined)
    const asked = (await samplesOfChunks(pool, { log, channel }, c, missing)).values()
    return places.flatMap((k, i) => {
      const here = held[i]
      const got = here ?? asked.next().value
      if (!here && got) samples.set(first + k, got)
      return got ?? []
    })
  }
  return {
    /** Sums of a stretch, from its chunks alone. */
    sums: async (log: string, channel: number, from: number, to: number) =>
      summedUp((await hold(log, channel)).chunks, from, to),
    view: async (log: string, channel: number, from: number, to: number, width: number): Promise<LogView> => {
      const c = await hold(log, channel)
      const strokes = new Strokes(from, to, width)
      const { whole, cut } = chunksIntoStrokes(c.chunks, c.coarse, strokes, c.rising)
      const at = await samplesAt(log, channel, cut)
      // Everything is cut and it is little: the samples themselves.
      if (!whole && cut.length * CHUNK <= 2 * width) {
        const { t, v } = channelOf(joined(at), from, to)
        return { from, to, kind: 'samples', t: t.map((x) => x - from), min: v, max: [] }
      }
      for (const s of at) strokes.putRows(s)
      return { from, to, kind: 'pixels', t: [], min: shown(strokes.min), max: shown(strokes.max) }
    },
  }
}

/** What is sent of strokes: null where there is none. */
const shown = (ends: Float64Array): (number | null)[] =>
  Array.from(ends, (x) => (Number.isFinite(x) ? rounded(x) : null))

export type LogViews = ReturnType<typeof logViews>
