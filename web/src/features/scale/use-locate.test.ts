import { defaultPath } from '@calm/core/loop/default-path'
import { readEquipment } from '@calm/core/verify/equipment-spec'
import { describe, expect, test } from 'vitest'
import { useLocate, type Instrument } from './use-locate.ts'

const range = { low: 0, high: 6, unit: 'bar(g)' }
const path = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
const instrument = (id: string, range: string, uncertainty: string): Instrument => {
  const read = readEquipment({ range, uncertainty, drift: '', resolution: '' })
  return { id, name: id, functions: read.kind === 'read' ? read.functions : [] }
}
const INSTRUMENTS = [
  instrument('fine', '0 to 24 mA; 0 to 12 V', '0.001 mA; 0.3 mV'),
  instrument('coarse', '0 to 400 mA', '0.05 mA'),
  instrument('short', '4 to 12 mA', '0.001 mA'),
  instrument('gauge', '0 to 1000 kPa(g)', '0.6 kPa'),
]
const open = () => useLocate(path, false, 0.1, INSTRUMENTS)
type Typed = Partial<Record<'IN' | 'PV' | 'PCT' | 'MA' | 'V' | 'CNT' | 'EU', string>>
function typed(...levels: Typed[]) {
  const l = open()
  levels.forEach((level, i) => {
    if (i > 1) l.addLevel()
    for (const [id, text] of Object.entries(level)) l.type(i, id as keyof Typed, text)
  })
  return l
}
const states = (l: ReturnType<typeof open>) => l.rows.value.map((r) => `${r.key} ${r.word}`)

