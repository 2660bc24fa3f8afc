import { describe, expect, test } from 'vitest'
import {
  beakerMoves,
  linkedCheck,
  ON_PAGE,
  linkedWaits,
  shownOver,
  type LinkedBeaker,
} from './linked-bench.ts'

const stands = (value: number, more: object = {}) => ({
  ...{ value, scatter: 0, slope: 0, n: 24, over_s: 12 },
  ...more,
})
/** A healthy electrode that stands in the bottle of pH 7 at 25 °C. */
const SEVEN: LinkedBeaker = { standsIn: 7, mV: stands(-0.6), t: stands(25), pv: stands(7.01) }

describe('a linked electrode in a bottle', () => {
  test.each<[string, Partial<LinkedBeaker>, RegExp | null]>([
    ['all of it stands', {}, null],
    ['in air', { standsIn: null }, /in no bottle/],
    ['just put in', { mV: stands(-0.6, { over_s: 4 }) }, /10 s in this bottle; 4 s/],
    ['the voltage creeps', { mV: stands(-0.6, { slope: 0.1 }) }, /voltage still moves/],
    ['the voltage jumps about', { mV: stands(-0.6, { scatter: 3 }) }, /voltage still moves/],
    ['still warming up', { t: stands(25, { slope: 0.02 }) }, /temperature still moves/],
    ['the damping is not over', { pv: stands(6.9, { slope: 0.02 }) }, /behind its damping/],
  ])('%s', (_, more, says) => {
    const told = beakerMoves({ ...SEVEN, ...more })
    expect(says === null ? told : says.test(told ?? '')).toBe(says === null ? null : true)
  })
  test('what a page opens, the server takes a moment later', () => {
    const creeps = (slope: number) => ({ ...SEVEN, pv: stands(7, { slope }) })
    // Over 12 s: 0.0108 is too much for a page, not for the server.
    expect(beakerMoves(creeps(0.0009), ON_PAGE)).toMatch(/behind its damping/)
    expect(beakerMoves(creeps(0.0009))).toBeNull()
    expect(beakerMoves(creeps(0.0013))).toMatch(/behind its damping/)
  })
  test.each<[string, number | null, readonly number[], RegExp | null]>([
    ['the bottle it stands in', 7, [], null],
    ['nothing typed yet', null, [], /Type the buffer/],
    ['another bottle', 4, [], /near pH 7/],
    ['no buffer of the set', 5.5, [], /not a buffer of the set/],
    ['the same one again', 7, [7], /closer than pH/],
  ])('%s', (_, buffer, before, says) => {
    const earlier = before.map((b) => ({ buffer: b, mV: -0.6, t: 25, pv: 7 }))
    const told = linkedWaits(buffer, SEVEN, earlier)
    expect(says === null ? told : says.test(told ?? '')).toBe(says === null ? null : true)
  })
  test.each([
    [7.0, 7.05, true],
    [7.0, 7.051, false],
    [7.0, 6.949, false],
    [5.5, 5.5, false],
  ])('bottle %d, shown %d as left: %s', (buffer, pv, good) => {
    expect(linkedCheck(buffer, { ...SEVEN, pv: stands(pv) }).good).toBe(good)
  })
  test('what it shows is looked at no further back than it was moved', () => {
    const samples = Array.from({ length: 80 }, (_, i) => ({ t_s: i / 4, PV: i < 40 ? 4 : 7 }))
    expect(shownOver(samples, 9)).toMatchObject({ value: 7, slope: 0 })
    expect(shownOver(samples, 15)?.value).toBeLessThan(6.5)
    expect(shownOver([], 9)).toBeNull()
  })
})
