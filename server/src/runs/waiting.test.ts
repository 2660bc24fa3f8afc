import type { WaitingRecord } from '@calm/contract/signatures'
import { randomUUID } from 'node:crypto'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { asLeft, close, events, read, send, sign, starter } from '../test/verification.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let heron: TestAgent
let plover: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  heron = await app.as('heron')
  plover = await app.as('plover')
})
afterAll(() => app.stop())

const waiting = async (who: TestAgent): Promise<WaitingRecord[]> =>
  (await who.get('/api/waiting-signatures').expect(200)).body as WaitingRecord[]
const one = async (who: TestAgent, run: string) => (await waiting(who)).find((w) => w.run === run)
const [older, runId] = [randomUUID(), randomUUID()]

describe('what waits for a signature', () => {
  test('nothing while it is read, then who did it, then another person, then nobody', async () => {
    const { begin } = await starter(wren)
    const whole = [0, 42.5, 85].map((x, i) => read(i, x))
    await send(wren, events(older, begin(), ...whole, close, asLeft)).expect(200)
    await send(wren, events(runId, begin(), ...whole)).expect(200)
    expect(await one(wren, runId)).toBeUndefined()
    await send(wren, events(runId, close, asLeft)).expect(200)
    expect(await one(wren, runId)).toMatchObject({
      kind: 'verification',
      title: 'Verification',
      loop: 'PT-202',
      byName: 'Wren (technician)',
      there: 0,
      asked: 2,
      waitsFor: 'performed',
      mine: true,
    })
    expect((await one(plover, runId))?.mine).toBe(false)
    await send(wren, events(runId, sign('technician'))).expect(200)
    expect([(await one(wren, runId))?.mine, (await one(heron, runId))?.mine]).toEqual([false, true])
    expect(await one(heron, runId)).toMatchObject({ there: 1, waitsFor: 'reviewed' })
  })
  test('the rules of the plant say for how many', async () => {
    await plover
      .put('/api/plant/rules')
      .send({ byKind: { any: { tolerance_pct: null, interval_months: null, signatures: 1 } } })
      .expect(200)
    expect(await one(heron, runId)).toBeUndefined()
    await plover
      .put('/api/plant/rules')
      .send({ byKind: { any: null } })
      .expect(200)
    expect(await one(heron, runId)).toMatchObject({ there: 1, asked: 2, waitsFor: 'reviewed' })
  })
  test('what one can give oneself comes first, though it is older', async () => {
    expect((await waiting(wren)).map((w) => [w.run, w.mine])).toEqual([
      [older, true],
      [runId, false],
    ])
  })
  test('a countersigned one waits no more', async () => {
    await send(heron, events(runId, sign('reviewer'))).expect(200)
    expect(await one(heron, runId)).toBeUndefined()
  })
  test('an archived loop waits for nothing', async () => {
    expect((await waiting(plover)).map((w) => w.run)).toEqual([older])
    await app.tamper(`update loops set archived_at = now() where tag = 'PT-202'`)
    expect(await waiting(plover)).toEqual([])
    await app.tamper(`update loops set archived_at = null where tag = 'PT-202'`)
  })
})
