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
