import { randomUUID } from 'node:crypto'
import type { RegisteredPerson } from '@calm/contract/people'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp, type TestApp } from '../test/app.ts'
import { certificateData } from '../reports/certificate-data.ts'
import { saySignaturesMissing } from '@calm/core/record/signing/asked'
import { asLeft, close, events, read, send, sign, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let heron: TestAgent
let second: TestAgent
let plover: TestAgent
let begin: Awaited<ReturnType<typeof starter>>['begin']
const decide = (rules: object) => plover.put('/api/plant/rules').send(rules)
const means = (statement: string) => ({
  type: 'signed' as const,
  payload: { as: 'reviewer' as const, statement },
})
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  heron = await app.as('heron')
  begin = (await starter(wren)).begin
  plover = await app.as('plover')
  const all = (await plover.get('/api/people/register').expect(200)).body as RegisteredPerson[]
  const dunlin = all.find((p) => p.name === 'dunlin')
  await plover
    .put(`/api/people/${dunlin?.id}`)
    .send({ shownName: dunlin?.shownName, role: 'reviewer', areas: [], until: null, reason: 'for this test' })
    .expect(200)
  second = await app.as('dunlin')
})
afterAll(() => app.stop())

/** Read through and signed as done by wren; further events in the same send. */
async function signed(...before: Parameters<typeof events>[1][]): Promise<string> {
  const run = randomUUID()
  await send(
    wren,
    events(
      run,
      begin(['GS-PC-011']),
      ...before,
      read(0, 0),
      read(1, 42.5),
      read(2, 85),
      close,
      asLeft,
      sign('technician'),
    ),
  ).expect(200)
  return run
}
const says = (res: { body: unknown }) => JSON.stringify(res.body)

test('who does the work, or reviews it, does not decide how it is judged and signed', async () => {
  for (const who of [wren, heron])
    for (const rules of [
      { signing: { second: ['reviewed'], apart: 'signed' } },
      { byKind: { any: { tolerance_pct: 50, interval_months: null, signatures: 1 } } },
      { decision: 'simple' },
      { retention_years: 1 },
    ])
      await who.put('/api/plant/rules').send(rules).expect(403)
})

describe('what a second signature means is the plant’s to choose', () => {
  test('a meaning that the plant does not use is refused, one that it uses is taken', async () => {
    await decide({ signing: { second: ['approved'], apart: 'signed' } }).expect(200)
    const run = await signed()
    const refused = await send(heron, events(run, means('reviewed by me')))
    expect([refused.status, says(refused)]).toEqual([422, expect.stringContaining('signs as approved')])
    await send(heron, events(run, means('approved by me'))).expect(200)
  })
  test('none at all is no rule', async () => {
    const res = await decide({ signing: { second: [], apart: 'signed' } }).expect(422)
    expect(says(res)).toContain('signing.second')
  })
})

describe('how many sign is by the kind of meter', () => {
  const asked = (signatures: number) =>
    decide({
      signing: { second: ['reviewed', 'approved'], apart: 'signed' },
      byKind: { any: { tolerance_pct: null, interval_months: null, signatures } },
    }).expect(200)
  const missing = async (run: string) => {
    const d = await certificateData(app.connection.db, run)
    return saySignaturesMissing(d.run.signatures.length, d.signaturesAsked)
  }
  test('a third one: another person, another meaning, and no fourth', async () => {
    await asked(3)
    const run = await signed()
    expect(await missing(run)).toMatch(/^1 of the 3/)
    await send(heron, events(run, means('reviewed'))).expect(200)
    expect(await missing(run)).toMatch(/^2 of the 3/)
    const again = await send(heron, events(run, means('approved')))
    expect([again.status, says(again)]).toEqual([409, expect.stringContaining('second person')])
    const same = await send(second, events(run, means('reviewed')))
    expect([same.status, says(same)]).toEqual([409, expect.stringContaining('means something else')])
    await send(second, events(run, means('approved'))).expect(200)
    expect(await missing(run)).toBeNull()
    const pdf = await wren.get(`/api/runs/${run}/certificate.pdf`).buffer().expect(200)
    expect((pdf.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
  })
  test('where two are asked for a third is not taken; where one is, nothing is missing', async () => {
    await asked(2)
    const run = await signed()
    await send(heron, events(run, means('reviewed'))).expect(200)
    const res = await send(second, events(run, means('approved')))
    expect([res.status, says(res)]).toEqual([409, expect.stringContaining('no more signatures')])
    await asked(1)
    expect(await missing(await signed())).toBeNull()
  })
})

describe('nobody reviews own work', () => {
  test('by the wider rule also not who took a reading in it', async () => {
    await decide({ signing: { second: ['reviewed'], apart: 'worked' } }).expect(200)
    const run = randomUUID()
    await send(wren, events(run, begin(['GS-PC-011']), read(0, 0))).expect(200)
    await send(second, events(run, read(1, 42.5))).expect(200)
    await send(wren, events(run, read(2, 85), close, asLeft, sign('technician'))).expect(200)
    const own = await send(second, events(run, means('reviewed')))
    expect([own.status, says(own)]).toEqual([403, expect.stringContaining('worked on this record')])
    await send(heron, events(run, means('reviewed'))).expect(200)
  })
  test('who gave it back did not work on it', async () => {
    const run = await signed()
    await send(heron, events(run, { type: 'returned', payload: { reason: 'look at point 2' } })).expect(200)
    await send(wren, events(run, asLeft, sign('technician'))).expect(200)
    await send(heron, events(run, means('reviewed'))).expect(200)
  })
})
