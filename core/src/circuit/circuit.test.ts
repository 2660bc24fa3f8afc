import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import type { Memory } from './element.ts'
import { ELEMENT_KINDS } from './elements/index.ts'
import { changed, elementProblems, type NetElement } from './netlist.ts'
import { eliminate } from './newton.ts'
import { solveCircuit, type Solution } from './solve.ts'
import { ohmPerKm } from './wire-resistance.ts'
import { parseNet, type Expected } from './test/net-text.ts'
import { WORKED_EXAMPLES } from './test/worked-examples.ts'

/** Six printed digits and the 0.28 µV that two solvers agreed to. */
function near(measured: number, printed: number, digits: string): void {
  expect(Math.abs(measured - printed), digits).toBeLessThanOrEqual(Math.max(2e-5 * Math.abs(printed), 2e-6))
}

function check(solution: Solution, { item, value }: Expected): void {
  const pair = /^V\((.+),(.+)\)$/.exec(item)
  const finding = /^(no)?find\((\w+) (.+)\)$/.exec(item)
  const at = (node: string) => (node === '0' ? 0 : Number(solution.values[`V(${node})`]))
  if (pair) near(at(pair[1] ?? '') - at(pair[2] ?? ''), Number(value), item)
  else if (finding) {
    const found = solution.findings.some((f) => f.code === finding[2] && f.element === finding[3])
    expect(found, `${item}: ${JSON.stringify(solution.findings)}`).toBe(finding[1] === undefined)
  } else {
    const measured = solution.values[item]
    if (typeof measured === 'number') near(measured, Number(value), item)
    else expect(measured === null ? 'null' : String(measured), item).toBe(value)
  }
}

describe('worked examples, each step with its memory', () => {
  test.each(WORKED_EXAMPLES)('%s %s', (_id, _title, text) => {
    const net = parseNet(text)
    let elements: readonly NetElement[] = net.elements
    let memory: ReadonlyMap<string, Memory> = new Map()
    expect(elements.flatMap((e) => elementProblems(e, e.id))).toEqual([])
    for (const step of net.steps) {
      const next = changed(elements, step.changes)
      expect(next.problems).toEqual([])
      elements = next.elements
      const solved = solveCircuit(elements, memory)
      memory = solved.memory
      expect(step.expected.length).toBeGreaterThan(0)
      for (const e of step.expected) check(solved.solution, e)
    }
  })
})

