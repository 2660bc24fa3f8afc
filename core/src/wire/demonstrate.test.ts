import { describe, expect, test } from 'vitest'
import { NOTHING_WIRED, withoutWire, type Wiring } from '../part/wiring.ts'
import { usualRelay, type RelayPlan, type Relays } from '../signal/relay-plan.ts'
import { connect } from './connect/index.ts'
import { demonstrate } from './demonstrate.ts'
import { judgeWiring } from './proof/judge.ts'

const plan = (name: string, onAt: number, offAt: number): RelayPlan => ({
  ...usualRelay(name, 0, 12),
  trip: { kind: 'points', onAt, offAt, same: 'falling' },
})
const RELAYS: Relays = { plans: [plan('Away', 4, 9), plan('Near', 9, 4)], at4: 0, at20: 12, unit: 'ft' }
const parts: Wiring['parts'] = {
  'LT-1': { kind: 'two-wire-transmitter', settings: {} },
  'LC-1': { kind: 'level-controller', settings: {} },
  'W-1': { kind: 'cable', settings: { cores: 2 } },
  'PS-1': { kind: 'supply', settings: { limit_A: 5 } },
  'M-1': { kind: 'motor', settings: { moves: 'up' } },
  'M-2': { kind: 'motor', settings: { moves: 'down' } },
}
const wired = (): Wiring => {
  const c = connect({ ...NOTHING_WIRED, parts })
  if (c.kind !== 'wired') throw new Error(c.says)
  return c.wiring
}
const swapped = (w: Wiring, a: string, b: string): Wiring => {
  const at = (t: string) => (t === a ? b : t === b ? a : t)
  const wires = Object.entries(w.wires).map(([id, x]) => [id, { ...x, from: at(x.from), to: at(x.to) }])
  return { ...w, wires: Object.fromEntries(wires) as Wiring['wires'] }
}
const span = (d: ReturnType<typeof demonstrate>) => {
  const x = d.moments.slice(20).map((m) => m.x)
  return [Math.min(...x), Math.max(...x)].map((v) => Math.round(v))
}

describe('a target moved by two motors', () => {
  test('it goes to and fro between its two distances, by the solved circuit', () => {
    const d = demonstrate(wired(), RELAYS, { from: 3, seconds: 60 })
    expect(span(d)).toEqual([4, 9])
    expect(d.says).toMatch(/^The value goes to and fro\. Started: M-1 \d ×, M-2 \d ×\.$/)
    expect(d.moments.every((m) => m.on.length <= 1)).toBe(true)
    expect(d.moments[0]).toMatchObject({ energised: ['Away'], on: ['M-1'] })
  })
  test('from between the points nothing starts until the process goes there by itself', () => {
    expect(demonstrate(wired(), RELAYS, { from: 6, seconds: 20 }).says).toBe(
      'Nothing ran: no relay moved a load.',
    )
    const drifts = demonstrate(wired(), RELAYS, { from: 6, drift: -0.01, seconds: 60 })
    expect(drifts.starts['M-1']).toBeGreaterThan(0)
  })
  const wrong: readonly [why: string, w: () => Wiring, says: RegExp, code: string][] = [
    [
      'the two motors exchanged: the value runs away',
      () => swapped(swapped(wired(), 'M-1:a1', 'M-2:a1'), 'M-1:a2', 'M-2:a2'),
      /ran into the end of its range/,
      'MOVES_BACK',
    ],
    ['a motor on the NC contact', () => swapped(wired(), 'LC-1:k1no', 'LC-1:k1nc'), /Nothing ran/, 'DRIVEN'],
    [
      'the sensor’s wire open: no relay moves',
      () => {
        const w = wired()
        const open = Object.entries(w.wires).find(([, x]) => x.to === 'LC-1:in' || x.from === 'LC-1:in')
        return withoutWire(w, open?.[0] ?? '')
      },
      /Nothing ran/,
      'READS',
    ],
  ]
  test.each(wrong)('%s', (_why, w, says, code) => {
    expect(demonstrate(w(), RELAYS, { from: 3, seconds: 60 }).says).toMatch(says)
    const j = judgeWiring(w(), { senses: null, relays: RELAYS })
    expect([j.verdict, j.statements.filter((s) => !s.held).map((s) => s.code)]).toEqual([
      'wrong',
      expect.arrayContaining([code]),
    ])
  })
  test('a relay that is wired and has no plan is not proved', () => {
    const j = judgeWiring(wired(), { senses: null, relays: { ...RELAYS, plans: RELAYS.plans.slice(0, 1) } })
    expect(j.verdict).not.toBe('proved')
    expect(j.statements.filter((s) => !s.held).map((s) => s.code)).toContain('RELAY_PLANNED')
  })
  test('a relay that comes up between its points as the plan says', () => {
    const startsUp = { ...RELAYS, plans: RELAYS.plans.map((p, i) => ({ ...p, startUp: i === 0 })) }
    const d = demonstrate(wired(), startsUp, { from: 6, seconds: 5 })
    expect(d.moments[0]?.energised).toEqual(['Away'])
  })
})
