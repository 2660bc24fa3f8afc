import type { Person } from '@calm/contract/people'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { saveRevisionIn } from '../loops/store.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { documentsByTag } from './documents.ts'
import { standingOf } from './standing.ts'

let app: TestApp
beforeAll(async () => {
  app = await testApp()
})
afterAll(() => app.stop())

const TAG = 'PT-103'
const loop = async () => {
  const found = (await documentsByTag(app.connection.db)).get(TAG)
  if (!found) throw new Error(`${TAG} is not there`)
  return found
}
const remark = async () => {
  const { id } = await loop()
  return (await app.connection.db.transaction((tx) => standingOf(tx, id, [], []))).document.remark
}
/** Saves a remark as the next revision, by a person of the plant. */
async function save(text: string, { thenFail = false, on = app } = {}): Promise<void> {
  const { id, revision, document } = await loop()
  const { rows } = await app.connection.pool.query<{ id: string }>(
    `select id from people where name = 'wren'`,
  )
  const wren: Person = {
    id: rows[0]?.id ?? '',
    name: 'wren',
    shownName: 'wren',
    role: 'technician',
    areas: [],
    areaRoles: {},
  }
  await on.connection.db.transaction(async (tx) => {
    await saveRevisionIn(tx, id, revision, { ...document, remark: text }, wren, 'a test', testClock())
    // Seen by the transaction that wrote it, before anybody knows whether it stays.
    expect((await standingOf(tx, id, [], [])).document.remark).toBe(text)
    if (thenFail) throw new Error('given up')
  })
}

describe('a document that was seen is not read again', () => {
  test('it is the same one, not a copy', async () => {
    const { id } = await loop()
    const both = [0, 1].map(() => app.connection.db.transaction((tx) => standingOf(tx, id, [], [])))
    const [first] = await Promise.all(both)
    const { document } = await app.connection.db.transaction((tx) => standingOf(tx, id, [], []))
    expect(document).toEqual(first?.document)
    const again = await app.connection.db.transaction((tx) => standingOf(tx, id, [], []))
    expect(again.document).toBe(document)
  })
  test('a new revision is read', async () => {
    await save('the first')
    expect(await remark()).toBe('the first')
    await save('the second')
    expect(await remark()).toBe('the second')
  })
  test('one that was given up is forgotten, also where another one has its number then', async () => {
    await save('kept')
    await expect(save('given up', { thenFail: true })).rejects.toThrow('given up')
    expect(await remark()).toBe('kept')
    await save('in its place')
    expect(await remark()).toBe('in its place')
  })
  test('one that another server saved is read', async () => {
    await remark()
    const other = await testApp({ beside: app })
    await save('from beside', { on: other })
    expect(await remark()).toBe('from beside')
    await other.stop()
  })
  test('a row that was changed past the program is read as it is', async () => {
    await remark()
    await app.tamper(
      `update loop_revisions set document = jsonb_set(document, '{remark}', '"forged"') where loop_id = '${(await loop()).id}'`,
    )
    expect(await remark()).toBe('forged')
  })
})
