import { randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const diagnosis = (change: object = {}) => ({
  id: randomUUID(),
  at: '2026-11-25T10:00:00.000Z',
  revision: 1,
  levels: [{ values: { MA: 12, EU: 3.2 }, dir: 1 }],
  U: { MA: 0.005, EU: 0.01 },
  says: ['The error comes in between Loop and Controller.'],
  ...change,
})
const send = (body: unknown) => wren.post('/api/loops/PT-103/diagnoses').send(body as object)

describe('a diagnosis in the record', () => {
  test('is stored once however often it is sent, and the chain stays whole', async () => {
    const body = diagnosis()
    const answers = await Promise.all([send(body), send(body), send(body)])
    expect(answers.map((a) => a.status)).toEqual([201, 201, 201])
    expect(answers.filter((a) => (a.body as { stored: boolean }).stored)).toHaveLength(1)
    const events = (await wren.get('/api/loops/PT-103/events').expect(200)).body as StoredEvent[]
    expect(events.filter((e) => e.type === 'diagnosis.recorded')).toHaveLength(1)
    const { body: proof } = await wren.get('/api/loops/PT-103/chain').expect(200)
    expect(proof).toMatchObject({ kind: 'whole' })
    await send({ ...body, says: ['Something else.'] }).expect(409)
  })
  const wrong: readonly [why: string, change: object, path: string][] = [
    ['no readings', { levels: [] }, 'levels'],
    ['an unknown station', { levels: [{ values: { XX: 1 }, dir: 1 }] }, 'levels.0.values'],
    ['no time', { at: 'yesterday' }, 'at'],
  ]
  test.each(wrong)('%s is told with its path', async (_why, change, path) => {
    const res = await send(diagnosis(change)).expect(422)
    const errors = (res.body as { errors: { path: string }[] }).errors
    expect(errors.some((e) => e.path.startsWith(path))).toBe(true)
  })
  test('a viewer may look and not record', async () => {
    const tern = await app.as('tern')
    await tern.post('/api/loops/PT-103/diagnoses').send(diagnosis()).expect(403)
  })
})

describe('the pocket card', () => {
  test('as CSV at chosen levels, and as one small page', async () => {
    const csv = await wren.get('/api/loops/PT-103/pocket-card.csv?levels=0,12.5,100').expect(200)
    expect(csv.text.split('\r\n')[2]).toMatch(/^12.5,0.75/)
    const pdf = await wren.get('/api/loops/PT-103/pocket-card.pdf').expect(200)
    expect(pdf.headers['content-type']).toBe('application/pdf')
    expect((pdf.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
    await wren.get('/api/loops/PT-103/pocket-card.csv?levels=0,abc').expect(422)
  })
})
