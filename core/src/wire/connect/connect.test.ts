import { describe, expect, test } from 'vitest'
import { AT_REST, energise } from '../../part/energise.ts'
import { NOTHING_WIRED, Wiring } from '../../part/wiring.ts'
import { explain } from '../explain.ts'
import { connect, type Connected } from './index.ts'

type Parts = Record<string, [kind: string, settings?: Record<string, number | string | boolean>]>
const chosen = (parts: Parts, school: 'iec' | 'na' = 'iec'): Wiring => ({
  ...NOTHING_WIRED,
  school,
  parts: Object.fromEntries(
    Object.entries(parts).map(([id, [kind, settings]]) => [id, { kind, settings: settings ?? {} }]),
  ),
})
const wired = (c: Connected): Wiring => {
  if (c.kind !== 'wired') throw new Error(c.says)
  expect(Wiring.safeParse(c.wiring).error).toBeUndefined()
  return c.wiring
}
const worst = (w: Wiring, actuated: string[] = []) =>
  explain(w, { ...AT_REST, actuated }, energise(w, { ...AT_REST, actuated })).filter(
    (f) => f.severity === 'stop' || f.severity === 'warn',
  )
const joins = (w: Wiring) => Object.values(w.wires).map((x) => [x.from, x.to].sort().join(' = '))

const PS: Parts = { 'PS-1': ['supply'] }
const AI: Parts = { 'AI-1': ['analogue-input'] }
const FEEDING: Parts = { 'AI-1': ['analogue-input', { feeds: true }] }
const CABLE: Parts = { 'W-1': ['cable'] }
const TX2: Parts = { 'PT-1': ['two-wire-transmitter'] }

const loops: readonly [why: string, parts: Parts][] = [
  ['2-wire on a supply', { ...TX2, ...PS, ...AI }],
  [
    '2-wire, fuse, cable, boxes and display',
    {
      ...TX2,
      'X-1': ['terminal-strip', { where: 'box' }],
      ...CABLE,
      'X-2': ['terminal-strip'],
      'F-1': ['fuse'],
      'LI-1': ['loop-display'],
      ...PS,
      ...AI,
    },
  ],
  ['2-wire on a card that feeds', { ...TX2, ...CABLE, ...FEEDING }],
  ['2-wire, supply and a card that could feed', { ...TX2, ...PS, ...FEEDING }],
  ['2-wire behind an isolator', { ...TX2, ...CABLE, 'IS-1': ['isolator'], ...AI }],
  [
    '2-wire behind a barrier',
    { 'PT-1': ['two-wire-transmitter', { lift_V: 10.5 }], ...CABLE, 'BR-1': ['barrier'], ...PS, ...AI },
  ],
  [
    '2-wire, two receivers',
    { ...TX2, ...PS, ...AI, 'AI-2': ['analogue-input', { shunt_ohm: 100, scaled_ohm: 100 }] },
  ],
  ['2-wire into a converter, channel 2', { ...TX2, ...PS, 'DC-1': ['digital-converter', { used: 2 }] }],
  ['3-wire', { 'LT-1': ['three-wire-transmitter'], ...CABLE, ...PS, ...AI }],
  ['4-wire active, DC', { 'FT-1': ['four-wire-active'], ...CABLE, ...PS, ...AI }],
  [
    '4-wire active, mains, on a feeding card',
    { 'FT-1': ['four-wire-active', { fed: 'mains' }], 'Q-1': ['mains'], ...CABLE, ...FEEDING },
  ],
  ['4-wire passive, outside supply', { 'FT-1': ['four-wire-passive'], ...CABLE, ...PS, ...AI }],
  [
    '4-wire passive, jumper to its own 24 V',
    { 'FT-1': ['four-wire-passive', { fed: 'mains', jumper: true }], 'Q-1': ['mains'], ...CABLE, ...AI },
  ],
]

