import { describe, expect, test } from 'vitest'
import { address, knownParts, NOTHING_WIRED, type Wiring } from '../part/wiring.ts'
import { usualRelay, type RelayPlan, type Relays } from '../signal/relay-plan.ts'
import { connect } from './connect/index.ts'
import { loadOn } from './proof/what-is-on.ts'
import type { Meant } from './proof/states.ts'
import { culprits } from './proof/culprit.ts'
import { judgeWiring } from './proof/judge.ts'
import { mistakesOn } from './proof/test/mistakes.ts'

type Parts = Wiring['parts']
const part = (kind: string, settings: Parts[string]['settings'] = {}) => ({ kind, settings })
const plan = (name: string, onAt: number, offAt: number): RelayPlan => ({
  ...usualRelay(name, 0, 12),
  trip: { kind: 'points', onAt, offAt, same: 'falling' },
})
/** A target between 4 and 9 ft: one motor takes it away, the other brings it near. */
const RELAYS: Relays = { plans: [plan('Away', 4, 9), plan('Near', 9, 4)], at4: 0, at20: 12, unit: 'ft' }
const MEANT = { senses: null, relays: RELAYS }
const MOTORS: Parts = {
  'M-1': part('motor', { moves: 'up' }),
  'M-2': part('motor', { moves: 'down' }),
}
const COMMON: Parts = { 'W-1': part('cable', { cores: 2 }), 'PS-1': part('supply', { limit_A: 5 }) }
const JOBS: readonly [what: string, parts: Parts, meant?: typeof MEANT][] = [
  [
    'a 2-wire sensor, the output jumpered to its own 24 V',
    {
      'LT-1': part('two-wire-transmitter'),
      'LC-1': part('level-controller', { jumper: true }),
      'AI-1': part('analogue-input'),
      ...COMMON,
      ...MOTORS,
    },
  ],
  [
    'the output fed by the supply',
    {
      'LT-1': part('two-wire-transmitter'),
      'LC-1': part('level-controller'),
      'AI-1': part('analogue-input'),
      ...COMMON,
      ...MOTORS,
    },
  ],
  [
    'the output fed by the card',
    {
      'LT-1': part('two-wire-transmitter'),
      'LC-1': part('level-controller', { fed: 'mains' }),
      'Q-1': part('mains'),
      'AI-1': part('analogue-input', { feeds: true }),
      'W-1': part('cable', { cores: 2 }),
    },
    { senses: null, relays: { ...RELAYS, plans: [] } },
  ],
  [
    'a sensor on a serial line, no output',
    {
      'LT-1': part('serial-sensor'),
      'LC-1': part('level-controller', { sensor: 'serial' }),
      ...COMMON,
      ...MOTORS,
    },
  ],
  [
    'motors behind contactors',
    {
      'LT-1': part('two-wire-transmitter'),
      'LC-1': part('level-controller'),
      'KM-1': part('contactor', { contacts: '1', suppressed: true }),
      'KM-2': part('contactor', { contacts: '1', suppressed: true }),
      ...COMMON,
      ...MOTORS,
    },
  ],
]
const wired = (parts: Parts, relays: Relays | null = null): Wiring => {
  const c = connect({ ...NOTHING_WIRED, parts }, relays)
  if (c.kind !== 'wired') throw new Error(c.says)
  return c.wiring
}
/** Of this many mistakes one is tried. */
const EVERY = 29
/** What arrives: readings, loads and line, in every state. */
const arrives = (w: Wiring, meant: Meant) =>
  judgeWiring(w, meant).states.map((s) => [
    ...Object.entries(s.e.values).flatMap(([name, v]) =>
      /^(shown|bit)\(/.test(name) ? [`${name} ${typeof v === 'number' ? Math.round(v * 20_000) : v}`] : [],
    ),
    ...knownParts(w).flatMap((p) => {
      const volts = (a: string, b: string) =>
        p.terminals.some((t) => t.id === a)
          ? [
              `${p.id} ${a} ${Math.round(((s.e.volts(address(p.id, a)) ?? 99) - (s.e.volts(address(p.id, b)) ?? 0)) / 3)}`,
            ]
          : []
      return [
        ...(p.kind.switchedLoad ? [`${p.id} ${loadOn(s, p)}`] : []),
        ...volts('V+', 'V-'),
        ...volts('sp', 'sn'),
        ...volts('A', 'B'),
      ]
    }),
    ...[...s.e.mains].map(([id, m]) => `${id} ${JSON.stringify(m)}`),
  ])
const unheld = (w: Wiring, meant = MEANT) =>
  judgeWiring(w, meant).statements.flatMap((s) => (s.held ? [] : [`${s.code} ${s.part}`]))

describe('a controller with relays', () => {
  test.each(JOBS)('%s: proved', (_what, parts, meant = MEANT) => {
    const j = judgeWiring(wired(parts), meant)
    expect([j.verdict, unheld(wired(parts), meant), j.complaints.map((f) => f.says)]).toEqual([
      'proved',
      [],
      [],
    ])
  })
  test('a plan on the NC contact is wired there, and nowhere else', () => {
    const nc = { ...RELAYS, plans: RELAYS.plans.map((p) => ({ ...p, contact: 'nc' as const })) }
    const lamps: Parts = { 'H-1': part('lamp'), 'H-2': part('lamp') }
    const parts: Parts = {
      'LT-1': part('two-wire-transmitter'),
      'LC-1': part('level-controller'),
      ...COMMON,
      ...lamps,
    }
    const at = (relays: Relays | null) =>
      judgeWiring(wired(parts, relays), { senses: null, relays: nc }).verdict
    expect([at(nc), at(null)]).toEqual(['proved', 'wrong'])
  })
  test.each(JOBS.filter((_, i) => [0, 3].includes(i)))(
    '%s: of mistakes that change anything none is called right, and its culprit is named first',
    (_what, parts, meant = MEANT) => {
      const w = wired(parts)
      const right = JSON.stringify(arrives(w, meant))
      const silent: string[] = []
      const misnamed: string[] = []
      let changed = 0
      // A sample: each search solves hundreds of wirings.
      for (const m of mistakesOn(w).filter((_, i) => i % EVERY === 0)) {
        if (JSON.stringify(arrives(m.wiring, meant)) === right) continue
        changed++
        if (judgeWiring(m.wiring, meant).verdict === 'proved') silent.push(m.title)
        const [first] = culprits(m.wiring, meant)
        if (!first || !m.isNamed(first)) misnamed.push(`${m.title}: ${first?.says ?? 'nothing'}`)
      }
      expect(changed).toBeGreaterThan(8)
      expect(silent).toEqual([])
      expect(misnamed.length / changed, misnamed.join('\n')).toBeLessThanOrEqual(0.05)
    },
    60_000,
  )
})
