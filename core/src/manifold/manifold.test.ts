import { expect, test } from 'vitest'
import { answer } from '../calculation.ts'
import { procedureCalculations } from '../procedure/calculations.ts'
import { judgeSequence, manifold, SEQUENCES, type AnyManifold } from './manifold.ts'

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