describe('transmitters', () => {
  test.each(loops)('%s: wired, and every receiver reads what is sent', (_why, parts) => {
    const w = wired(connect(chosen(parts)))
    expect(worst(w)).toEqual([])
    for (const current_mA of [4, 12, 20]) {
      const e = energise(w, { ...AT_REST, current_mA })
      const shown = Object.entries(e.values).filter(([k, v]) => k.startsWith('shown(') && Number(v) > 1e-6)
      expect(shown.length).toBeGreaterThan(0)
      for (const [, v] of shown) expect(Number(v) * 1000).toBeCloseTo(current_mA, 3)
    }
  })
  test('an active output leaves the card’s feed free, a passive one uses it', () => {
    const active = wired(
      connect(chosen({ 'FT-1': ['four-wire-active', { fed: 'mains' }], 'Q-1': ['mains'], ...FEEDING })),
    )
    expect(joins(active).some((j) => j.includes('AI-1:sup'))).toBe(false)
    expect(joins(wired(connect(chosen({ ...TX2, ...FEEDING })))).some((j) => j.includes('AI-1:sup'))).toBe(
      true,
    )
  })
  test('a passive loop without any source says so and offers two ways that work', () => {
    const c = connect(chosen({ ...TX2, ...AI }))
    if (c.kind !== 'cannot') throw new Error('wired without a source')
    expect(c.says).toMatch(/Nothing feeds the loop/)
    expect(c.remedies.map((r) => r.id)).toEqual(['supply', 'feedingCard'])
    for (const r of c.remedies) expect(worst(r.wiring)).toEqual([])
  })
  test('a serial sensor goes A to A and B to B; swapped cores are named', () => {
    const w = wired(connect(chosen({ 'FT-1': ['serial-sensor'], ...CABLE, ...PS, 'SP-1': ['serial-port'] })))
    expect(worst(w)).toEqual([])
    const wires = Object.fromEntries(
      Object.entries(w.wires).map(([id, x]) => {
        const swap = (t: string) => (t === 'SP-1:A' ? 'SP-1:B' : t === 'SP-1:B' ? 'SP-1:A' : t)
        return [id, { ...x, from: swap(x.from), to: swap(x.to) }]
      }),
    )
    expect(worst({ ...w, wires }).map((f) => f.code)).toEqual(['LINE_SWAPPED'])
  })
})

const card = (mode: string, type = '3'): Parts => ({ 'DI-1': ['digital-input', { mode, type }] })
const prox = (out: string, fn = 'no'): Parts => ({ 'ZS-1': ['proximity-three-wire', { out, fn }] })

/** Whether the bit tells the target, in both states; −1 when it tells it inverted. */
function sense(w: Wiring, sensor = 'ZS-1'): number {
  const bit = (actuated: string[]) => energise(w, { ...AT_REST, actuated }).values['bit(DI-1)']
  const [absent, present] = [bit([]), bit([sensor])]
  return absent === 0 && present === 1 ? 1 : absent === 1 && present === 0 ? -1 : 0
}

const discrete: readonly [why: string, parts: Parts, sense: number][] = [
  ['PNP NO on a sinking card', { ...prox('pnp'), ...PS, ...card('sink') }, 1],
  ['PNP NC on a sinking card', { ...prox('pnp', 'nc'), ...PS, ...card('sink') }, -1],
  ['NPN NO on a sourcing card', { ...prox('npn'), ...PS, ...card('source') }, 1],
  ['push-pull on a sinking card', { ...prox('pp'), ...PS, ...card('sink') }, 1],
  ['push-pull on a sourcing card is inverted', { ...prox('pp'), ...PS, ...card('source') }, -1],
  ['PNP on a card that takes either', { ...prox('pnp'), ...PS, ...card('bidir') }, 1],
  ['NPN on a card that takes either', { ...prox('npn'), ...CABLE, ...PS, ...card('bidir') }, 1],
  ['dry contact NO, sinking', { 'ZS-1': ['dry-contact'], ...PS, ...card('sink', '1') }, 1],
  ['dry contact NO, sourcing', { 'ZS-1': ['dry-contact'], ...PS, ...card('source', '1') }, 1],
  ['float NC opens on high', { 'ZS-1': ['float-switch'], ...CABLE, ...PS, ...card('sink', '1') }, -1],
  [
    'reed with lamp on type 1',
    { 'ZS-1': ['cylinder-switch', { build: 'reed' }], ...PS, ...card('sink', '1') },
    1,
  ],
  ['electronic cylinder switch', { 'ZS-1': ['cylinder-switch'], ...PS, ...card('sink') }, 1],
  ['2-wire sensor on type 3', { 'ZS-1': ['proximity-two-wire'], ...PS, ...card('sink') }, 1],
  [
    'NAMUR sensor and amplifier',
    { 'ZS-1': ['namur-sensor'], 'SA-1': ['namur-amplifier'], ...PS, ...card('sink') },
    1,
  ],
  [
    'NAMUR, amplifier on a sourcing card',
    { 'ZS-1': ['namur-sensor'], 'SA-1': ['namur-amplifier'], ...PS, ...card('source') },
    1,
  ],
  ['trip relay contact NO', { 'ZS-1': ['trip-contact'], ...PS, ...card('sink', '1') }, 1],
  [
    'float through a relay',
    { 'ZS-1': ['float-switch', { fn: 'no' }], 'K-1': ['relay'], ...PS, ...card('source', '1') },
    1,
  ],
]

