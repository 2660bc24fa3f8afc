import { factsOf } from '@calm/core/loop/facts'
import { currentState } from '@calm/core/signal/current-state'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { loopDetail, loopIdOf } from '../loops/store.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { heldAgainst } from './held-against.ts'

let app: TestApp
beforeAll(async () => {
  app = await testApp()
})
afterAll(() => app.stop())
const documentOf = async (tag: string) => {
  const { db } = app.connection
  return (await loopDetail(db, await loopIdOf(db, tag))).document
}

describe('the levels of a loop behind its log', () => {
  test('where its current is no measurement any more, as NE 43 has it', async () => {
    const d = await documentOf('PT-405')
    const { range } = factsOf(d)
    const told = heldAgainst(d, range?.unit ?? '')
    const lines = told?.lines.filter((l) => l.kind === 'signal') ?? []
    const mA = lines.map(
      (l) => 4 + (16 * (l.at - (range?.low ?? 0))) / ((range?.high ?? 0) - (range?.low ?? 0)),
    )
    expect(mA.map((x) => Number(x.toFixed(6)))).toEqual([3.6, 3.8, 20.5, 21])
    expect(mA.map(currentState)).toEqual(['FAIL_LOW', 'MEASURE', 'MEASURE', 'FAIL_HIGH'])
  })
  test('a reversed range has them reversed', async () => {
    const d = await documentOf('PT-405')
    const path = d.path.map((s) =>
      s.kind === 'transmitter' ? { ...s, range: { ...s.range, low: s.range.high, high: s.range.low } } : s,
    )
    const unit = factsOf(d).range?.unit ?? ''
    const [a, b] = [heldAgainst(d, unit), heldAgainst({ ...d, path }, unit)]
    const at = (x: typeof a) => x?.lines.find((l) => l.name.startsWith('21 mA'))?.at ?? NaN
    expect(at(a)).toBeGreaterThan(a?.hi ?? NaN)
    expect(at(b)).toBeLessThan(b?.lo ?? NaN)
  })
  test('trips in the unit of the channel', async () => {
    const d = await documentOf('LT-102')
    const { range, relays } = factsOf(d)
    const unit = range?.unit ?? ''
    const other = unit === 'm' ? 'mm' : 'm'
    const trips = (u: string) => heldAgainst(d, u)?.lines.filter((l) => l.kind === 'trip') ?? []
    expect(relays?.plans.length).toBeGreaterThan(0)
    expect(trips(unit).length).toBeGreaterThan(0)
    expect(trips(other).map((l) => l.at)).toEqual(
      trips(unit).map((l) => expect.closeTo(l.at * (unit === 'm' ? 1000 : 0.001), 6) as number),
    )
  })
  test('none where a root bends the line between current and value', async () => {
    const d = await documentOf('FT-304')
    const facts = factsOf(d)
    const told = heldAgainst(d, facts.range?.unit ?? '')
    expect(facts.needsRoot).toBe(true)
    expect(told?.lines.filter((l) => l.kind === 'signal')).toEqual([])
  })
  test('of another quantity nothing is told', async () => {
    expect(heldAgainst(await documentOf('PT-405'), 'degC')).toBeNull()
  })
})
