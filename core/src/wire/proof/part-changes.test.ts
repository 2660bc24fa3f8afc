import { describe, expect, test } from 'vitest'
import { address, knownParts, withoutWire, withWire, type Wiring } from '../../part/wiring.ts'
import { explain } from '../explain.ts'
import { culprits } from './culprit.ts'
import { judgeWiring } from './judge.ts'
import { NOTHING_MEANT } from './states.ts'
import { CORRECT, wiringOf } from './test/wirings.ts'

type Settings = Record<string, number | string | boolean>
const of = (title: string): Wiring => {
  const parts = CORRECT.find(([t]) => t === title)?.[1]
  if (!parts) throw new Error(title)
  return wiringOf(parts)
}
const withPart = (w: Wiring, id: string, kind: string, settings: Settings): Wiring => ({
  ...w,
  parts: { ...w.parts, [id]: { kind, settings } },
})
/** A part with two ends across two terminals. */
function across(
  w: Wiring,
  kind: string,
  settings: Settings,
  [a, b]: readonly string[],
  [x, y]: readonly string[],
): Wiring {
  return withWire(
    withWire(withPart(w, 'N-1', kind, settings), a ?? '', `N-1:${x ?? ''}`),
    `N-1:${y ?? ''}`,
    b ?? '',
  )
}
/** The same in a wire that is cut for it. */
function into(w: Wiring, wire: string, kind: string, settings: Settings, [x, y]: readonly string[]): Wiring {
  const cut = w.wires[wire]
  if (!cut) throw new Error(wire)
  return across(withoutWire(w, wire), kind, settings, [cut.from, cut.to], [x ?? '', y ?? ''])
}
const LEADS = ['red', 'black']
const ENDS = ['a', 'b']
/** Loops in which a current runs from a sender to one receiver. */
const LOOPS = [
  '2-wire',
  '2-wire, fuse',
  '2-wire, display',
  '2-wire, everything between',
  '2-wire on a card that feeds',
  '3-wire',
  '4-wire active, DC',
  '4-wire passive, outside supply',
]
const first = (w: Wiring) => culprits(w)[0]

describe('a meter left in the wrong jack is named before any wire', () => {
  test.each(LOOPS)('%s: in the V jack, in whichever wire of the current it stands', (title) => {
    const w = of(title)
    let broken = 0
    for (const wire of Object.keys(w.wires)) {
      const metered = into(w, wire, 'multimeter', { jack: 'V', dial: 'V' }, LEADS)
      if (judgeWiring(metered).verdict !== 'wrong') continue
      broken++
      const told = first(metered)
      expect([wire, told?.kind, told?.part, told?.mendsAll]).toEqual([wire, 'meter', 'N-1', true])
      expect(told?.says).toMatch(/in the V jack and breaks the loop/)
    }
    expect(broken).toBeGreaterThan(1)
  })
  test.each(LOOPS)('%s: in the mA jack across the receiver', (title) => {
    const w = of(title)
    const metered = across(w, 'multimeter', { jack: 'mA', dial: 'mA' }, ['AI-1:in', 'AI-1:com'], LEADS)
    expect(first(metered)).toMatchObject({ kind: 'meter', part: 'N-1' })
    expect(first(metered)?.says).toMatch(/across AI-1 in\+ and AI-1 com: there it is a short circuit/)
  })
  test('in the mA jack in the loop it is where it belongs', () => {
    const w = into(of('2-wire'), '1', 'multimeter', { jack: 'mA', dial: 'mA' }, LEADS)
    expect(judgeWiring(w).verdict).toBe('proved')
  })
})

