import { describe, expect, test } from 'vitest'
import { amountsOf, bottleHolds_nl, usedBy, UseSchema } from './consumables.ts'
import { packKit, type KitInstrument, type KitNeed } from './kit.ts'
import { chanceOf, usualTime } from './usual-time.ts'

const sig = (x: number) => Number(x.toPrecision(7))

describe('usual times', () => {
  test.each<[number, number[], number[], object]>([
    [60, [], [], { usual: 60, spread: 0.3, minutes: 60, p90: 88.12974, ownMedian: null }],
    [60, [], [42], { usual: 54.88147, spread: 0.268328, minutes: 55, p90: 77.40506 }],
    [
      60,
      [60, 65, 58, 70],
      [42, 55, 48],
      { procedure: 61.09852, ownMedian: 48, usual: 54.15468, spread: 0.237956, minutes: 55, p90: 73.46416 },
    ],
    [
      40,
      [],
      [25, 200, 30, 28],
      { ownMedian: 29, usual: 33.28535, spread: 0.415994, minutes: 35, p90: 56.72615 },
    ],
  ])('standard %d, others %j, own %j', (standard, others, own, expected) => {
    const told = usualTime(standard, others, own) as unknown as Record<string, number | null>
    for (const [key, value] of Object.entries(expected as Record<string, number | null>))
      expect([key, value === null ? told[key] : sig(told[key] ?? 0).toPrecision(6)]).toEqual([
        key,
        value === null ? null : value.toPrecision(6),
      ])
  })
  test.each<[number, number, [number, number][], number]>([
    [70, 0, [[60, 0.3]], 0.69632],
    [
      180,
      24,
      [
        [60, 0.3],
        [45, 0.2],
        [30, 0.5],
      ],
      0.71108,
    ],
    [
      300,
      40,
      [
        [90, 0.4],
        [90, 0.4],
        [90, 0.4],
      ],
      0.35272,
    ],
    [40, 40, [[10, 0.3]], 0],
    [60, 0, [[60, 0]], 1],
  ])('%d minutes left, %d fixed', (left, fixed, jobs, chance) => {
    expect(
      chanceOf(
        left,
        fixed,
        jobs.map(([usual, spread]) => ({ usual, spread })),
      ),
    ).toBeCloseTo(chance, 5)
  })
})

describe('what is used up', () => {
  test.each<[object, string, number]>([
    [{ item: 'couplant', sensors: 4, face_cm2: 12 }, 'couplant_g', 4],
    [{ item: 'film', layers: 2, od_mm: 168.3, length_mm: 420 }, 'film_cm2', 4862],
    [{ item: 'tape', joints: 3, thread_mm: 21 }, 'tape_cm', 119],
    [{ item: 'buffer', pH: 7, beaker_ml: 50, rinses: 2 }, 'buffer_7_ml', 150],
    [{ item: 'nitrogenFill', cycles: 3, volume_l: 2.5, gauge_kPa: 1000, t_C: 20 }, 'nitrogen_nl', 83],
    [
      {
        item: 'nitrogenFlow',
        steps: [
          { kg_h: 20, minutes: 4 },
          { kg_h: 60, minutes: 4 },
        ],
      },
      'nitrogen_nl',
      5118,
    ],
    [{ item: 'water', changes: 3 }, 'rinse_water_ml', 300],
  ])('%j', (use, key, amount) => {
    expect(usedBy(UseSchema.parse(use))).toEqual([key, amount])
  })
  test('a bottle, and what is short', () => {
    expect(bottleHolds_nl(10, 150, 5, 20)).toBe(1333)
    const uses = [
      UseSchema.parse({ item: 'water', changes: 3 }),
      UseSchema.parse({ item: 'water', changes: 1 }),
    ]
    expect(amountsOf(uses, { rinse_water_ml: 250 })).toEqual({
      amounts: { rinse_water_ml: 400 },
      short: { rinse_water_ml: 150 },
    })
  })
})

describe('what to pack', () => {
  const x = (id: string, more: Partial<KitInstrument> = {}): KitInstrument => ({
    id,
    kind: 'pressure',
    unit: 'bar',
    lo: 0,
    hi: 60,
    u: 0.02,
    certificateEnds: Infinity,
    away: [],
    ...more,
  })
  const n = (id: string, more: Partial<KitNeed> = {}): KitNeed => ({
    id,
    kind: 'pressure',
    unit: 'bar',
    lo: 0,
    hi: 10,
    tolerance: 0.1,
    ratio: 4,
    until: 100,
    wanted: null,
    ...more,
  })
  test('one that serves all in place of two', () => {
    const all = [x('small', { hi: 10 }), x('large'), x('mA', { kind: 'current', unit: 'mA', hi: 24 })]
    const needs = [n('1'), n('2', { hi: 40 }), n('3', { kind: 'current', unit: 'mA', hi: 20 })]
    expect(packKit(needs, all)).toMatchObject({ pack: ['large', 'mA'], missing: [] })
  })
  test('one that was wanted is packed; one that does not serve is replaced by the least that does', () => {
    const all = [x('best', { u: 0.001 }), x('plain', { u: 0.02 }), x('old', { certificateEnds: 50 })]
    expect(packKit([n('1', { wanted: 'best' })], all)).toMatchObject({
      pack: ['best'],
      serves: [{ instrument: 'best', substitute: false }],
    })
    expect(packKit([n('1', { wanted: 'old' })], all)).toMatchObject({
      pack: ['plain'],
      serves: [{ instrument: 'plain', substitute: true, ratio: 5 }],
    })
  })
  test.each<[string, Partial<KitInstrument>, string]>([
    ['too short', { hi: 8 }, 'RANGE_SHORT'],
    ['too rough', { u: 0.05 }, 'RATIO_LOW'],
    ['its certificate ends', { certificateEnds: 50 }, 'CERTIFICATE_ENDED'],
    ['away', { away: [{ from: 10, to: 20 }] }, 'INSTRUMENT_AWAY'],
  ])('%s: missing, and what comes nearest', (_why, change, code) => {
    expect(packKit([n('1')], [x('it', change)])).toMatchObject({
      pack: [],
      missing: [{ need: '1', nearest: { instrument: 'it', code } }],
    })
    expect(packKit([n('1')], [])).toMatchObject({ missing: [{ nearest: null }] })
  })
})
