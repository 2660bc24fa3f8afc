import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { AT_REST, energise, type BenchState } from './energise.ts'
import type { Fault } from './fault.ts'
import { PART_KINDS, partKind } from './index.ts'
import { settingProblem, valuesOf } from '../quantity/setting.ts'
import { address, knownParts, NOTHING_WIRED, Wiring, withoutPart, withSetting, withWire } from './wiring.ts'

/** The reference loop: supply, fuse, 200 m of 1 mm² at 25 °C, LT-301, input without feed. */
const LOOP: Wiring = {
  school: 'iec',
  parts: {
    'PS-1': { kind: 'supply', settings: {} },
    'F-1': { kind: 'fuse', settings: {} },
    'W-1': { kind: 'cable', settings: { length_m: 200, temp_C: 25 } },
    'LT-301': { kind: 'two-wire-transmitter', settings: {} },
    'AI-1': { kind: 'analogue-input', settings: {} },
  },
  wires: Object.fromEntries(
    [
      ['PS-1:plus', 'F-1:a'],
      ['F-1:b', 'W-1:p1'],
      ['W-1:f1', 'LT-301:plus'],
      ['LT-301:minus', 'W-1:f2'],
      ['W-1:p2', 'AI-1:in'],
      ['AI-1:com', 'PS-1:minus'],
    ].map(([from, to], i) => [String(i + 1), { from, to, colour: null, ferrule: '' }]),
  ) as Wiring['wires'],
}

const faults: readonly [
  why: string,
  fault: Fault | null,
  supply_V: number,
  tx_V: number,
  tx_mA: number,
  pct: number,
  finds: string | null,
][] = [
  ['healthy', null, 24, 20.88, 12, 50, null],
  ['+ core open', { kind: 'open', wire: '3' }, 24, 0, 0, -25, 'NO_RETURN_PATH'],
  ['− core open', { kind: 'open', wire: '4' }, 24, 11.95, 0, -25, 'NO_RETURN_PATH'],
  ['transmitter reversed', { kind: 'reversed', part: 'LT-301' }, 24, -24, 0, -25, 'REVERSED'],
  ['short across the transmitter', { kind: 'short', part: 'LT-301' }, 24, 0, 0, 551, 'OVER_CURRENT'],
  ['short across the input', { kind: 'short', part: 'AI-1' }, 24, 23.88, 12, -25, null],
  ['leak of 5 kΩ', { kind: 'leakage', part: 'LT-301', ohm: 5000 }, 24, 19.85, 12, 74.81, null],
  [
    'second earth 0.6 V, 2 Ω',
    { kind: 'earth', at: 'LT-301:minus', ohm: 2, volts: 0.6 },
    24,
    23.31,
    12,
    -9.76,
    null,
  ],
  ['supply missing', { kind: 'noSupply', part: 'PS-1' }, 0, 0, 0, -25, 'NO_LOOP_CURRENT'],
  [
    'second supply in series',
    { kind: 'doubleSupply', wire: '2', volts: 24 },
    24,
    44.64,
    12,
    50,
    'DOUBLE_POWERED',
  ],
  ['loose terminal', { kind: 'loose', wire: '5', ohm: 400 }, 24, 16.08, 12, 50, null],
]

describe('faults on one loop read as the table says', () => {
  test.each(faults)('%s', (_why, fault, supply_V, tx_V, tx_mA, pct, finds) => {
    const e = energise(LOOP, { ...AT_REST, faults: fault ? [fault] : [] })
    const tx = (t: string) => e.volts(`LT-301:${t}`) ?? NaN
    expect(e.volts('PS-1:plus')).toBeCloseTo(supply_V, 1)
    expect(tx('plus') - tx('minus')).toBeCloseTo(tx_V, 1)
    expect(Number(e.values['I(LT-301.plus)']) * 1000).toBeCloseTo(tx_mA, 2)
    expect(Math.abs(Number(e.values['pct(AI-1)']) - pct)).toBeLessThan(pct > 500 ? 3 : 0.02)
    expect(e.findings.map((f) => f.code)).toEqual(
      finds === null ? expect.any(Array) : expect.arrayContaining([finds]),
    )
  })
  test('every wire of a healthy loop carries the same current, and its direction is told', () => {
    const e = energise(LOOP, { ...AT_REST, current_mA: 20 })
    for (const id of Object.keys(LOOP.wires)) expect(e.wire_A(id)).toBeCloseTo(0.02, 7)
  })
  test('switched off, nothing flows; a blown fuse stays blown until the memory is cleared', () => {
    expect(energise(LOOP, { ...AT_REST, power: false }).wire_A('1')).toBeCloseTo(0, 9)
    const short = energise(LOOP, {
      ...AT_REST,
      faults: [{ kind: 'earth', at: 'LT-301:plus', ohm: 0.5, volts: 0 }],
    })
    expect(short.values['state(F-1)']).toBe('blown')
    expect(energise(LOOP, AT_REST, short.memory).wire_A('1')).toBeCloseTo(0, 9)
    expect(energise(LOOP, AT_REST).wire_A('1')).toBeCloseTo(0.012, 6)
  })
})