/** A loop with a place for every fault: supply, fuse, cable, transmitter, back, input without supply. */
const LOOP = (i: number) => `
PS supply p=P n=0 ; F fuse a=P b=Q rating=0.1 r=2
W1 wire a=Q b=A length=200 mm2=1 iecClass=5 tempC=25 ; W2 wire a=B b=C length=200 mm2=1 iecClass=5 tempC=25
LT tx2 plus=A minus=B i=${i} vLift=12 ; AI ai in=C com=0`
const faults: readonly [
  why: string,
  add: string,
  land: string,
  v: number,
  mA: number,
  pct12: number,
  pct20: number,
  find: string | null,
][] = [
  ['healthy', '', '', 20.88, 12, 50, 100, null],
  ['the plus core open', '', 'W1.b=X', 0, 0, -25, -25, 'NO_RETURN_PATH'],
  ['the transmitter reversed', '', 'LT.plus=B LT.minus=A', -24, 0, -25, -25, 'REVERSED'],
  [
    'a short across the transmitter',
    'S wire a=A b=B length=0.001 ohmPerKm=1',
    '',
    0,
    0,
    551.8,
    551.8,
    'NO_LOOP_CURRENT',
  ],
  ['a short across the input', 'S wire a=C b=0 length=1 ohmPerKm=50', '', 23.88, 12, -24.99, -24.98, null],
  ['leakage across the field pair', 'S resistor a=A b=B r=5000', '', 19.85, 12, 74.81, 122.34, null],
  ['a second receiver in parallel', 'S receiver in=C com=0', '', 22.38, 12, 12.5, 37.5, null],
  ['a shunt of 500 Ω', '', 'AI.r=500', 17.88, 12, 125, 225, null],
  ['a meter left in series', 'M dmm red=C black=D jack=mA dial=mA', 'AI.in=D', 20.82, 12, 50, 100, null],
  [
    'a meter in series with its leads in the volt jack',
    'M dmm red=C black=D jack=V dial=mA',
    'AI.in=D',
    11.95,
    0.001,
    -24.99,
    -24.99,
    'METER_JACK',
  ],
  ['a loose terminal', 'S resistor a=C b=D r=400', 'AI.in=D', 16.08, 12, 50, 88.68, null],
  ['a second supply in series', 'S supply p=C n=D', 'W2.b=D', 44.64, 12, 50, 100, 'OVER_VOLTAGE'],
]
describe('fault effects on one loop', () => {
  const solve = (i: number, add: string, land: string) => {
    const { elements } = parseNet(`${LOOP(i)}\n${add}`)
    const { steps } = parseNet(`${LOOP(i)}\n> ${land || 'LT.vMax=42'} => V(P) 0`)
    return solveCircuit(changed(elements, steps[1]?.changes ?? []).elements, new Map()).solution
  }
  test.each(faults)('%s', (why, add, land, v, mA, pct12, pct20, find) => {
    const s = solve(0.012, add, land)
    const node = (n: string) => Number(s.values[`V(${n})`] ?? 0)
    const ends = why === 'the transmitter reversed' ? node('B') - node('A') : node('A') - node('B')
    // Across an open loop, or two supplies, the table tells no volts at the ends.
    expect(/open|second supply/.test(why) || Math.abs(ends - v) < 0.05).toBe(true)
    expect(1000 * Number(s.values['I(LT.plus)'])).toBeCloseTo(mA, 2)
    expect(Number(s.values['pct(AI)'])).toBeCloseTo(
      pct12,
      why.includes('short across the transmitter') ? -1 : 1,
    )
    expect(Number(solve(0.02, add, land).values['pct(AI)'])).toBeCloseTo(
      pct20,
      why.includes('short across the transmitter') ? -1 : 1,
    )
    const codes = s.findings.map((f) => f.code)
    expect(codes).toEqual(find ? expect.arrayContaining([find]) : [])
  })
})

describe('three-wire outputs on sinking and sourcing inputs', () => {
  const rows: readonly [out: string, fn: string, mode: string, bits: string][] = [
    ['pnp', 'no', 'sink', '01'],
    ['pnp', 'no', 'source', '00'],
    ['pnp', 'nc', 'sink', '10'],
    ['pnp', 'nc', 'source', '00'],
    ['npn', 'no', 'sink', '00'],
    ['npn', 'no', 'source', '01'],
    ['npn', 'nc', 'sink', '00'],
    ['npn', 'nc', 'source', '10'],
    ['pp', 'no', 'sink', '01'],
    ['pp', 'no', 'source', '10'],
    ['pp', 'nc', 'sink', '10'],
    ['pp', 'nc', 'source', '01'],
  ]
  test.each(rows)('%s %s on a %s input: bits %s without and with a target', (out, fn, mode, bits) => {
    const bit = (target: boolean) => {
      const { elements } = parseNet(
        `PS supply p=P n=0 ; ZS sensor3 bn=P bu=0 bk=S out=${out} fn=${fn} target=${target} ; DI di in=S com=${mode === 'sink' ? '0' : 'P'} mode=${mode} iecType=3`,
      )
      return String(solveCircuit(elements, new Map()).solution.values['bit(DI)'])
    }
    expect(bit(false) + bit(true)).toBe(bits)
  })
})

