import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { Chain, computeChain, stagesOfChain } from './chain.ts'
import { CODE_FORMATS, currentPerCount_mA, unitsPerCount, type CodeFormatName } from './card-codes.ts'
import { currentState } from './current-state.ts'
import { compilePath, computeFrom, shownValue } from './path.ts'
import type { StationId } from './stage.ts'
import { tableProblem } from './transfer.ts'
import { WORKED_CODES } from './test/worked-codes.ts'

const codesOf = (name: CodeFormatName) => {
  const { n4, n20, nmin, nmax } = CODE_FORMATS[name]
  return { n4, n20, nmin, nmax }
}
const PT202 = Chain.parse({
  ...WORKED_CODES,
  lrv: 0,
  urv: 80,
  inUnit: 'bar',
  lo: 0,
  hi: 80,
  unit: 'bar',
  dsp: { lo: 0, hi: 80, unit: 'bar' },
})
const FT203 = (sqrtAt: 'tx' | 'rx') =>
  Chain.parse({
    lrv: 0,
    urv: 400,
    inUnit: 'mbar',
    transfer: 'sqrt',
    sqrtAt,
    ...codesOf('bits12-live'),
    lo: 0,
    hi: 90,
    unit: 'm3/h',
  })

const shown = (chain: Chain, from: StationId, v: number) => {
  const all = computeChain(chain, from, v) ?? {}
  return Object.fromEntries(Object.entries(all).map(([id, x]) => [id, shownValue(x)]))
}

describe('PT-202, linear, forward and back', () => {
  const rows: readonly [id: string, value: number, digits: number][] = [
    ['PCT', 59.125, 9],
    ['MA', 13.46, 9],
    ['V', 3.365, 9],
    ['CNT', 16347, 9],
    ['EU', 47.30035, 5],
    ['DSP', 47.3, 9],
  ]
  test.each(rows)('47.3 bar gives %s %d', (id, v, digits) => {
    expect(shown(PT202, 'IN', 47.3)[id]).toBeCloseTo(v, digits)
  })
  test('code 16347 is an interval of currents and of pressures', () => {
    const all = computeChain(PT202, 'CNT', 16347)
    expect(all?.['MA']).toMatchObject({ kind: 'interval' })
    const ma = all?.['MA'] as unknown as { lo: number; hi: number }
    const input = all?.['IN'] as unknown as { lo: number; mid: number; hi: number }
    expect(ma.lo).toBeCloseTo(13.45978, 5)
    expect(ma.hi).toBeCloseTo(13.46036, 5)
    expect(input.lo).toBeCloseTo(47.2989, 5)
    expect(input.mid).toBeCloseTo(47.30035, 5)
    expect(input.hi).toBeCloseTo(47.30179, 5)
  })
})

describe('FT-203, square root', () => {
  const rows: readonly [at: 'tx' | 'rx', pct: number, ma: number, cnt: number, eu: number][] = [
    ['tx', 22.36068, 7.577709, 1552, 20.13736],
    ['rx', 5, 4.8, 983, 20.13689],
  ]
  test.each(rows)('20 mbar with the root at the %s', (at, pct, ma, cnt, eu) => {
    const all = shown(FT203(at), 'IN', 20)
    expect(all['PCT']).toBeCloseTo(pct, 5)
    expect(all['MA']).toBeCloseTo(ma, 6)
    expect(all['CNT']).toBe(cnt)
    expect(all['EU']).toBeCloseTo(eu, 5)
  })
  test('m³/h per code gets coarse towards zero flow', () => {
    const at = (q: number) => unitsPerCount(CODE_FORMATS['bits12-live'], 90, true, q)
    expect(at(0.05)).toBeCloseTo(0.27485, 5)
    expect(at(0.2236)).toBeCloseTo(0.06143, 5)
    expect(at(1)).toBeCloseTo(0.01374, 5)
    expect(unitsPerCount(CODE_FORMATS['bits12-live'], 90, false, 0.5)).toBeCloseTo(0.02747, 5)
  })
  test('no flow says only that the dp is at most the cutoff squared', () => {
    const chain = Chain.parse({ ...FT203('tx'), cutoff: 0.1 })
    expect(computeChain(chain, 'PCT', 0)?.['IN']).toMatchObject({
      kind: 'atMost',
      bound: expect.closeTo(4, 9) as number,
    })
    expect(shown(chain, 'IN', 3)['MA']).toBe(4)
  })
})