describe('sensors', () => {
  test.each(discrete)('%s', (_why, parts, expected) => {
    const w = wired(connect(chosen(parts)))
    expect(sense(w)).toBe(expected)
    expect([...worst(w), ...worst(w, ['ZS-1'])]).toEqual([])
  })

  const mismatches: readonly [why: string, out: string, mode: string][] = [
    ['NPN on a sinking card', 'npn', 'sink'],
    ['PNP on a sourcing card', 'pnp', 'source'],
  ]
  test.each(mismatches)('%s: says why, and every remedy works with its own sense', (_why, out, mode) => {
    const c = connect(chosen({ ...prox(out), ...PS, ...card(mode) }))
    if (c.kind !== 'cannot') throw new Error('a mismatch was wired')
    expect(c.says).toMatch(/bit would always be 0/)
    expect(c.remedies.map((r) => [r.id, sense(r.wiring)])).toEqual([
      ['card', 1],
      ['relay', 1],
      ['resistor', -1],
    ])
    for (const r of c.remedies) {
      expect(Wiring.safeParse(r.wiring).error).toBeUndefined()
      expect([...worst(r.wiring), ...worst(r.wiring, ['ZS-1'])]).toEqual([])
    }
  })
  test('the pull-up for ZS-307 on a type 3 card is the reference’s 2.7 kΩ', () => {
    const c = connect(chosen({ ...prox('npn'), ...PS, ...card('sink') }))
    const r = c.kind === 'cannot' ? c.remedies.find((x) => x.id === 'resistor') : null
    expect(r?.title).toBe('Pull-up of 2700 Ω, 1 W')
  })
  test('a leaky 2-wire sensor on type 1 is refused; type 3 or a resistor mends it', () => {
    const c = connect(
      chosen({ 'ZS-1': ['proximity-two-wire', { leak_mA: 1.3, least_mA: 5 }], ...PS, ...card('sink', '1') }),
    )
    if (c.kind !== 'cannot') throw new Error('wired although it leaks')
    expect(c.says).toMatch(/leaks too much/)
    expect(c.remedies.map((r) => r.id)).toEqual(['card', 'bleeder'])
    expect(sense(c.remedies[1]?.wiring ?? NOTHING_WIRED)).toBe(1)
    expect(worst(c.remedies[1]?.wiring ?? NOTHING_WIRED, ['ZS-1'])).toEqual([])
  })
  test('a contactor is too much for an output: a relay goes between', () => {
    const c = connect(
      chosen({ 'ZS-1': ['proximity-three-wire', { load_mA: 100 }], ...PS, 'M-1': ['contactor'] }),
    )
    if (c.kind !== 'cannot') throw new Error('contactor wired directly')
    expect(c.says).toBe('M-1 takes 200 mA and the output of ZS-1 carries 100 mA. Put a relay between them.')
    const [relay] = c.remedies
    const e = energise(relay?.wiring ?? NOTHING_WIRED, { ...AT_REST, actuated: ['ZS-1'] })
    expect(e.values['state(M-1)']).toBe('on')
    expect(e.findings.map((f) => f.code)).not.toContain('OUTPUT_OVERLOAD')
  })
  test('a coil of another voltage is refused with both voltages', () => {
    const c = connect(
      chosen({ 'ZS-1': ['dry-contact'], 'K-1': ['relay', { coil_V: 12 }], ...PS, ...card('sink') }),
    )
    expect(c.kind === 'cannot' ? c.says : '').toBe(
      'K-1 has a 12 V coil and the supply gives 24 V. Take one whose coil voltage is the supply’s.',
    )
  })
})

