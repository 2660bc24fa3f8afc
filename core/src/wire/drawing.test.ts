import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { withoutStage, withStage } from '../loop/optional-stages.ts'
import { toldByWords } from '../loop/what-it-is.ts'
import { NOTHING_WIRED, Wiring, withSetting } from '../part/wiring.ts'
import { connect } from './connect/index.ts'
import { drawWiring, type DrawnWire } from './drawing.ts'
import { suggestParts } from './suggest.ts'
import { testPoints } from './test-points.ts'
import { kitList, powerUpChecklist, terminations, truthTable, WORK_TIMES } from './lists.ts'
import { budgetOf, NO_TRIAL } from './budget-from-wiring.ts'
import { withLight } from './lit-display.ts'
import { judgeWiring } from './proof/judge.ts'
import { NOTHING_MEANT } from './proof/states.ts'
import { loopBudget } from './loop-budget.ts'

const loops: readonly [tag: string, type: string, signal: string][] = [
  ['PT-202', 'pressure', '4-20 mA HART'],
  ['FT-101', 'flow, clamp-on', '4-20 mA'],
  ['LI-303', 'display', '4-20 mA'],
  ['LSH-104', 'switch, float', 'dry contact NC'],
  ['ZS-305', 'switch, inductive', 'PNP NO'],
  ['ZS-306', 'switch, magnetic', 'PNP NO'],
  ['ZS-310', 'switch', 'NAMUR'],
  ['ZS-311', 'switch', '2-wire NO'],
]
const wiredAs = (tag: string, type: string, signal: string): Wiring => {
  const told = toldByWords(type, signal)
  const range = { low: 0, high: 10, unit: 'bar(g)' }
  const all = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
  // A switch has no path; a panel display has no card of its own.
  const path =
    told.family === 'switch'
      ? []
      : type === 'display'
        ? withoutStage(withoutStage(withStage(all, 'display'), 'controller'), 'input')
        : all
  const c = connect({
    ...NOTHING_WIRED,
    parts: suggestParts({ tag, ...told, path, tolerance: null, trips: [] }),
  })
  if (c.kind !== 'wired') throw new Error(c.says)
  return c.wiring
}
const stretches = (w: DrawnWire) => w.points.slice(1).map((p, i) => [w.points[i] ?? p, p] as const)

describe('the drawing', () => {
  test.each(loops)(
    '%s: boxes apart, wires at right angles from terminal to terminal',
    (tag, type, signal) => {
      const wiring = wiredAs(tag, type, signal)
      expect(Wiring.safeParse(wiring).error).toBeUndefined()
      const d = drawWiring(wiring)
      d.boxes.forEach((a, i) =>
        d.boxes.slice(i + 1).forEach((b) => {
          const apart =
            a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y
          expect(apart, `${a.id} and ${b.id}`).toBe(true)
        }),
      )
      const terminals = new Map(d.boxes.flatMap((b) => b.terminals.map((t) => [t.address, t])))
      for (const w of d.wires) {
        const wire = wiring.wires[w.id]
        const [from, to] = [terminals.get(wire?.from ?? ''), terminals.get(wire?.to ?? '')]
        expect(w.points[0]).toEqual([from?.x, from?.y])
        expect(w.points.at(-1)).toEqual([to?.x, to?.y])
        for (const [[x1, y1], [x2, y2]] of stretches(w)) expect(x1 === x2 || y1 === y2).toBe(true)
        for (const [x, y] of w.points) {
          expect(x).toBeGreaterThanOrEqual(0)
          expect(x).toBeLessThanOrEqual(d.width)
          expect(y).toBeLessThanOrEqual(d.height)
          // No corner lies inside a box.
          expect(d.boxes.some((b) => x > b.x && x < b.x + b.width && y > b.y && y < b.y + b.height)).toBe(
            false,
          )
        }
      }
    },
  )
  test.each(loops)(
    '%s: two wires that share no terminal never lie on top of each other',
    (tag, type, signal) => {
      const wiring = wiredAs(tag, type, signal)
      const { wires } = drawWiring(wiring)
      const ends = (id: string) => [wiring.wires[id]?.from, wiring.wires[id]?.to]
      const on: string[] = []
      wires.forEach((a, i) =>
        wires.slice(i + 1).forEach((b) => {
          if (ends(a.id).some((e) => ends(b.id).includes(e))) return
          for (const [[ax1, ay1], [ax2, ay2]] of stretches(a))
            for (const [[bx1, by1], [bx2, by2]] of stretches(b)) {
              const along = (p1: number, p2: number, q1: number, q2: number) =>
                Math.min(Math.max(p1, p2), Math.max(q1, q2)) - Math.max(Math.min(p1, p2), Math.min(q1, q2))
              if (ax1 === ax2 && bx1 === bx2 && Math.abs(ax1 - bx1) < 4 && along(ay1, ay2, by1, by2) > 1)
                on.push(`${a.id}/${b.id}`)
              if (ay1 === ay2 && by1 === by2 && Math.abs(ay1 - by1) < 4 && along(ax1, ax2, bx1, bx2) > 1)
                on.push(`${a.id}/${b.id}`)
            }
        }),
      )
      expect(on).toEqual([])
    },
  )
  test('nothing to draw is an empty sheet', () => {
    expect(drawWiring(NOTHING_WIRED)).toMatchObject({ boxes: [], wires: [] })
  })
})

