import { expect, test, describe } from 'vitest'
import { answer } from '../calculation.ts'
import {
  judgeSequence,
  manifold,
  SEQUENCES,
  type AnyManifold,
  type ManifoldKind,
  type ValveMove,
  valvesOf,
} from './manifold.ts'
import { procedureCalculations } from '../procedure/calculations.ts'

const one = procedureCalculations.find((c) => c.name === 'procedure.manifold')

const judged = (...moves: string[]) => one && answer(one, { moves })

test.each([
  [['closeL', 'openE', 'closeH', 'openV'], { rule: null, zeroReady: true, inService: false }],
  [['closeH', 'openE', 'closeL', 'openV'], { rule: null, zeroReady: true, inService: false }],
  [
    ['closeL', 'openE', 'closeH', 'openV', 'closeV', 'openH', 'closeE', 'openL'],
    { rule: null, zeroReady: false, inService: true },
  ],
  [['openE'], { rule: 'THROUGH_FLOW', at: 0 }],
  [['closeL', 'openV'], { rule: 'VENT_TO_PROCESS', at: 1 }],
  [['closeL', 'closeH', 'openV'], { rule: 'ONE_SIDED_VENT', at: 2 }],
  [
    ['closeL', 'openE', 'closeH', 'openV', 'closeV', 'closeE', 'openH'],
    { rule: 'ONE_SIDED_PRESSURE', at: 6 },
  ],
])('one vent for both sides: %s', (moves, told) => {
  expect(judged(...moves)).toMatchObject({ kind: 'result', result: told })
})

test.each<AnyManifold>(['three-valve', 'five-valve', 'one-vent'])(
  'the order of work of a %s manifold breaks no rule, and ends in service',
  (kind) => {
    const { out, test: loaded, back } = SEQUENCES[kind]
    const start = manifold(kind, 'in service')
    const { rule, end } = judgeSequence(start, [...out, ...loaded, ...back])
    expect(rule).toBeNull()
    expect([...end.open].sort()).toEqual([...start.open].sort())
  },
)

describe('manifolds', () => {
  const moves = (text: string): ValveMove[] =>
    text.split(', ').map((m) => {
      const [verb = '', valve = ''] = m.split(' ')
      return { valve, to: verb === 'open' ? 'open' : 'close' }
    })
  const wrong: readonly [start: 'in service' | 'isolated', sequence: string, rule: string, at: number][] = [
    ['in service', 'open E', 'THROUGH_FLOW', 0],
    ['in service', 'close H, open VH', 'ONE_SIDED_PRESSURE', 1],
    ['in service', 'close L, open E, open VL', 'VENT_TO_PROCESS', 2],
    ['isolated', 'close VH, close VL, close E, open H', 'ONE_SIDED_PRESSURE', 3],
    ['isolated', 'open H', 'VENT_TO_PROCESS', 0],
  ]
  test.each(wrong)('%s, %s: %s at move %d', (start, sequence, rule, at) =>
    expect(judgeSequence(manifold('three-valve', start), moves(sequence))).toMatchObject({ rule, at }),
  )
  const swap = (m: ValveMove): ValveMove => {
    const other: Record<string, string> = { H: 'L', L: 'H', VH: 'VL', VL: 'VH', EH: 'EL', EL: 'EH' }
    return { ...m, valve: other[m.valve] ?? m.valve }
  }
  for (const kind of ['three-valve', 'five-valve'] as const satisfies ManifoldKind[])
    test.each([
      ['as written', (m: ValveMove) => m],
      ['other side first', swap],
    ] as const)(`${kind}: out, test and back break no rule, %s`, (_why, side) => {
      const out = judgeSequence(manifold(kind, 'in service'), SEQUENCES[kind].out.map(side))
      expect(out.rule).toBeNull()
      expect([...out.end.pressurised]).toEqual([])
      expect([...out.end.open].sort()).toEqual([...manifold(kind, 'isolated').open].sort())
      const tested = judgeSequence(out.end, SEQUENCES[kind].test.map(side))
      expect(tested.rule).toBeNull()
      const back = judgeSequence(tested.end, SEQUENCES[kind].back.map(side))
      expect([back.rule, [...back.end.open].sort()]).toEqual([null, ['H', 'L']])
      expect([...back.end.pressurised].filter((r) => r !== 'X').sort()).toEqual(['CH', 'CL'])
      expect(valvesOf(kind)).toHaveLength(5)
    })
})
