import { describe, expect, test } from 'vitest'
import { Chain } from '../../signal/chain.ts'
import { Generator } from '../../statistics/generator.ts'
import { explain, toldShapes } from './explain.ts'
import { segmentOf } from './links.ts'
import { locate, pointOf } from './locate.ts'
import { brokenJob, healthyJob, MISTAKES, type Job } from './test/plants.ts'

/** Where it is said to be, and what it is called first. */
function told({ task }: Job) {
  const l = locate(task)
  const at = l.firstOut ?? l.segments.find((s) => s.state === 'INDETERMINATE') ?? null
  return { links: at?.links ?? [], name: (at?.explanation && toldShapes(at.explanation)[0]?.shape) ?? null }
}

describe('plants of a stranger, reckoned apart from the laws that name their mistakes', () => {
  test(
    'one mistake in each: the place in all, the name first in 98 of 100, readings at a limit too (seed 31)',
    { timeout: 30_000 },
    () => {
      const g = new Generator(31)
      const jobs = Array.from({ length: 150 }, () => brokenJob(g))
      const found = jobs.map((job) => ({ job, ...told(job) }))
      const misplaced = found.filter(({ job, links }) => !job.mistakes.every((m) => links.includes(m.link)))
      expect(misplaced.map((f) => f.job.mistakes[0]?.name)).toEqual([])
      const misnamed = found.filter(
        ({ job, name }) => name === null || !job.mistakes[0]?.called.includes(name),
      )
      expect(
        misnamed.length,
        misnamed.map((f) => `${String(f.job.mistakes[0]?.name)}: ${String(f.name)}`).join(),
      ).toBeLessThanOrEqual(3)
      const atLimit = found.filter((f) => f.job.atLimit)
      expect(atLimit.length).toBeGreaterThan(15)
      expect(misnamed.filter((f) => f.job.atLimit).length).toBeLessThanOrEqual(1)
      expect(new Set(jobs.map((j) => j.mistakes[0]?.name)).size).toBeGreaterThan(MISTAKES.length - 4)
    },
  )
  test(
    'nothing wrong: not one cries wolf, at the zero of a root neither (seed 7)',
    { timeout: 30_000 },
    () => {
      const g = new Generator(7)
      const cries = Array.from({ length: 500 }, () => healthyJob(g))
        .map(({ task }) => locate(task))
        .filter((l) => l.firstOut !== null || l.addedUp)
      expect(cries).toEqual([])
    },
  )
})

const PT = Chain.parse({ lrv: 0, urv: 80, inUnit: 'bar', lo: 0, hi: 80, unit: 'bar' })
const FT = Chain.parse({
  lrv: 0,
  urv: 400,
  inUnit: 'mbar',
  transfer: 'sqrt',
  sqrtAt: 'tx',
  lo: 0,
  hi: 90,
  unit: 'm3/h',
})
const u = { IN: 0.01, PV: 0.01, MA: 0.002, V: 0.0005, EU: 0.02 }
const tol = { PV: 0.25, PCT: 0.02, MA: 0.1, V: 0.1, CNT: 0.05, EU: 0.05 }
/** Applied and current read at some levels of a loop, and what its first segment is called. */
function named(
  chain: Chain,
  levels: readonly (readonly [IN: number, MA: number])[],
  dirs: readonly (1 | -1)[] = [],
) {
  const l = locate({
    chain,
    levels: levels.map(([IN, MA], i) => ({ values: { IN, MA }, dir: dirs[i] ?? 1 })),
    u,
    tol,
  })
  const e = l.segments[0]?.explanation
  return {
    state: l.segments[0]?.state,
    answer: e?.answer ?? null,
    first: e ? (toldShapes(e)[0] ?? null) : null,
  }
}