describe('wires', () => {
  const rows: readonly [why: string, c: Parameters<typeof ohmPerKm>[0], ohm: number][] = [
    ['AWG 24 cold', { length: 1, awg: 24 }, 84.213],
    ['AWG 18 at 60 °C', { length: 1, awg: 18, tempC: 60 }, 24.241],
    ['1.5 mm² flexible at 60 °C', { length: 1, mm2: 1.5, iecClass: 5, tempC: 60 }, 15.391],
    ['2.5 mm² by its geometry', { length: 1, mm2: 2.5 }, 6.896],
    ['given outright', { length: 1, mm2: 2.5, ohmPerKm: 7 }, 7],
  ]
  test.each(rows)('%s', (_why, c, ohm) => expect(ohmPerKm(c)).toBeCloseTo(ohm, 3))
})

describe('nonsense gets an answer or a named reason', () => {
  const solve = (text: string) => solveCircuit(parseNet(text).elements, new Map()).solution
  test('two ideal sources that fight are not solved', () => {
    expect(solve('V1 vsource p=A n=0 v=5 ; V2 vsource p=A n=0 v=6').findings).toMatchObject([
      { code: 'SOURCE_CONFLICT' },
    ])
  })
  test('a loop apart from 0 V says so and still tells differences', () => {
    const s = solve('PS supply p=A n=B ; R resistor a=A b=B r=1000')
    expect(s.findings.map((f) => f.code)).toContain('FLOATING')
    expect(Number(s.values['V(A)']) - Number(s.values['V(B)'])).toBeCloseTo(24, 2)
  })
  test('a relay that takes its own coil away chatters and stops', () => {
    const s = solve('PS supply p=P n=0 ; K relay a1=X a2=0 rCoil=1000 com=P nc=X')
    expect(s.findings.map((f) => f.code)).toContain('RELAY_CHATTER')
  })
  test('a shorted supply is in its limit; a resistor of 0 Ω is a wire', () => {
    const s = solve('PS supply p=P n=0 ; R resistor a=P b=0 r=0')
    expect(s.findings.map((f) => f.code)).toContain('SUPPLY_LIMIT')
    expect(Number(s.values['I(R.a)'])).toBeCloseTo(2.5, 3)
  })
  const wrong: readonly [why: string, e: NetElement, path: string][] = [
    ['a negative resistance', { id: 'R', type: 'resistor', nodes: {}, params: { r: -1 } }, 'x.params.r'],
    ['no resistance at all', { id: 'R', type: 'resistor', nodes: {}, params: {} }, 'x.params.r'],
    ['an unknown type', { id: 'Q', type: 'flux', nodes: {}, params: {} }, 'x.type'],
    [
      'a terminal it has not',
      { id: 'R', type: 'resistor', nodes: { c: '0' }, params: { r: 1 } },
      'x.nodes.c',
    ],
    ['an unknown jack', { id: 'M', type: 'dmm', nodes: {}, params: { jack: 'ohm' } }, 'x.params.jack'],
    [
      'a name that every object has',
      { id: 'R', type: 'resistor', nodes: {}, params: { r: 1, constructor: 1 } },
      'x.params.constructor',
    ],
    ['text for a number', { id: 'S', type: 'supply', nodes: {}, params: { v: 'high' } }, 'x.params.v'],
  ]
  test.each(wrong)('%s is told at its field', (_why, e, path) => {
    expect(elementProblems(e, 'x').map((p) => p.path)).toContain(path)
  })

  const NEEDED: Readonly<Record<string, number>> = {
    v: 24,
    i: 0.012,
    r: 250,
    length: 10,
    rating: 0.1,
    rCoil: 1000,
  }
  const nodes = ['0', 'A', 'B', 'C', 'D', 'E']
  const anyElement = (n: number) =>
    fc
      .record({
        kind: fc.constantFrom(...ELEMENT_KINDS.filter((k) => k.type !== 'isource')),
        at: fc.array(fc.constantFrom(...nodes), { minLength: 10, maxLength: 10 }),
        flip: fc.boolean(),
      })
      .map(({ kind, at, flip }): NetElement => ({
        id: `X${n}`,
        type: kind.type,
        nodes: Object.fromEntries(
          [...kind.terminals, ...(kind.optional ?? [])].map((t, i) => [t, at[i] ?? '0']),
        ),
        params: {
          ...Object.fromEntries(
            Object.entries(kind.params).flatMap(([name, standard]) =>
              standard === null ? [[name, NEEDED[name] ?? 1]] : [],
            ),
          ),
          ...(kind.type === 'wire' || kind.type === 'pair' ? { mm2: 1 } : {}),
          ...('closed' in kind.params ? { closed: flip } : {}),
          ...('target' in kind.params ? { target: flip } : {}),
        },
      }))
  test('any wiring at all: finite, ending, and in balance', () => {
    fc.assert(
      fc.property(
        fc
          .integer({ min: 2, max: 9 })
          .chain((n) => fc.tuple(...Array.from({ length: n }, (_, i) => anyElement(i)))),
        (elements) => {
          const { solution } = solveCircuit(elements, new Map())
          if (solution.findings.some((f) => f.code === 'SOURCE_CONFLICT' || f.code === 'UNSETTLED')) return
          let power = 0
          let turnover = 0
          for (const e of elements)
            for (const [t, node] of Object.entries(e.nodes)) {
              const i = Number(solution.values[`I(${e.id}.${t})`])
              const v = node === '0' ? 0 : Number(solution.values[`V(${node})`])
              expect(Number.isFinite(i) && Number.isFinite(v)).toBe(true)
              power += v * i
              turnover += Math.abs(v * i)
            }
          expect(Math.abs(power)).toBeLessThanOrEqual(1e-6 * Math.max(1, turnover))
        },
      ),
      { numRuns: 300 },
    )
  })
  test('hardly any random wiring fails to settle', () => {
    let unsettled = 0
    fc.assert(
      fc.property(
        fc
          .integer({ min: 2, max: 9 })
          .chain((n) => fc.tuple(...Array.from({ length: n }, (_, i) => anyElement(i)))),
        (elements) => {
          if (solveCircuit(elements, new Map()).solution.findings.some((f) => f.code === 'UNSETTLED'))
            unsettled += 1
        },
      ),
      { numRuns: 300, seed: 20317 },
    )
    expect(unsettled).toBeLessThanOrEqual(3)
  })
})

