import { NOTHING_MEANT } from './states.ts'
import { describe, expect, test } from 'vitest'
import { address, knownParts, withoutPart, withSetting, type Wiring } from '../../part/wiring.ts'
import { connect } from '../connect/index.ts'
import { culprits } from './culprit.ts'
import { judgeWiring, works } from './judge.ts'
import { CORRECT, wiringOf, type Parts } from './test/wirings.ts'
import type { SolvedState } from './states.ts'
import { mistakesOn } from './test/mistakes.ts'

const swapped = (w: Wiring, a: string, b: string): Wiring => {
  const at = (t: string) => (t === a ? b : t === b ? a : t)
  return {
    ...w,
    wires: Object.fromEntries(
      Object.entries(w.wires).map(([id, x]) => [id, { ...x, from: at(x.from), to: at(x.to) }]),
    ),
  }
}
const failing = (w: Wiring) => judgeWiring(w).statements.flatMap((s) => (s.held ? [] : [s.code]))
const of = (title: string) => {
  const parts = CORRECT.find(([t]) => t === title)?.[1]
  if (!parts) throw new Error(title)
  return wiringOf(parts)
}

describe('correct wirings', () => {
  test.each(CORRECT)('%s is proved, with nothing above a note', (_, parts) => {
    const j = judgeWiring(wiringOf(parts))
    expect(j.statements.filter((s) => !s.held)).toEqual([])
    expect(j.complaints).toEqual([])
    expect(j.verdict).toBe('proved')
    expect(works(wiringOf(parts), NOTHING_MEANT)).toBe(true)
  })
})