describe('parts', () => {
  test.each(PART_KINDS.map((k) => [k.kind, k] as const))('%s is consistent', (_kind, k) => {
    const s = valuesOf(k.settings, {})
    const ids = k.terminals(s).map((t) => t.id)
    expect(new Set(ids).size).toBe(ids.length)
    expect(k.label(s).length).toBeGreaterThan(3)
    for (const setting of k.settings) expect(settingProblem(setting, setting.standard)).toBeNull()
    for (const [a, b] of [...(k.lanes?.(s) ?? []), ...(k.testPoints?.(s) ?? [])]) {
      expect(ids).toContain(a)
      expect(ids).toContain(b)
    }
    // The label data lead to elements that the solver takes, wired or not.
    const alone: Wiring = { ...NOTHING_WIRED, parts: { 'P-1': { kind: k.kind, settings: {} } } }
    expect(() => energise(alone, AT_REST)).not.toThrow()
    expect(partKind(k.kind)).toBe(k)
  })
  test('a number outside its limits is named with what is possible', () => {
    const volts = partKind('supply')?.settings[0]
    if (!volts) throw new Error('no setting')
    expect(settingProblem(volts, 400)).toBe('Voltage is 400 V; possible is 1 to 60 V.')
    expect(settingProblem(volts, NaN)).toBe('Voltage: type a number.')
  })
  test('a 4-wire device below its lowest supply gives no current', () => {
    let w: Wiring = {
      ...NOTHING_WIRED,
      parts: {
        'PS-1': { kind: 'supply', settings: { voltage_V: 16 } },
        'FT-1': { kind: 'four-wire-active', settings: {} },
        'AI-1': { kind: 'analogue-input', settings: {} },
      },
    }
    for (const [a, b] of [
      ['PS-1:plus', 'FT-1:V+'],
      ['PS-1:minus', 'FT-1:V-'],
      ['FT-1:plus', 'AI-1:in'],
      ['FT-1:minus', 'AI-1:com'],
    ] as const)
      w = withWire(w, a, b)
    expect(Number(energise(w, AT_REST).values['pct(AI-1)'])).toBeCloseTo(-25, 3)
    expect(
      Number(energise(withSetting(w, 'PS-1', 'voltage_V', 24), AT_REST).values['pct(AI-1)']),
    ).toBeCloseTo(50, 3)
  })
  test('a device fed from mains works only when line and neutral reach it', () => {
    let w: Wiring = {
      ...NOTHING_WIRED,
      parts: {
        'Q-1': { kind: 'mains', settings: {} },
        'FT-1': { kind: 'four-wire-active', settings: { fed: 'mains' } },
        'AI-1': { kind: 'analogue-input', settings: {} },
      },
    }
    w = withWire(withWire(w, 'FT-1:plus', 'AI-1:in'), 'FT-1:minus', 'AI-1:com')
    expect(Number(energise(w, AT_REST).values['pct(AI-1)'])).toBeCloseTo(-25, 3)
    w = withWire(withWire(w, 'Q-1:L', 'FT-1:L'), 'Q-1:N', 'FT-1:N')
    const fed = energise(w, AT_REST)
    expect(Number(fed.values['pct(AI-1)'])).toBeCloseTo(50, 3)
    expect(fed.mains.get('FT-1')).toEqual({ fed: true, swapped: false, earthed: false })
  })
})

describe('a wiring as saved', () => {
  test('wires to nowhere, unknown parts and impossible settings are named at their place', () => {
    const told = Wiring.safeParse({
      school: 'iec',
      parts: {
        'PS-1': { kind: 'supply', settings: { voltage_V: -5 } },
        'X.1': { kind: 'flux-box', settings: {} },
      },
      wires: { '1': { from: 'PS-1:plus', to: 'PS-9:plus', colour: null, ferrule: '' } },
    })
    expect(told.error?.issues.map((i) => i.path.join('/'))).toEqual([
      'parts/PS-1/settings/voltage_V',
      'parts/X.1',
      'parts/X.1/kind',
      'wires/1/to',
    ])
  })
  test('taking a part away takes its wires; changing a setting takes wires on terminals that go', () => {
    expect(Object.keys(withoutPart(LOOP, 'F-1').wires)).toEqual(['3', '4', '5', '6'])
    expect(Object.keys(withSetting(LOOP, 'W-1', 'cores', 1).wires)).toEqual(['1', '2', '3', '6'])
  })
  test('the same wire twice, either way round, is one wire', () => {
    expect(withWire(LOOP, 'F-1:a', 'PS-1:plus')).toBe(LOOP)
  })
})

test('any wiring of any parts gives finite numbers or a named reason', () => {
  const kinds = PART_KINDS.map((k) => k.kind)
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom(...kinds), { minLength: 1, maxLength: 6 }),
      fc.array(fc.tuple(fc.nat(200), fc.nat(200)), { maxLength: 14 }),
      fc.boolean(),
      fc.double({ min: 0, max: 23, noNaN: true }),
      (chosen, joins, actuate, current_mA) => {
        let w: Wiring = {
          ...NOTHING_WIRED,
          parts: Object.fromEntries(chosen.map((kind, i) => [`P-${i}`, { kind, settings: {} }])),
        }
        const ends = knownParts(w).flatMap((p) => p.terminals.map((t) => address(p.id, t.id)))
        if (ends.length === 0) return
        for (const [a, b] of joins) w = withWire(w, ends[a % ends.length] ?? '', ends[b % ends.length] ?? '')
        expect(Wiring.safeParse(w).success).toBe(true)
        const state: BenchState = { ...AT_REST, current_mA, actuated: actuate ? Object.keys(w.parts) : [] }
        const e = energise(w, state)
        const numbers = Object.values(e.values).filter((v) => typeof v === 'number')
        expect(numbers.filter((v) => !Number.isFinite(v))).toEqual([])
        const silent = Object.keys(e.values).length === 0 && e.elements.length > 0 && e.findings.length === 0
        expect(silent).toBe(false)
      },
    ),
    { numRuns: 150, seed: 20261124 },
  )
})
