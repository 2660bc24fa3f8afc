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

const sum = (change: object = {}) => ({
  id: randomUUID(),
  at: '2026-11-25T10:00:00.000Z',
  calculation: 'signal.currentState',
  input: { mA: 3.5 },
  note: 'Seen at the marshalling cabinet.',
  ...change,
})
const send = (body: unknown, tag = 'PT-103') => wren.post(`/api/loops/${tag}/sums`).send(body as object)

describe('a quick sum put on a loop', () => {
  test('is done by the server, stands once in the record in words, under who did it', async () => {
    const body = sum()
    const answers = await Promise.all([send(body), send(body), send(body)])
    expect(answers.map((a) => a.status)).toEqual([201, 201, 201])
    expect(answers.filter((a) => (a.body as { stored: boolean }).stored)).toHaveLength(1)
    const events = (await wren.get('/api/loops/PT-103/events').expect(200)).body as StoredEvent[]
    const kept = events.filter((e) => e.type === 'sum.kept')
    expect(kept).toHaveLength(1)
    expect(kept[0]).toMatchObject({
      byName: 'Wren (technician)',
      payload: { asked: ['Loop current: 3.5 mA.'], note: 'Seen at the marshalling cabinet.' },
    })
    expect((kept[0]?.payload as { answer: string[] }).answer.join(' ')).toContain('failure')
    expect((await wren.get('/api/loops/PT-103/chain').expect(200)).body).toMatchObject({ kind: 'whole' })
    await send({ ...body, input: { mA: 12 } }).expect(409)
  })
  test('an answer that is sent along is not taken', async () => {
    const res = await send(sum({ answer: ['All is well.'] })).expect(422)
    expect(JSON.stringify(res.body)).toContain('answer')
  })
  const wrong: readonly [why: string, change: object, path: string][] = [
    ['a value that cannot be used', { input: { mA: 'a lot' } }, 'input.mA'],
    ['a value that is missing', { input: {} }, 'input.mA'],
    ['a sum that there is not', { calculation: 'signal.nothing' }, 'calculation'],
    ['a calculation that is no quick sum', { calculation: 'circuit.solve' }, 'calculation'],
    ['a note as long as a book', { note: 'x'.repeat(301) }, 'note'],
    ['a time that is none', { at: 'yesterday' }, 'at'],
  ]
  test.each(wrong)('%s is told with its path and nothing is kept', async (_why, change, path) => {
    const before = ((await wren.get('/api/loops/FT-101/events')).body as unknown[]).length
    const res = await send(sum(change), 'FT-101').expect(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
    expect(((await wren.get('/api/loops/FT-101/events')).body as unknown[]).length).toBe(before)
  })
  test('a loop that there is not is told; a viewer may look and not keep', async () => {
    await send(sum(), 'XX-1').expect(404)
    const tern = await app.as('tern')
    await tern.post('/api/loops/PT-103/sums').send(sum()).expect(403)
  })
})
