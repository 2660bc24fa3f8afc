import { CHUNK, chunksIntoPixels, channelOf, samplesIntoPixels, summedUp } from '@calm/core/logs/blocks'
import { Pixels } from '@calm/core/logs/pixels'
import type { LogView } from '@calm/contract/logs'
import type pg from 'pg'
import { type Chunks, chunksOf, samplesOfChunks } from './samples.ts'

/** Chunks of logs that were looked at lately: a kept log never changes. */
const HELD_BYTES = 96 * 1024 * 1024

const DIGITS = 7
/** To so many digits, as they are sent; a text for each of two thousand numbers would take longer than to find them. */
export function rounded(x: number | null): number | null {
  if (x === null || x === 0 || !Number.isFinite(x)) return x
  const places = DIGITS - 1 - Math.floor(Math.log10(Math.abs(x)))
  if (places < 0) return Math.round(x / 10 ** -places) * 10 ** -places
  return places > 22 ? Number(x.toPrecision(DIGITS)) : Math.round(x * 10 ** places) / 10 ** places
}

/** Draws stretches of logs from what is held of their chunks, and the few samples at the edges of pixels. */
export function logViews(pool: pg.Pool) {
  const held = new Map<string, Promise<Chunks>>()
  const sizes = new Map<string, number>()
  const hold = (log: string, channel: number): Promise<Chunks> => {
    const key = `${log} ${channel}`
    const known = held.get(key)
    held.delete(key)
    const chunks = known ?? chunksOf(pool, { log, channel })
    held.set(key, chunks)
    if (!known)
      void chunks.then(
        (c) => {
          sizes.set(key, c.chunks.byteLength)
          let all = [...sizes.values()].reduce((a, b) => a + b, 0)
          for (const oldest of held.keys()) {
            if (all <= HELD_BYTES || oldest === key) break
            all -= sizes.get(oldest) ?? 0
            held.delete(oldest)
            sizes.delete(oldest)
          }
        },
        () => held.delete(key),
      )
    return chunks
  }
  return {
    /** Sums of a stretch, from its chunks alone. */
    sums: async (log: string, channel: number, from: number, to: number) =>
      summedUp((await hold(log, channel)).chunks, from, to),
    view: async (log: string, channel: number, from: number, to: number, width: number): Promise<LogView> => {
      const c = await hold(log, channel)
      const pixels = new Pixels(from, to, width)
      const cut = chunksIntoPixels(c.chunks, pixels, c.rising)
      const whole = pixels.count.reduce((a, b) => a + b, 0)
      // Everything is cut and it is little: the samples themselves.
      if (whole === 0 && cut.length * CHUNK <= 2 * width) {
        const { t, v } = channelOf(await samplesOfChunks(pool, { log, channel }, c, cut), from, to)
        return { from, to, kind: 'samples', t: t.map((x) => x - from), min: v, max: [] }
      }
      samplesIntoPixels(await samplesOfChunks(pool, { log, channel }, c, cut), pixels)
      const shown = pixels.shown()
      return {
        from,
        to,
        kind: 'pixels',
        t: [],
        min: shown.map((p) => rounded(p.min)),
        max: shown.map((p) => rounded(p.max)),
      }
    },
  }
}

export type LogViews = ReturnType<typeof logViews>
