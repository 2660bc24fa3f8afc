import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  BLOCK,
  blockOf,
  channelOf,
  CHUNK,
  chunksIntoStrokes,
  coarser,
  isRising,
  ROW_BYTES,
  summedUp,
} from './blocks.ts'
import { pixelsOf, Strokes } from './pixels.ts'
import { statisticsOf } from './statistics.ts'
import { series, T0 } from './test/series.ts'

const log = series({ n: 9000, level: 50, sd: 2, phi: 0.8, g: 0.01 })
const values = log.v.map((v, i) => (i % 97 === 0 ? NaN : v))
const blocks = [0, 1, 2].map((b) =>
  blockOf(log.t.slice(b * BLOCK, (b + 1) * BLOCK), values.slice(b * BLOCK, (b + 1) * BLOCK)),
)
const chunks = Float64Array.from(blocks.flatMap((b) => [...b.chunks]))
const samples = Float64Array.from(blocks.flatMap((b) => [...b.samples]))

describe('a log in blocks', () => {
  test('what was put in comes out, with its nulls', () => {
    expect(samples.byteLength).toBe(9000 * ROW_BYTES)
    expect(channelOf(samples, T0 + 97_000, T0 + 99_000)).toEqual({
      t: [T0 + 97_000, T0 + 98_000, T0 + 99_000],
      v: [null, log.v[98], log.v[99]],
    })
    expect([blocks[0]?.rows, blocks[2]?.rows, blocks[2]?.to]).toEqual([4096, 808, log.t.at(-1)])
  })
  test('summed up it is what its samples are', () => {
    const told = statisticsOf(channelOf(samples))
    expect(summedUp(chunks)).toEqual({
      n: told?.n,
      mean: expect.closeTo(told?.mean ?? 0, 10) as number,
      sd: expect.closeTo(told?.sd ?? 0, 10) as number,
      min: told?.min,
      max: told?.max,
    })
    expect(summedUp(new Float64Array(0))).toBeNull()
  })
  test('any view by chunks and the samples of those that are cut is the view of the samples', () => {
    const all = channelOf(samples)
    fc.assert(
      fc.property(
        fc.integer({ min: -50, max: 9000 }),
        fc.integer({ min: 1, max: 9100 }),
        fc.integer({ min: 1, max: 120 }),
        (start, length, width) => {
          const strokes = new Strokes(T0 + start * 1000, T0 + (start + length) * 1000, width)
          for (const k of chunksIntoStrokes(chunks, coarser(chunks), strokes, isRising(chunks)).cut) {
            const from = Math.floor(k / 64) * 2 * BLOCK + (k % 64) * 2 * CHUNK
            strokes.putRows(samples.subarray(from, Math.min(samples.length, from + 2 * CHUNK)))
          }
          const direct = pixelsOf(all.t, all.v, strokes.from, strokes.to, width)
          expect([...strokes.min]).toEqual(direct.map((p) => p.min ?? Infinity))
          expect([...strokes.max]).toEqual(direct.map((p) => p.max ?? -Infinity))
        },
      ),
      { numRuns: 80 },
    )
  })
  test('where a pixel holds many chunks hardly any has to be looked into', () => {
    const strokes = new Strokes(T0, T0 + 8_999_000, 6)
    const { whole, cut } = chunksIntoStrokes(chunks, coarser(chunks), strokes, true)
    expect(whole).toBe(true)
    expect(cut.length).toBeLessThanOrEqual(3)
    const one = new Strokes(T0 + 5000, T0 + 20_000, 15)
    expect(chunksIntoStrokes(chunks, coarser(chunks), one, true)).toEqual({ whole: false, cut: [0] })
  })
  test('chunks without a value and times out of order are drawn where they are', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 0, max: 300 }), fc.option(fc.integer({ min: -9, max: 9 }))), {
          minLength: 1,
          maxLength: 3000,
        }),
        fc.integer({ min: 1, max: 40 }),
        fc.boolean(),
        (rows, width, sorted) => {
          const told = sorted ? rows.toSorted((a, b) => a[0] - b[0]) : rows
          const [t, v] = [told.map((r) => r[0]), told.map((r) => r[1])]
          const block = blockOf(
            t,
            v.map((x) => x ?? NaN),
          )
          const strokes = new Strokes(20, 250, width)
          const { cut } = chunksIntoStrokes(
            block.chunks,
            coarser(block.chunks),
            strokes,
            isRising(block.chunks),
          )
          for (const k of cut) strokes.putRows(block.samples.subarray(2 * CHUNK * k, 2 * CHUNK * (k + 1)))
          const direct = pixelsOf(t, v, 20, 250, width)
          expect([...strokes.min]).toEqual(direct.map((p) => p.min ?? Infinity))
          expect([...strokes.max]).toEqual(direct.map((p) => p.max ?? -Infinity))
        },
      ),
      { numRuns: 60 },
    )
  })
  test.each([
    ['as they come', (i: number) => i, true],
    ['at the same time', () => 5, true],
    ['one late', (i: number) => (i === 200 ? 5 : i), false],
    ['backwards', (i: number) => -i, false],
  ])('chunks rise or do not: %s', (_, time, rising) => {
    const t = Array.from({ length: 6 * CHUNK }, (_, i) => time(i))
    expect(
      isRising(
        blockOf(
          t,
          t.map(() => 1),
        ).chunks,
      ),
    ).toBe(rising)
  })
})
