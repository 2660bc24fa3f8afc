import { randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type { LoopDetail } from '@calm/contract/loops'
import type { SettingsReadBack } from '@calm/contract/read-back'
import { factsOf } from '@calm/core/loop/facts'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let loop: LoopDetail
let sheet: readonly { says: string; value: string }[] = []
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  loop = (await wren.get('/api/loops/FT-203').expect(200)).body as LoopDetail
  sheet = judgeSetUp(factsOf(loop.document))?.sheet ?? []
})
afterAll(() => app.stop())

const send = (change: object, tag = 'FT-203') =>
  wren.post(`/api/loops/${tag}/read-backs`).send({
    id: randomUUID(),
    at: '2026-11-25T10:00:00.000Z',
    revision: loop.revision,
    lines: sheet.map((l) => ({ says: l.says, read: l.value })),
    ...change,
  })

describe('what a device shows of the settings sheet', () => {
  test('all the same is kept once, under the name of who read it', async () => {
    const id = randomUUID()
    const answers = await Promise.all([send({ id }), send({ id })])
    expect(answers.map((a) => a.status)).toEqual([201, 201])
    expect((answers[0].body as SettingsReadBack).lines.every((l) => l.same)).toBe(true)
    const events = (await wren.get('/api/loops/FT-203/events').expect(200)).body as StoredEvent[]
    const kept = events.filter((e) => e.type === 'settings.readBack')
    expect(kept).toHaveLength(1)
    expect(kept[0]?.byName).toMatch(/Wren/)
    expect((await wren.get('/api/loops/FT-203/chain').expect(200)).body).toMatchObject({ kind: 'whole' })
  })
  test('one that differs is told, and what nobody read is counted', async () => {
    const [first] = sheet
    const { body } = (await send({ lines: [{ says: first?.says, read: '999' }] }).expect(201)) as {
      body: SettingsReadBack
    }
    expect(body.lines[0]).toMatchObject({ same: false, read: '999', value: first?.value })
    expect(body.left).toBe(sheet.length - 1)
  })
  test.each<[string, () => object, number, string | null]>([
    ['a sheet that is older', () => ({ revision: loop.revision + 1 }), 409, null],
    ['a line that it has not', () => ({ lines: [{ says: 'Colour', read: 'blue' }] }), 422, 'lines.0.says'],
    ['nothing typed', () => ({ lines: [{ says: sheet[0]?.says, read: ' ' }] }), 422, 'lines.0.read'],
    ['nothing read', () => ({ lines: [] }), 422, 'lines'],
  ])('%s is refused', async (_what, change, status, path) => {
    const answer = await send(change())
    expect(answer.status).toBe(status)
    const paths = (answer.body as { errors?: { path: string }[] }).errors?.map((e) => e.path) ?? [null]
    expect(paths).toContain(path)
  })
  test('a viewer looks and records nothing', async () => {
    const tern = await app.as('tern')
    await tern.post('/api/loops/FT-203/read-backs').send({}).expect(403)
  })
})