describe('a second load', () => {
  test.each(LOOPS)(
    '%s: 250 Ω beside the receiver are named by what they are and where they stand',
    (title) => {
      const w = across(of(title), 'resistor', { r_ohm: 250 }, ['AI-1:in', 'AI-1:com'], ENDS)
      expect(judgeWiring(w).verdict).toBe('wrong')
      expect(first(w)).toMatchObject({ kind: 'part', part: 'N-1', mendsAll: true })
      expect(first(w)?.says).toBe(
        'A second load, N-1 (250 Ω, 0.5 W), stands beside AI-1 at AI-1 in+ and AI-1 com and takes a part of its current.',
      )
    },
  )
  test('one that leaks a little beside the transmitter', () => {
    const w = across(of('2-wire'), 'resistor', { r_ohm: 5000 }, ['PT-1:plus', 'PT-1:minus'], ENDS)
    expect(first(w)?.says).toMatch(/stands beside PT-1 at PT-1 \+ and PT-1 −/)
  })
  test('one in the way that leaves too few volts', () => {
    const w = into(of('2-wire'), '1', 'resistor', { r_ohm: 1500 }, ENDS)
    expect(first(w)).toMatchObject({ kind: 'part', part: 'N-1', mendsAll: true })
    expect(first(w)?.says).toMatch(/^A second load, N-1 \(1500 Ω, 0.5 W\), stands in the loop between/)
  })
  test('one in the way that does no harm is no culprit', () => {
    const w = into(of('2-wire'), '1', 'resistor', { r_ohm: 250 }, ENDS)
    expect(judgeWiring(w).verdict).toBe('proved')
  })
  test('two receivers side by side go one behind the other', () => {
    const w = across(of('2-wire'), 'analogue-input', {}, ['AI-1:in', 'AI-1:com'], ['in', 'com'])
    const told = first(w)
    expect(told?.says).toMatch(/AI-1 and N-1 stand side by side/)
    expect(told?.mendsAll).toBe(true)
    expect(told && judgeWiring(told.wiring).verdict).toBe('proved')
  })
})

describe('earth', () => {
  const earthed = of('4-wire active, display')
  const findings = (w: Wiring) =>
    explain(w, judgeWiring(w).states[0]?.bench ?? raise(), judgeWiring(w).states[0]?.e ?? raise())
  const raise = (): never => {
    throw new Error('no state')
  }
  test('a signal on protective earth is never proved', () => {
    const w = withWire(earthed, 'FT-1:minus', 'Q-1:PE')
    expect(judgeWiring(w).verdict).toBe('not proved')
    expect(findings(w).map((f) => f.code)).toContain('EARTHED_SIGNAL')
  })
  test.each([
    ['L', /line at FT-1 L with protective earth/],
    ['N', /neutral at FT-1 N with protective earth/],
  ])('%s on protective earth stops', (role, says) => {
    const w = withWire(earthed, `FT-1:${role}`, 'Q-1:PE')
    expect(judgeWiring(w).verdict).toBe('wrong')
    expect(findings(w).find((f) => f.code === 'MAINS_ON_EARTH')?.says).toMatch(says)
  })
  test('the minus of a supply may be earthed', () => {
    const w = of('supply on mains')
    const psMinus = knownParts(w)
      .find((p) => p.id === 'PS-1')
      ?.terminals.find((t) => t.role === 'dc-')
    expect(judgeWiring(withWire(w, address('PS-1', psMinus?.id ?? ''), 'Q-1:PE')).verdict).toBe('proved')
  })
})

test('a wire that leads past a part says which', () => {
  const w = withWire(of('2-wire behind a barrier'), 'BR-1:3', 'BR-1:1')
  expect(culprits(w, NOTHING_MEANT)[0]?.says).toMatch(/is one too many: it leads past BR-1\./)
})

test('a supply of too few volts is no wire’s fault', () => {
  const w = of('3-wire')
  const low = { ...w, parts: { ...w.parts, 'PS-1': { kind: 'supply', settings: { voltage_V: 8 } } } }
  expect(judgeWiring(low).verdict).toBe('wrong')
  expect(culprits(low)).toEqual([])
  expect(judgeWiring(low).statements.find((s) => !s.held)).toMatchObject({
    part: 'LT-1',
    failed: { instead: '7.74 V' },
  })
})