describe('what each test point should read', () => {
  test('PT-202 at the five points of a loop check', () => {
    const t = testPoints(wiredAs('PT-202', 'pressure', '4-20 mA'))
    expect(t.states).toEqual(['4 mA', '8 mA', '12 mA', '16 mA', '20 mA'])
    const row = (place: RegExp) => t.points.find((p) => place.test(p.place))?.readings
    expect(row(/across the input/)).toEqual(['1.00 V', '2.00 V', '3.00 V', '4.00 V', '5.00 V'])
    expect(row(/supply/)).toEqual(Array.from({ length: 5 }, () => '24.00 V'))
    expect(row(/wire \d+, opened at PT-202 \+/)).toEqual([
      '4.000 mA',
      '8.000 mA',
      '12.000 mA',
      '16.000 mA',
      '20.000 mA',
    ])
  })
  test('a switch is read with and without its target', () => {
    const t = testPoints(wiredAs('ZS-305', 'switch, inductive', 'PNP NO'))
    expect(t.states).toEqual(['no target', 'target present'])
    expect(t.points.find((p) => /across the input/.test(p.place))?.readings).toEqual(['0.03 V', '22.46 V'])
  })
})

describe('lists to take along', () => {
  const w = wiredAs('FT-101', 'flow, clamp-on', '4-20 mA')
  test('every wire is in the termination list with both ends as printed', () => {
    const list = terminations(w)
    expect(list).toHaveLength(Object.keys(w.wires).length)
    expect(list.map((t) => [t.from, t.to, t.colour])).toContainEqual(['Q-101 PE', 'FT-101 PE', 'GNYE'])
  })
  test('parts first, then each tool once', () => {
    const kit = kitList(w)
    expect(kit[0]).toEqual({
      what: 'FT-101',
      detail: expect.stringContaining('4-wire') as string,
      kind: 'part',
    })
    const tools = kit.filter((k) => k.kind === 'tool').map((k) => k.what)
    expect(new Set(tools).size).toBe(tools.length)
    expect(tools).toContain('proved voltage tester')
  })
  test('the checklist starts with people and isolation and ends with the readings', () => {
    const steps = powerUpChecklist(w)
    expect(steps[0]).toMatchObject({ hold: true })
    expect(steps.findIndex((s) => /prove the terminals dead/.test(s.says))).toBeLessThan(
      steps.findIndex((s) => /Power on|Close the loop/.test(s.says)),
    )
    expect(steps.at(-1)?.says).toMatch(/test-point list/)
    expect(steps.some((s) => /230 V can kill/.test(s.says))).toBe(true)
  })
})

