import { describe, expect, test } from 'vitest'
import { Chain, computeChain } from '../../signal/chain.ts'
import { shownValue } from '../../signal/path.ts'
import { Generator } from '../../statistics/generator.ts'
import { explain } from './explain.ts'
import { fractionAt, segmentOf } from './links.ts'
import { locate } from './locate.ts'
import type { Shape } from './shapes.ts'

/** A mistake put into a simulated plant, not into the laws that are to find it. */
interface Injected {
  readonly shapes: readonly Shape[]
  readonly chain: (c: Chain, g: Generator) => Partial<Chain>
  /** What the sensor makes of the applied value, as a fraction. */
  readonly sensor?: (phi: number, g: Generator) => number
  readonly flow?: boolean
}
const keep = () => ({})
const between = (g: Generator, a: number, b: number) => a + (b - a) * g.uniform()
const sign = (g: Generator) => (g.uniform() < 0.5 ? -1 : 1)
const MISTAKES: Readonly<Record<string, Injected>> = {
  'receiver’s 20 mA point': {
    // A factor that happens to be a unit's or a code's is honestly the same reading.
    shapes: ['RANGE_HI', 'GAIN', 'SCALE', 'COUNTS_FS', 'RANGE_DEFAULT', 'GAIN_LIVE'],
    chain: (c, g) => ({ hi: c.lo + (c.hi - c.lo) * (1 + sign(g) * between(g, 0.12, 0.6)) }),
  },
  'unit of the receiver': {
    shapes: ['SCALE', 'RANGE_HI'],
    chain: (c) => ({ lo: c.lo * 14.503773773, hi: c.hi * 14.503773773 }),
  },
  'decimal point': { shapes: ['SCALE'], chain: (c) => ({ lo: c.lo / 10, hi: c.hi / 10 }) },
  'receiver left at percent': { shapes: ['RANGE_DEFAULT'], chain: () => ({ lo: 0, hi: 100 }) },
  '0-20 card': { shapes: ['LIVE0_RX', 'LIVE0_RX_IN', 'RANGE_LO'], chain: () => ({ inputSignal: '0-20' }) },
  'wrong full-scale code': {
    shapes: ['COUNTS_FS', 'COUNTS_FS_IN', 'RANGE_HI'],
    chain: () => ({ m4: 0, m20: 32767 }),
  },
  'shunt of 270 Ω': { shapes: ['GAIN_LIVE', 'GAIN_LIVE_IN'], chain: () => ({ shunt: 270, volts20: 5 }) },
  'reversed receiver': {
    shapes: ['REVERSED', 'REVERSED_IN'],
    chain: (c) => ({ lo: c.hi, hi: c.lo }),
  },
  'root taken twice': { shapes: ['SQRT_EXTRA'], flow: true, chain: () => ({ sqrtRx: true }) },
  'root not taken': { shapes: ['SQRT_MISSING'], flow: true, chain: () => ({ transfer: 'linear' }) },
  'sensor zero': {
    shapes: ['OFFSET', 'OFFSET_IN'],
    chain: keep,
    sensor: (phi) => phi + 0.06,
  },
  'sensor span': { shapes: ['GAIN', 'RANGE_HI', 'COUNTS_FS'], chain: keep, sensor: (phi) => phi * 1.045 },
  stuck: { shapes: ['STUCK'], chain: keep, sensor: () => 0.37 },
}

function plant(flow: boolean): Chain {
  return Chain.parse(
    flow
      ? { lrv: 0, urv: 400, inUnit: 'mbar', transfer: 'sqrt', sqrtAt: 'tx', lo: 0, hi: 90, unit: 'm3/h' }
      : { lrv: 0, urv: 16, inUnit: 'bar', lo: 0, hi: 16, unit: 'bar' },
  )
}

const NOISE = 0.0004 // of span, standard deviation of what is read
function diagnose(name: string, m: Injected, g: Generator, levels: readonly number[]): Shape | 'NONE' | null {
  const documented = plant(m.flow ?? false)
  const configured: Chain = { ...documented, ...m.chain(documented, g) }
  const segment = segmentOf(documented, 'IN', 'EU')
  if (!segment) throw new Error(name)
  const span = documented.urv - documented.lrv
  const points = levels.map((level) => {
    const applied = documented.lrv + span * level
    const felt = documented.lrv + span * (m.sensor?.(level, g) ?? level)
    const read = shownValue(computeChain(configured, 'IN', felt)?.['EU'] ?? { kind: 'none' }) ?? 0
    const noisy = read + g.normal() * NOISE * (documented.hi - documented.lo)
    return {
      F: segment.law(fractionAt(documented, 'IN', applied)),
      r: fractionAt(documented, 'EU', noisy),
      s: NOISE,
      dir: 1 as const,
    }
  })
  const e = explain({ chain: documented, segment, points }, 0.005)
  return e.state === 'NONE' ? 'NONE' : (e.ranked[0]?.shape ?? null)
}

describe('mistakes put into simulated plants', () => {
  test('the right one comes first in at least 95 of 100, and never one where nothing is wrong (seed 20317)', () => {
    const g = new Generator(20317)
    let right = 0
    let all = 0
    const missed: string[] = []
    for (const [name, m] of Object.entries(MISTAKES))
      for (let k = 0; k < 12; k++) {
        const levels = [
          between(g, 0.08, 0.2),
          between(g, 0.4, 0.6),
          ...(k % 2 === 0 ? [between(g, 0.8, 0.95)] : []),
        ]
        const found = diagnose(name, m, g, levels)
        all++
        if (found !== null && m.shapes.some((s) => s === found)) right++
        else missed.push(`${name}: ${String(found)}`)
      }
    expect(right / all, missed.join('; ')).toBeGreaterThanOrEqual(0.95)
  })
  test('healthy plants stay quiet (seed 7)', () => {
    const g = new Generator(7)
    for (let k = 0; k < 60; k++) {
      const healthy: Injected = { shapes: [], chain: keep, flow: k % 2 === 0 }
      const levels = [between(g, 0.2, 0.3), between(g, 0.5, 0.6), between(g, 0.85, 0.95)]
      expect(diagnose('healthy', healthy, g, levels)).toBe('NONE')
    }
  })
  test('a fault inside the chain is put into its own segment', () => {
    const documented = plant(false)
    const configured: Chain = { ...documented, shunt: 249, volts20: 5 }
    const levels = [0.1, 0.5, 0.9].map((x) => {
      const values = computeChain(configured, 'IN', 16 * x) ?? {}
      return {
        dir: 1 as const,
        values: Object.fromEntries(Object.entries(values).map(([id, v]) => [id, shownValue(v) ?? 0])),
      }
    })
    const l = locate({
      chain: documented,
      levels,
      u: { MA: 0.001, V: 0.0002, CNT: 1, EU: 0.001 },
      tol: { PV: 0.1, PCT: 0.02, MA: 0.05, V: 0.05, CNT: 0.05, EU: 0.05 },
    })
    expect(l.segments.filter((s) => s.state === 'OUT').map((s) => s.to)).toEqual(['V'])
    expect(l.firstOut?.explanation?.ranked[0]?.shape).toBe('GAIN_LIVE')
  })
})