describe('currents and codes at the ends', () => {
  const rows: readonly [mA: number, state: string, f27648: number, f6553: number][] = [
    [3.55, 'FAIL_LOW', -778, 5816],
    [3.72, 'GREY_LOW', -484, 6094],
    [20.6, 'GREY_HIGH', 28685, 32767],
    [21.3, 'FAIL_HIGH', 29894, 32767],
  ]
  test.each(rows)('%d mA is %s, codes %d and %d', (mA, state, a, b) => {
    expect(currentState(mA)).toBe(state)
    expect(shown(PT202, 'MA', mA)['CNT']).toBe(a)
    expect(shown(Chain.parse({ ...PT202, ...codesOf('bits15-live') }), 'MA', mA)['CNT']).toBe(b)
  })
  test.each([
    [0.4, 'OPEN'],
    [0.5, 'FAIL_LOW'],
    [3.6, 'FAIL_LOW'],
    [3.8, 'MEASURE'],
    [20.5, 'MEASURE'],
    [21, 'FAIL_HIGH'],
  ] as const)('the limit %d mA is %s', (mA, state) => expect(currentState(mA)).toBe(state))
  test.each([
    ['bits12', 0.0039072],
    ['bits12-live', 0.004884],
    ['bits15-live', 0.000610361],
    ['bits16-live', 0.00030518],
    ['hundredths', 0.0016],
  ] as const)('%s has %d mA per code', (name, mA) => {
    expect(currentPerCount_mA(CODE_FORMATS[name])).toBeCloseTo(mA, 8)
  })
  test('a saturated output tells only one side of the process', () => {
    expect(computeChain(PT202, 'MA', 20.5)?.['PV']).toMatchObject({
      kind: 'atLeast',
      bound: expect.closeTo(82.5, 9) as number,
    })
    expect(computeChain(PT202, 'MA', 3.6)?.['PV']).toMatchObject({
      kind: 'atMost',
      bound: expect.closeTo(-1, 9) as number,
    })
    expect(shown(PT202, 'IN', 500)['MA']).toBe(20.5)
  })
  test('with a reversed range the side turns round', () => {
    const level = Chain.parse({ lrv: 1.45, urv: 0.25, inUnit: 'm', lo: 0, hi: 100, unit: '%' })
    expect(computeChain(level, 'MA', 20.5)?.['IN']).toMatchObject({ kind: 'atMost' })
    expect(shown(level, 'IN', 0.85)['EU']).toBeCloseTo(50, 2)
  })
  test('behind a fixed current nothing upstream is known', () => {
    const path = compilePath(stagesOfChain(PT202))
    const ma = path.stations.findIndex((s) => s.id === 'MA')
    const all = computeFrom(path, ma, 12, true)
    expect(all.slice(0, ma).every((v) => v.kind === 'none')).toBe(true)
    expect(shownValue(all[ma + 1] ?? { kind: 'none' })).toBe(3)
  })
})

describe('a panel display in the loop', () => {
  test('takes its signal from the current, not from the controller', () => {
    const chain = Chain.parse({ ...PT202, lo: 0, hi: 40, dsp: { lo: 0, hi: 100, unit: '%', from: 'MA' } })
    expect(shown(chain, 'IN', 40)).toMatchObject({ DSP: 50 })
    expect(shown(chain, 'DSP', 25)['MA']).toBe(8)
  })
})

describe('properties', () => {
  const range = fc
    .tuple(fc.integer({ min: -500, max: 500 }), fc.integer({ min: -500, max: 500 }))
    .filter(([a, b]) => a !== b)
  const chains = fc
    .record({
      tx: range,
      rx: range,
      transfer: fc.constantFrom('linear' as const, 'sqrt' as const),
      sqrtAt: fc.constantFrom('tx' as const, 'rx' as const),
    })
    .map(({ tx, rx, transfer, sqrtAt }) =>
      Chain.parse({ lrv: tx[0], urv: tx[1], lo: rx[0], hi: rx[1], transfer, sqrtAt }),
    )
  test('from a process value to the current and back is the same value', () => {
    fc.assert(
      fc.property(chains, fc.double({ min: 0.01, max: 1, noNaN: true }), (chain, u) => {
        const x = chain.lrv + u * (chain.urv - chain.lrv)
        const mA = shown(chain, 'IN', x)['MA'] ?? NaN
        const back = computeChain(chain, 'MA', mA)?.['IN']
        expect(back && shownValue(back)).toBeCloseTo(x, 7)
      }),
    )
  })
  test('more process never gives less current on a direct range, and never leaves the output limits', () => {
    fc.assert(
      fc.property(
        chains,
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: 0, max: 3, noNaN: true }),
        (chain, u, more) => {
          const at = (f: number) => shown(chain, 'IN', chain.lrv + f * (chain.urv - chain.lrv))['MA'] ?? NaN
          expect(at(u + more)).toBeGreaterThanOrEqual(at(u) - 1e-9)
          expect(at(u)).toBeGreaterThanOrEqual(3.8)
          expect(at(u)).toBeLessThanOrEqual(20.5)
        },
      ),
    )
  })
})

test('a table must keep rising or keep falling', () => {
  expect(
    tableProblem([
      [0, 0],
      [0.5, 0.4],
      [1, 1],
    ]),
  ).toBeNull()
  expect(
    tableProblem([
      [0, 1],
      [0.5, 0.4],
      [1, 0],
    ]),
  ).toBeNull()
  expect(
    tableProblem([
      [0, 0],
      [0.5, 0.6],
      [1, 0.5],
    ]),
  ).toMatch(/turns back/)
  expect(tableProblem([[0, 0]])).toMatch(/two points/)
})