/** A lamp and a coil have no plus. */
const between = (s: SolvedState, id: string, a: string, b: string): number => {
  const v = (s.e.volts(address(id, a)) ?? 99) - (s.e.volts(address(id, b)) ?? 0)
  return a === 'a1' ? Math.abs(v) : v
}
/** What arrives: readings, bits, coils, lamps, supplies, lines and mains, in every state. */
const arrives = (w: Wiring) =>
  judgeWiring(w).states.map((s) => [
    ...Object.entries(s.e.values).flatMap(([name, v]) =>
      /^(shown|bit)\(/.test(name) ? [`${name} ${typeof v === 'number' ? Math.round(v * 20_000) : v}`] : [],
    ),
    ...knownParts(w).flatMap((p) =>
      [
        ['a1', 'a2'],
        ['V+', 'V-'],
        ['bn', 'bu'],
      ].flatMap(([a = '', b = '']) =>
        p.terminals.some((t) => t.id === a) ? [`${p.id} ${a} ${Math.round(between(s, p.id, a, b) / 3)}`] : [],
      ),
    ),
    ...[...s.e.mains].map(([id, m]) => `${id} ${JSON.stringify(m)}`),
  ])
describe('single mistakes', () => {
  test.each(CORRECT)(
    '%s: whatever changes what arrives is told, and its culprit is named first',
    (_, parts) => {
      const w = wiringOf(parts)
      const right = JSON.stringify(arrives(w))
      const silent: string[] = []
      const misnamed: string[] = []
      let changed = 0
      for (const m of mistakesOn(w)) {
        if (JSON.stringify(arrives(m.wiring)) === right) continue
        changed++
        if (judgeWiring(m.wiring).verdict === 'proved') silent.push(m.title)
        else {
          const [first] = culprits(m.wiring)
          if (!first || !m.isNamed(first)) misnamed.push(`${m.title}: ${first?.says ?? 'nothing'}`)
        }
      }
      expect(changed).toBeGreaterThan(5)
      expect(silent).toEqual([])
      // 95 of 100 are asked for.
      expect(misnamed.length / changed, misnamed.join('\n')).toBeLessThanOrEqual(0.05)
    },
    90_000,
  )
})

describe('what nobody complained of before', () => {
  const rows: readonly [why: string, w: () => Wiring, code: string][] = [
    [
      'an active transmitter with its supply reversed',
      () => swapped(of('4-wire active, DC'), 'FT-1:V+', 'FT-1:V-'),
      'SUPPLIED',
    ],
    ['a relay contact NC for NO', () => swapped(of('NPN, relay'), 'K-1:no', 'K-1:nc'), 'BIT_FOLLOWS'],
    ['a serial sensor at −24 V', () => swapped(of('serial'), 'TX-1:V+', 'TX-1:V-'), 'SUPPLIED'],
    ['a serial sensor above its label', () => withSetting(of('serial'), 'TX-1', 'max_V', 20), 'SUPPLIED'],
    [
      'a barrier bypassed',
      () => {
        const w = of('2-wire behind a barrier')
        return {
          ...w,
          wires: { ...w.wires, '99': { from: 'BR-1:3', to: 'BR-1:1', colour: null, ferrule: '' } },
        }
      },
      'GUARDS',
    ],
    [
      'the two sides of an isolator joined',
      () => {
        const w = of('2-wire behind an isolator')
        return {
          ...w,
          wires: { ...w.wires, '99': { from: 'IS-1:fn', to: 'IS-1:on', colour: null, ferrule: '' } },
        }
      },
      'ISOLATES',
    ],
    ['a coil without its diode', () => withoutPart(of('PNP, relay'), 'VD-1'), 'SUPPRESSED'],
    ['a diode the wrong way round', () => swapped(of('PNP, relay'), 'VD-1:a', 'VD-1:k'), 'DRIVEN'],
    [
      'a resistor fitted that is not scaled for',
      () => withSetting(of('2-wire'), 'AI-1', 'shunt_ohm', 245),
      'READS',
    ],
    [
      'a resistor too small for its heat',
      () => withSetting(of('NPN, pull-up'), 'R-1', 'power_W', 0.1),
      'WATTS',
    ],
    ['the other channel in use', () => withSetting(of('converter, channel 1'), 'DC-1', 'used', 2), 'READS'],
    [
      'a bit that nobody turns round',
      () => withSetting(of('NPN, pull-up'), 'DI-1', 'inverts', false),
      'BIT_FOLLOWS',
    ],
  ]
  test.each(rows)('%s', (_, w, code) => {
    expect(judgeWiring(w()).verdict).not.toBe('proved')
    expect(failing(w())).toContain(code)
  })
  test('the loop’s own signal decides what a bit means', () => {
    const w = of('float')
    expect(judgeWiring(w, { ...NOTHING_MEANT, senses: 'breaks' }).verdict).toBe('proved')
    expect(judgeWiring(w, { ...NOTHING_MEANT, senses: 'makes' }).verdict).toBe('wrong')
  })
  test('where nothing reads, nothing is proved', () => {
    const w = of('2-wire')
    expect(judgeWiring(withoutPart(w, 'AI-1')).verdict).not.toBe('proved')
    const bare: Parts = { 'PS-1': ['supply'] }
    expect(
      judgeWiring({
        school: 'iec',
        parts: { 'PS-1': { kind: bare['PS-1']?.[0] ?? '', settings: {} } },
        wires: {},
      }).verdict,
    ).toBe('not proved')
  })
})

describe('two mistakes', () => {
  /** Every fourth mistake with every seventh other one: far more than anybody makes. */
  const pairsOn = (w: Wiring) => {
    const all = mistakesOn(w)
    return all
      .filter((_, i) => i % 9 === 0)
      .flatMap((one, i) => {
        const two = mistakesOn(one.wiring)[(i * 13 + 5) % all.length]
        return two ? [{ one, two }] : []
      })
  }
  const PAIRED = ['2-wire', 'PNP', '3-wire', 'serial', '2-wire on a card that feeds', 'NPN, relay', 'float']
  test('one of the two at least is named first in nine of ten', () => {
    const missed: string[] = []
    let all = 0
    for (const title of PAIRED)
      for (const { one, two } of pairsOn(of(title))) {
        if ([one, two].some((m) => judgeWiring(m.wiring).verdict !== 'wrong')) continue
        all++
        const [first] = culprits(two.wiring)
        if (!first || !(one.isNamed(first) || two.isNamed(first)))
          missed.push(`${title}: ${one.title}, ${two.title}: ${first?.says ?? 'nothing'}`)
      }
    expect(all).toBeGreaterThan(40)
    expect(missed.length / all, missed.join('\n')).toBeLessThanOrEqual(0.1)
  })
})

test('what cannot be wired is no proof', () => {
  expect(connect({ school: 'iec', parts: {}, wires: {} }).kind).toBe('cannot')
})
