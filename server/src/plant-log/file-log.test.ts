import { randomUUID } from 'node:crypto'
import type { LogPage } from '@calm/contract/plant-log'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { asBuffer } from '../test/as-buffer.ts'

let app: TestApp
let heron: TestAgent
beforeAll(async () => {
  app = await testApp()
  heron = await app.as('heron')
})
afterAll(() => app.stop())
const left = async () => {
  const { body } = await heron.get('/api/log?group=imports and exports').expect(200)
  return (body as LogPage).entries
    .filter((e) => e.type === 'file.fetched')
    .map((e) => `${e.byName}: ${e.says}`)
}

describe('a file that leaves the house', () => {
  test('stands in the log under the name of who took it', async () => {
    const wren = await app.as('wren')
    const before = (await left()).length
    await wren.get('/api/loop-list.csv').expect(200)
    await wren.get('/api/loops/PT-202/settings-sheet.pdf').buffer(true).parse(asBuffer).expect(200)
    const told = await left()
    expect(told).toHaveLength(before + 2)
    expect(told.slice(0, 2).join('\n')).toContain('Wren')
    expect(told.slice(0, 2).join('\n')).toMatch(/PT-202.*\.pdf/)
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
  test('what is only looked at, refused or not there is none', async () => {
    const before = await left()
    const tern = await app.as('tern')
    await tern.get('/api/loops/PT-202').expect(200)
    await tern.get('/api/loops/XX-999/settings-sheet.pdf').expect(404)
    await tern.get(`/api/surveys/${randomUUID()}/report.pdf`).expect(404)
    expect(await left()).toEqual(before)
  })
  test('a package tells more of itself, once', async () => {
    const before = await left()
    await heron.get('/api/loops/PT-202/package.zip').buffer(true).parse(asBuffer).expect(200)
    expect(await left()).toEqual(before)
  })
})
