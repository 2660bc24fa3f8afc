import { describe, expect, test } from 'vitest'
import { AT_REST, energise, type BenchState } from '../../part/energise.ts'
import { withoutWire, type Wiring } from '../../part/wiring.ts'
import { explain } from '../explain.ts'
import { culprits } from './culprit.ts'
import { judgeWiring } from './judge.ts'
import { CORRECT, wiringOf } from './test/wirings.ts'
import { tellJudgement } from './told.ts'

const right = wiringOf(CORRECT.find(([title]) => title === '2-wire')?.[1] ?? {})
const tell = (w: Wiring, change: Partial<BenchState> = {}) => {
  const state = { ...AT_REST, ...change }
  const e = energise(w, state)
  const j = judgeWiring(w)
  const found = j.verdict === 'wrong' ? (culprits(w)[0] ?? null) : null
  return tellJudgement(w, state, e, j, explain(w, state, e), found)
}
const codes = (w: Wiring, change: Partial<BenchState> = {}) => tell(w, change).map((f) => f.code)

describe('what is said of a judgement', () => {
  test('right, with how much was proved', () => {
    const [first] = tell(right)
    expect(first).toMatchObject({ code: 'WIRING_RIGHT', severity: 'good' })
    expect(first?.evidence?.[0]?.value).toMatch(/^\d+ statements in 5 states$/)
  })
  test('of several loops none is told for all of them', () => {
    const two = wiringOf({
      'PS-0': ['supply'],
      'PT-1': ['two-wire-transmitter'],
      'AI-1': ['analogue-input'],
      'PT-2': ['two-wire-transmitter'],
      'AI-2': ['analogue-input'],
    })
    expect(tell(two)[0]?.says).toBe(
      'The wiring is right: each of 2 transmitters is read by its own receiver, whatever the others send.',
    )
  })
  test('too few volts: what the part does not get comes before what it does not do', () => {
    const low = {
      ...right,
      parts: { ...right.parts, 'PS-1': { kind: 'supply', settings: { voltage_V: 7 } } },
    }
    expect(tell(low)[0]).toMatchObject({ severity: 'stop', where: ['PT-1'] })
    expect(tell(low)[0]?.says).toMatch(/^Not so: PT-1 keeps 12 to 42 V at its output/)
  })
  test('never beside a trouble of the moment, though the wiring be proved', () => {
    // More than any loop passes: a slider can be pushed there.
    const told = codes(right, { current_mA: 60 })
    expect(told.length).toBeGreaterThan(0)
    expect(told).not.toContain('WIRING_RIGHT')
  })
  test('not with the power off, not with a fault put in, not of nothing', () => {
    expect(codes(right, { power: false })).not.toContain('WIRING_RIGHT')
    expect(codes(right, { faults: [{ kind: 'open', wire: '1' }] })).not.toContain('WIRING_RIGHT')
    expect(codes({ ...right, wires: {} })).not.toContain('WIRING_RIGHT')
  })
  test('one thing is wrong: it is named, and everything holds after it', () => {
    const w = withoutWire(right, '1')
    expect(tell(w)[0]).toMatchObject({ code: 'CULPRIT', severity: 'stop' })
    expect(tell(w)[0]?.says).not.toMatch(/not the only thing/)
    const [first] = culprits(w)
    expect(first && judgeWiring(first.wiring).verdict).toBe('proved')
  })
  test('two things are wrong: nobody says that one mends all', () => {
    const w = withoutWire(withoutWire(right, '1'), '2')
    const [first] = tell(w)
    expect(first?.code).toBe('CULPRIT')
    expect(first?.says).toMatch(/not the only thing/)
    expect(first?.rule).toMatch(/no single change fixes everything/)
  })
})