describe('what cannot be wired says what is missing', () => {
  const cannot: readonly [parts: Parts, says: RegExp][] = [
    [{}, /Choose what is in the field first/],
    [TX2, /Nothing among the parts reads the current|Nothing feeds/],
    [{ ...prox('pnp'), ...card('sink') }, /needs a DC supply/],
    [{ 'ZS-1': ['namur-sensor'], ...PS, ...card('sink') }, /no ordinary input does that/],
    [{ ...TX2, 'PT-2': ['two-wire-transmitter'], ...PS, ...AI }, /Two transmitters cannot drive one loop/],
    [{ 'FT-1': ['four-wire-active', { fed: 'mains' }], ...AI }, /no mains circuit among the parts/],
    [
      { 'LT-1': ['three-wire-transmitter'], 'BR-1': ['barrier'], ...PS, ...AI },
      /BR-1 has 2 ways through, and more are needed/,
    ],
  ]
  test.each(cannot)('%j', (parts, says) => {
    const c = connect(chosen(parts))
    expect(c.kind === 'cannot' ? c.says : 'wired').toMatch(says)
  })
})

describe('colours', () => {
  const colours = (school: 'iec' | 'na') => {
    const w = wired(
      connect(
        chosen({ 'FT-1': ['four-wire-active', { fed: 'mains' }], 'Q-1': ['mains'], ...CABLE, ...AI }, school),
      ),
    )
    return Object.fromEntries(Object.values(w.wires).map((x) => [x.from, x.colour]))
  }
  test('both mains schools', () => {
    expect(colours('iec')).toMatchObject({ 'Q-1:L': 'BN', 'Q-1:N': 'BU', 'Q-1:PE': 'GNYE' })
    expect(colours('na')).toMatchObject({ 'Q-1:L': 'BK', 'Q-1:N': 'WH', 'Q-1:PE': 'GN' })
  })
  test('a sensor’s leads keep their colours whatever the school', () => {
    const w = wired(connect(chosen({ ...prox('pnp'), ...PS, ...card('sink') }, 'na')))
    expect(
      Object.values(w.wires)
        .filter((x) => x.from.startsWith('ZS-1'))
        .map((x) => [x.from, x.colour]),
    ).toEqual([
      ['ZS-1:bn', 'BN'],
      ['ZS-1:bk', 'BK'],
      ['ZS-1:bu', 'BU'],
    ])
  })
})

describe('too few volts are told before anything is drawn', () => {
  const behindBarrier = (card: Record<string, number>, lift_V = 12): Parts => ({
    'PT-1': ['two-wire-transmitter', { lift_V }],
    'BR-1': ['barrier'],
    ...PS,
    'AI-1': ['analogue-input', card],
  })
  const short = (parts: Parts) => {
    const c = connect(chosen(parts))
    return c.kind === 'wired' ? c.short : c.says
  }
  // 24 - 0.9 - 0.021 (306 + 20 + 250) = 11.0 V; 12 V are needed, so 46 ohm less or 1 V more.
  test('a barrier with the usual 250 Ω: how many are missing, and what fits', () => {
    const says = short(behindBarrier({ shunt_ohm: 250, scaled_ohm: 250 }))
    expect(says).toMatch(/PT-1 would have 11 V left at 21 mA and needs 12 V/)
    const ohm = Number(/fits: (\d+) Ω or less at AI-1/.exec(says ?? '')?.[1])
    expect(ohm).toBeGreaterThan(195)
    expect(short(behindBarrier({ shunt_ohm: ohm, scaled_ohm: ohm }))).toBeNull()
    expect(short(behindBarrier({ shunt_ohm: ohm + 5, scaled_ohm: ohm + 5 }))).not.toBeNull()
    const lift = Number(/needs ([\d.]+) V or less/.exec(says ?? '')?.[1])
    expect(short(behindBarrier({ shunt_ohm: 250, scaled_ohm: 250 }, lift))).toBeNull()
  })
  test('where there is enough nothing is said', () => {
    expect(short({ ...TX2, ...PS, ...AI })).toBeNull()
    expect(short({ 'FT-1': ['four-wire-active'], ...PS, ...AI })).toBeNull()
  })
})