test('elimination solves what it is given and refuses a singular matrix', () => {
  const r = new Float64Array([5, 10])
  expect(eliminate(new Float64Array([0, 2, 3, 1]), r, 2)).toBe(true)
  expect([...r]).toEqual([2.5, 2.5])
  expect(eliminate(new Float64Array([1, 2, 2, 4]), new Float64Array([1, 2]), 2)).toBe(false)
})

describe('a fuse at its rating', () => {
  const state = (ohm: number) =>
    solveCircuit(
      parseNet(
        `PS supply p=P n=0 v=24 rs=0.05 ; F fuse a=P b=Q rating=0.1 r=2 blow=1.5 ; R resistor a=Q b=0 r=${ohm}`,
      ).elements,
      new Map(),
    ).solution.values['state(F)']
  // 24 V over all that is in the way: 150 mA are one and a half times the rating.
  const at_A = (i: number) => 24 / i - 2.05
  test.each([
    [0.1, 'ok'],
    [0.1499, 'ok'],
    [0.1501, 'blown'],
  ])('%s A: %s', (i, told) => expect(state(at_A(i))).toBe(told))
})

test('nodes of an island are told: their voltage to 0 V means nothing', () => {
  const { solution } = solveCircuit(
    [
      { id: 'PS', type: 'supply', nodes: { p: 'P', n: 'N' }, params: {} },
      { id: 'R', type: 'resistor', nodes: { a: 'P', b: 'N' }, params: { r: 1000 } },
      { id: 'G', type: 'resistor', nodes: { a: 'X', b: '0' }, params: { r: 1000 } },
    ],
    new Map(),
  )
  expect([...solution.floating].sort()).toEqual(['N', 'P'])
})
