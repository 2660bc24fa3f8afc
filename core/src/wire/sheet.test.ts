import { describe, expect, test } from 'vitest'
import { PAPER_NAMES, PAPERS } from '../paper.ts'
import { NOTHING_WIRED, withWire, type Wiring } from '../part/wiring.ts'
import { bridgedPath } from './bridges.ts'
import type { DrawnWire } from './drawing.ts'
import { potentials } from './potentials.ts'
import { wiringSheet } from './sheet.ts'

const drawn = (id: string, ...points: [number, number][]): DrawnWire => ({
  id,
  points,
  arrow: { x: 0, y: 0, angle: 0 },
})

describe('where wires cross', () => {
  const upright = drawn('2', [50, 0], [50, 100])
  test.each([
    [
      'a level wire goes over an upright one',
      [
        [0, 40],
        [100, 40],
      ],
      'M0 40L45 40A5 5 0 0 1 55 40L100 40',
    ],
    [
      'and back the same way',
      [
        [100, 40],
        [0, 40],
      ],
      'M100 40L55 40A5 5 0 0 0 45 40L0 40',
    ],
    [
      'one that ends on it does not cross',
      [
        [0, 40],
        [50, 40],
      ],
      'M0 40L50 40',
    ],
    [
      'one that only passes its end does not',
      [
        [0, 100],
        [90, 100],
      ],
      'M0 100L90 100',
    ],
    [
      'an upright one is crossed, it does not cross',
      [
        [20, 0],
        [20, 90],
      ],
      'M20 0L20 90',
    ],
  ] as const)('%s', (_what, points, path) => {
    expect(bridgedPath(drawn('1', ...points.map(([x, y]): [number, number] => [x, y])), [upright])).toBe(path)
  })
  test('two uprights closer than two arcs are crossed in one', () => {
    const path = bridgedPath(drawn('1', [0, 40], [100, 40]), [upright, drawn('3', [56, 0], [56, 90])])
    expect(path.match(/A/g)).toHaveLength(1)
  })
  test('a wire has no bridge over itself', () => {
    const w = drawn('1', [0, 40], [60, 40], [60, 10], [30, 10], [30, 90])
    expect(bridgedPath(w, [w])).not.toContain('A')
  })
})

const parts: Wiring['parts'] = {
  'PS-1': { kind: 'supply', settings: {} },
  'PT-1': { kind: 'two-wire-transmitter', settings: {} },
  'AI-1': { kind: 'analogue-input', settings: {} },
}
const wired = (...wires: [string, string][]): Wiring =>
  wires.reduce<Wiring>((w, [from, to]) => withWire(w, from, to, { colour: 'BU' }), {
    ...NOTHING_WIRED,
    parts,
  })

describe('the potential of a wire', () => {
  test.each([
    ['from the plus of the supply', [['PS-1:plus', 'PT-1:plus']], ['+']],
    ['from its minus', [['PS-1:minus', 'AI-1:com']], ['−']],
    ['between two that are not supplies', [['PT-1:minus', 'AI-1:in']], [undefined]],
    [
      'passed on from terminal to terminal',
      [
        ['PS-1:plus', 'PT-1:plus'],
        ['PT-1:plus', 'AI-1:in'],
      ],
      ['+', '+'],
    ],
    ['of a short is none', [['PS-1:plus', 'PS-1:minus']], [undefined]],
  ] as const)('%s', (_what, wires, marks) => {
    const w = wired(...wires.map(([a, b]): [string, string] => [a, b]))
    const found = potentials(w)
    expect(Object.keys(w.wires).map((id) => found.get(id))).toEqual(marks)
  })
})

describe('the drawing to hand over', () => {
  const head = { tag: 'PT-1', service: 'Feed <hot> & cold', revision: 7, date: '2026-11-02', by: 'Heron' }
  const w = wired(['PS-1:plus', 'PT-1:plus'], ['PT-1:minus', 'AI-1:in'], ['AI-1:com', 'PS-1:minus'])

  test.each(PAPER_NAMES)(
    '%s: the size of the paper on its side, frame and title block inside it',
    (paper) => {
      const svg = wiringSheet(w, head, paper)
      const { width, height } = PAPERS[paper]
      expect(svg).toContain(`viewBox="0 0 ${height} ${width}"`)
      for (const says of ['PT-1', 'revision 7, 2026-11-02, Heron', 'Feed &lt;hot&gt; &amp; cold'])
        expect(svg).toContain(`>${says}</text>`)
    },
  )
  test('every wire with its number, colour and potential; every terminal with its mark', () => {
    const svg = wiringSheet(w, head, 'A4')
    expect(Object.keys(w.wires).map((id) => svg.includes(`>${id} BU`))).toEqual([true, true, true])
    expect(svg).toContain('BU +</text>')
    expect(svg).toContain('BU −</text>')
    expect(svg.match(/<circle/g)?.length).toBeGreaterThanOrEqual(6)
  })
  test('says nothing of what a screen shows: no currents, no volts at terminals, no selection', () => {
    expect(wiringSheet(w, head, 'A4')).not.toMatch(/>[\d.]+ (mA|V)<|class=|aria-/)
  })
  test('a drawing of many parts is made smaller until it fits', () => {
    const many = Object.fromEntries(
      Array.from({ length: 20 }, (_, i) => [`R-${i}`, { kind: 'relay', settings: {} }]),
    )
    const svg = wiringSheet({ ...w, parts: { ...parts, ...many } }, head, 'A4')
    const scale = Number(/scale\(([\d.]+)\)/.exec(svg)?.[1])
    expect(scale).toBeGreaterThan(0)
    expect(scale).toBeLessThan(0.5)
  })
})