describe('a reading at a limit says at least, or at most', () => {
  const cases: readonly [string, Chain, readonly (readonly [number, number])[], string, number][] = [
    [
      'zero shifted below 3.8 mA',
      PT,
      [
        [0, 3.8],
        [40, 11.2],
        [80, 19.2],
      ],
      'OFFSET',
      -5,
    ],
    [
      'the range’s upper end at half',
      PT,
      [
        [0, 4],
        [40, 20],
        [80, 20.5],
      ],
      'RANGE_HI',
      40,
    ],
    [
      'span 6 % high, stopped at 20.5 mA',
      PT,
      [
        [0, 4],
        [20, 8.24],
        [40, 12.48],
        [80, 20.5],
      ],
      'GAIN',
      6,
    ],
    [
      'stuck at the upper limit',
      PT,
      [
        [0, 20.5],
        [40, 20.5],
        [80, 20.5],
      ],
      'STUCK',
      1.03,
    ],
    [
      'stuck at 4 mA',
      PT,
      [
        [0, 4],
        [40, 4],
        [80, 4],
      ],
      'STUCK',
      0,
    ],
    [
      'a zero shift before the root',
      FT,
      [
        [0, 7.2],
        [100, 12.616],
        [400, 20.32],
      ],
      'OFFSET_IN',
      4,
    ],
  ]
  test.each(cases)('%s', (_, chain, levels, shape, value) => {
    const { first } = named(chain, levels)
    expect(first?.shape).toBe(shape)
    expect(Math.abs((first?.quantities[0]?.value ?? NaN) - value)).toBeLessThan(0.05 * Math.abs(value) + 0.06)
  })
  test('an over-driven card is not a second fault', () => {
    const chain = Chain.parse({ ...PT, n4: 0, n20: 10_000, nmin: -500, nmax: 10_500 })
    const l = locate({
      chain,
      levels: [
        { values: { IN: 0, MA: 4, V: 1.2, CNT: 500, EU: 4 }, dir: 1 },
        // 300 Ω where 250 Ω are documented: 6 V, and the card ends at its highest code.
        { values: { IN: 40, MA: 12, V: 3.6, CNT: 6500, EU: 52 }, dir: 1 },
        { values: { IN: 80, MA: 20, V: 6, CNT: 10_500, EU: 84 }, dir: 1 },
      ],
      u: { ...u, CNT: 1, EU: 0.01 },
      tol,
    })
    const state = Object.fromEntries(l.segments.map((s) => [s.to, s.state]))
    expect(state['V']).toBe('OUT')
    expect(state['CNT']).toBe('WITHIN')
    expect(state['EU']).toBe('WITHIN')
  })
})

describe('causes that are none', () => {
  test('a factor of a thousandth is no cause of a reading that stands still', () => {
    const { first } = named(PT, [
      [0, 4.001],
      [40, 4.0],
      [80, 4.002],
    ])
    expect(first?.shape).toBe('STUCK')
  })
  test('a second load is named with what lies beside the shunt', () => {
    const segment = segmentOf(PT, 'MA', 'V')
    if (!segment) throw new Error('no segment')
    const beside = 1500
    const k = beside / (250 + beside)
    const points = [0, 0.5, 1].map((phi) =>
      pointOf(segment, { phi, r: k * phi + (k - 1) / 4, ua: 1e-4, ub: 1e-4, dir: 1 }, { T: 0.001, Tin: 0 }),
    )
    const e = explain({ chain: PT, segment, points }, 0.001)
    expect(e.ranked[0]?.shape).toBe('GAIN_LIVE')
    expect(e.ranked[0]?.quantities[0]?.value).toBeCloseTo(250 * k, 0)
  })
  test('rising and falling that differ are hysteresis; without the direction it is not told', () => {
    const levels: readonly (readonly [number, number])[] = [
      [0, 4],
      [40, 11.6],
      [80, 20],
      [40, 12.4],
      [0, 4],
    ]
    expect(named(PT, levels, [1, 1, 1, -1, -1]).first?.shape).toBe('HYST')
    expect(named(PT, levels).first?.shape).not.toBe('HYST')
  })
  test('a receiver left at percent over a range that does not begin at zero is not a lower value left out', () => {
    const chain = Chain.parse({ lrv: 20, urv: 120, inUnit: 'degC', lo: 20, hi: 120, unit: 'degC' })
    const l = locate({
      chain,
      levels: [20, 70, 120].map((IN) => ({ values: { IN, EU: IN - 20 }, dir: 1 as const })),
      u: { IN: 0.02, EU: 0.02 },
      tol,
    })
    const e = l.firstOut?.explanation
    expect(e && toldShapes(e)[0]?.shape).toBe('RANGE_DEFAULT')
  })
})