describe('readings along the line', () => {
  test('nothing typed: nothing judged', () => {
    const l = open()
    expect([l.rows.value, l.located.value, l.steps.value]).toEqual([[], null, null])
  })
  test('a sound line is within, and steps nowhere', () => {
    const l = typed({ MA: '8', V: '2,000', EU: '1.5' }, { MA: '16.00', V: '4', EU: '4,5' })
    expect(states(l)).toEqual(['MA>V within', 'V>EU within'])
    expect(l.steps.value).toEqual([])
  })
  test('a shunt of 247.5 ohm is out between loop and shunt, with its value', () => {
    const l = typed({ MA: '6,667', V: '1.650' }, { MA: '17.333', V: '4.290' })
    expect(states(l)).toEqual(['MA>V out'])
    expect(l.rows.value[0]?.says).toMatch(/247\.5 Ω/)
    expect(l.steps.value?.map((s) => s.station)).toEqual(['shunt'])
  })
  test('from end to end only: the next measurement is named', () => {
    const l = typed({ IN: '1', EU: '0.9' }, { IN: '5', EU: '4.9' })
    expect(states(l)).toEqual(['IN>EU out'])
    expect(l.next.value?.says).toMatch(
      /^Read \w+.* next: in about \d+ minutes it settles \d+ % of what is still open/,
    )
  })
  test('what was not read in between is one unresolved stretch; read, it is none', () => {
    const whole = typed({ IN: '1', EU: '0.9' }, { IN: '5', EU: '4.9' })
    expect(whole.rows.value[0]?.says).toMatch(/Nothing was read at .*, .*: the whole stretch is unresolved/)
    const read = typed({ MA: '6,667', V: '1.650' }, { MA: '17.333', V: '4.290' })
    expect(read.rows.value[0]?.says).not.toMatch(/unresolved/)
  })
  test('hysteresis is told by the direction of its levels, and by nothing else', () => {
    const levels: Typed[] = [
      { IN: '0', MA: '4' },
      { IN: '3', MA: '11.6' },
      { IN: '6', MA: '20' },
      { IN: '3', MA: '12.4' },
    ]
    const l = typed(...levels)
    expect(l.rows.value[0]?.says).not.toMatch(/rising than falling/)
    l.turn(3, -1)
    expect(l.rows.value[0]?.says).toMatch(/rising than falling/)
  })
  test('a current that stands still: three levels are fed in there with one touch, and the receiver is judged', () => {
    const l = typed({ PCT: '20', MA: '12', EU: '3' }, { PCT: '80', MA: '12.001', EU: '3.001' })
    expect(states(l)).toEqual(['PCT>MA out', 'MA>EU once'])
    expect(l.next.value?.act).toBe('Three levels fed in at Loop')
    l.next.value?.take?.()
    expect(l.levels.value.map((x) => [x.fedAt, x.typed['MA']])).toEqual([
      [undefined, '12'],
      [undefined, '12.001'],
      ['MA', '4'],
      ['MA', '12'],
      ['MA', '20'],
    ])
    ;['0', '3', '6'].forEach((text, i) => l.type(2 + i, 'EU', text))
    expect(states(l)).toEqual(['PCT>MA out', 'MA>EU within'])
    expect(l.next.value?.act ?? null).toBeNull()
  })
  test('an unresolved stretch says where it begins on the line; a resolved one does not', () => {
    expect(typed({ IN: '1', EU: '0.9' }, { IN: '5', EU: '4.9' }).steps.value).toEqual([
      { station: 'controller', error_pct: expect.closeTo(-1.667, 2) as number, from: 'process' },
    ])
    expect(typed({ MA: '6,667', V: '1.650' }, { MA: '17.333', V: '4.290' }).steps.value?.[0]?.from).toBe(
      undefined,
    )
  })
  test('one level that agrees is no proof: no part is good by it', () => {
    const l = typed({ MA: '12', V: '3', EU: '3' })
    expect(states(l)).toEqual(['MA>V once', 'V>EU once'])
    expect(l.rows.value.map((r) => r.state)).toEqual(['look', 'look'])
  })
  test('a signal fed in behind it shortens the stretch, in words and on the line', () => {
    const l = typed({ IN: '1', EU: '1.05' }, { IN: '5', EU: '5.25' })
    expect(l.rows.value.map((r) => r.title)).toEqual(['Process to Controller'])
    for (const [i, MA, EU] of [
      [2, '4', '0'],
      [3, '12', '3'],
      [4, '20', '6'],
    ] as const) {
      l.addLevel()
      l.feed(i, 'MA')
      l.type(i, 'MA', MA)
      l.type(i, 'EU', EU)
    }
    expect(l.rows.value.map((r) => r.title)).toEqual(['Process to Loop', 'Loop to Controller'])
    expect(l.steps.value).toMatchObject([{ station: 'output', from: 'process' }])
  })
  test('a coarse meter leaves it open and says which uncertainty would decide', () => {
    const l = typed({ MA: '8.01', V: '2' }, { MA: '16.01', V: '4' })
    l.typedU.value = { MA: '0,05' }
    expect(states(l)).toEqual(['MA>V open'])
    expect(l.rows.value[0]?.says).toMatch(/an uncertainty below ±/)
  })
  test('instruments are offered where they take the whole range', () => {
    const l = open()
    expect(l.suited.value.map((s) => [s.station, s.able.map((x) => x.id)])).toEqual([
      ['IN', ['gauge']],
      ['MA', ['fine', 'coarse']],
      ['V', ['fine']],
    ])
  })
  test('the chosen instrument says what is known, in the unit of the station; a typed number wins', () => {
    const l = typed({ MA: '8.01', V: '2' }, { MA: '16.01', V: '4' })
    l.readWith.value = { MA: 'fine', V: 'fine', IN: 'gauge' }
    expect(l.usualU('MA')).toBeCloseTo(0.001, 12)
    expect(l.usualU('IN')).toBeCloseTo(0.006, 12)
    expect(states(l)).toEqual(['MA>V within'])
    l.readWith.value = { MA: 'coarse', V: 'fine' }
    expect(states(l)).toEqual(['MA>V open'])
    l.typedU.value = { MA: '0.001' }
    expect(states(l)).toEqual(['MA>V within'])
  })
  test.each([
    [{ MA: '8..0' }, '0.MA'],
    [{ MA: 'eight' }, '0.MA'],
    [{ V: '2 mbar' }, '0.V'],
  ] as const)('%j is told at its cell', (level, key) => {
    const l = typed(level)
    expect([...l.wrong.value.keys()]).toEqual([key])
    expect(l.located.value).toBeNull()
  })
  test('another unit of the same kind is converted; a negative uncertainty is told', () => {
    const l = typed({ MA: '8', V: '2000 mV' }, { MA: '16', V: '4000 mV' })
    expect(states(l)).toEqual(['MA>V within'])
    l.typedU.value = { V: '-1' }
    expect([...l.wrong.value.keys()]).toEqual(['U.V'])
  })
  test('clear takes every level back', () => {
    const l = typed({ MA: '8' }, { MA: '16' }, { MA: '20' })
    l.clear()
    expect([l.levels.value.length, l.filled.value]).toEqual([2, []])
  })
})