const never = (): never => {
  throw new Error('no budget')
}
describe('the loop budget of what is wired', () => {
  const w = wiredAs('PT-202', 'pressure', '4-20 mA HART')
  const verdict = (trial: Partial<typeof NO_TRIAL>) => {
    const b = budgetOf(w, { ...NO_TRIAL, ...trial })
    if (!b) throw new Error('no budget')
    return loopBudget(b.input)
  }
  test('parts and cable are taken from the wiring', () => {
    const b = budgetOf(w)
    expect(b).toMatchObject({ device: 'PT-202', fedBy: 'PS-202' })
    expect(b?.items).toEqual([
      { part: 'F-202', volts: 0, ohm: 2 },
      { part: 'AI-202', volts: 0, ohm: 250 },
    ])
    // 20.4 V less 22.5 mA through 252 Ω and 240 m of 1 mm² at 40 °C.
    expect(verdict({}).marginDesign).toBeCloseTo(
      20.4 - 12 - 0.0225 * (252 + 0.24 * 19.5 * (1 + 0.00393 * 20)),
      6,
    )
  })
  test('a longer cable, a resistor for the digital signal and a backlight cost volts', () => {
    const plain = verdict({}).marginDesign
    expect(verdict({ cable_m: 1000 }).marginDesign).toBeLessThan(plain)
    expect(verdict({ size: '0.5' }).marginDesign).toBeLessThan(plain)
    expect(plain - verdict({ hartResistor: true }).marginDesign).toBeCloseTo(5.625, 9)
    expect(plain - verdict({ extra_V: 1 }).marginDesign).toBeCloseTo(1, 9)
    expect(verdict({ hartResistor: true }).verdict).toBe('FAIL')
  })
  test('a display that the loop lights costs its volt in the budget and in the proof', () => {
    const lit = withLight(w)
    expect(verdict({}).marginDesign - verdict({ backlight: true }).marginDesign).toBeCloseTo(1, 9)
    const [dark, bright] = [w, lit].map((x) => loopBudget(budgetOf(x)?.input ?? never()).marginDesign)
    expect((dark ?? 0) - (bright ?? 0)).toBeCloseTo(1, 9)
    // 24 V less 20 mA through 256 Ω leaves 18.9 V: enough for 18 V, and not for its light as well.
    const needs18 = withSetting(w, 'PT-202', 'lift_V', 18)
    const lifted = (meant: { lit?: boolean }) =>
      judgeWiring(needs18, { ...NOTHING_MEANT, ...meant }).statements.find((s) => s.code === 'LIFTED')
    expect(lifted({})).toMatchObject({ held: true, says: expect.stringContaining('18 to 42 V') as string })
    expect(lifted({ lit: true })).toMatchObject({ held: false, failed: { state: '20 mA' } })
  })
  test('a loop that lives on no volts of its own has none', () => {
    expect(budgetOf(wiredAs('ZS-305', 'switch, inductive', 'PNP NO'))).toBeNull()
  })
})

describe('lists follow the order of work, in the words of what is wired', () => {
  const order = Object.keys(WORK_TIMES)
  test.each(loops)('%s', (...loop) => {
    const w = wiredAs(...loop)
    const steps = powerUpChecklist(w)
    const times = steps.map((s) => order.indexOf(s.when))
    expect(times).toEqual([...times].sort((a, b) => a - b))
    expect(new Set(times).size).toBe(order.length)
    const words = steps.map((s) => s.says).join(' ')
    // Nobody closes the loop of a switch.
    expect(/\bloop\b/.test(words)).toBe(loop[2].startsWith('4-20'))
    expect(/On the bench, before/.test(words)).toBe(loop[2].startsWith('PNP'))
  })
  const tables: readonly [tag: string, type: string, signal: string, rows: string[][]][] = [
    [
      'ZS-305',
      'switch, inductive',
      'PNP NO',
      [
        ['no target', '0'],
        ['target present', '1'],
      ],
    ],
    [
      'LSH-104',
      'switch, float',
      'dry contact NC',
      [
        ['float hangs', '1'],
        ['float up', '0'],
      ],
    ],
  ]
  test.each(tables)('what %s does in each state is on the list', (tag, type, signal, rows) => {
    expect(truthTable(wiredAs(tag, type, signal))?.rows.map((r) => r.slice(0, 2))).toEqual(rows)
  })
  test('a loop of 4-20 mA has no such table', () => {
    expect(truthTable(wiredAs('PT-202', 'pressure', '4-20 mA'))).toBeNull()
  })
})
