import { describe, expect, test } from 'vitest'
import { withSetting, withWire, type Wiring } from '../../part/wiring.ts'
import { drawWiring } from '../drawing.ts'
import { connect } from '../connect/index.ts'
import { judgeWiring } from './judge.ts'
import { CORRECT, wiringOf } from './test/wirings.ts'

/** The wires at a terminal moved to a bar, which is fed from it. */
function overBar(w: Wiring, terminal: string, bar: string, carries: 'plus' | 'minus'): Wiring {
  const ends = Object.entries(w.wires).filter(([, x]) => [x.from, x.to].includes(terminal))
  let place = 0
  const wires = Object.fromEntries(
    Object.entries(w.wires).map(([id, x]) => {
      if (!ends.some(([e]) => e === id)) return [id, x]
      const at = `${bar}:t${++place}`
      return [id, { ...x, from: x.from === terminal ? at : x.from, to: x.to === terminal ? at : x.to }]
    }),
  )
  const part = { kind: 'bus-bar', settings: { ways: Math.max(2, place), carries } }
  return withWire({ ...w, parts: { ...w.parts, [bar]: part }, wires }, terminal, `${bar}:in`)
}
const FED = CORRECT.filter(([, parts]) => 'PS-1' in parts)

describe('a supply whose both sides are led over bus bars', () => {
  test.each(FED)('%s is proved as before', (_, parts) => {
    const w = overBar(overBar(wiringOf(parts), 'PS-1:plus', 'XB-1', 'plus'), 'PS-1:minus', 'XB-2', 'minus')
    const j = judgeWiring(w)
    expect(j.statements.filter((s) => !s.held)).toEqual([])
    expect(j.complaints).toEqual([])
    expect(j.verdict).toBe('proved')
  })
  test.each(FED)('%s: plus and minus on one bar is a short circuit, and told', (_, parts) => {
    const one = overBar(wiringOf(parts), 'PS-1:plus', 'XB-1', 'plus')
    const j = judgeWiring(withWire(withSetting(one, 'XB-1', 'ways', 12), 'PS-1:minus', 'XB-1:t12'))
    expect(j.verdict).not.toBe('proved')
    expect(j.complaints.length + j.statements.filter((s) => !s.held).length).toBeGreaterThan(0)
  })
  test.each(FED)('%s: a bar that nobody feeds is told', (_, parts) => {
    const w = overBar(wiringOf(parts), 'PS-1:plus', 'XB-1', 'plus')
    const unfed = Object.fromEntries(Object.entries(w.wires).filter(([, x]) => x.to !== 'XB-1:in'))
    expect(judgeWiring({ ...w, wires: unfed }).verdict).not.toBe('proved')
  })
})

test('it is drawn as one piece of copper along its terminals, below its name', () => {
  const [, parts] = CORRECT.find(([title]) => title === '2-wire') ?? ['', {}]
  const w = overBar(wiringOf(parts), 'PS-1:plus', 'XB-1', 'plus')
  const drawn = drawWiring(w)
  const box = drawn.boxes.find((b) => b.id === 'XB-1')
  const ends = [box?.bar?.at(0), box?.bar?.at(-1)]
  expect(ends).toEqual(
    ['XB-1:t2', 'XB-1:in'].map((at) => {
      const t = box?.terminals.find((x) => x.address === at)
      return [t?.x, t?.y]
    }),
  )
  expect(drawn.boxes.filter((b) => b.bar).map((b) => b.id)).toEqual(['XB-1'])
})
test('correct wiring that is asked for leaves a bar alone that it does not need', () => {
  const [, parts] = CORRECT.find(([title]) => title === '2-wire') ?? ['', {}]
  const w = wiringOf(parts)
  const c = connect({ ...w, parts: { ...w.parts, 'XB-1': { kind: 'bus-bar', settings: {} } } })
  expect(c.kind).toBe('wired')
})
