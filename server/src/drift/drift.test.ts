import type { DriftRow, LoopHistory } from '@calm/contract/drift'
import { eq } from 'drizzle-orm'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { loops } from '../record/schema.ts'
import { runs } from '../record/schema.ts'
import { testApp } from '../test/app.ts'
import { fillErrors } from './store.ts'

let app: Awaited<ReturnType<typeof testApp>>
let tern: TestAgent
beforeAll(async () => {
  app = await testApp()
  tern = await app.as('tern')
})
afterAll(() => app.stop())
const list = async () => (await tern.get('/api/drift').expect(200)).body as DriftRow[]

describe('who drifts', () => {
  test('loops with a history are listed, those that leave first at the top', async () => {
    const rows = await list()
    expect(rows.map((r) => r.tag)).toContain('PT-103')
    expect(rows.map((r) => r.tag)).not.toContain('ZS-305')
    const days = rows.map((r) => r.leavesOn ?? '9999')
    expect([...days].sort()).toEqual(days)
    for (const r of rows) {
      expect(r.recommended_months).toBe(Math.min(r.staircase_months, r.byDrift_months ?? 99))
      expect(r.significant).toBe(r.leavesOn !== null || (r.significant && r.byDrift_months === null))
    }
  })
  test('a loop tells its history, oldest first', async () => {
    const { past } = (await tern.get('/api/loops/PT-103/drift').expect(200)).body as LoopHistory
    expect(past.length).toBeGreaterThanOrEqual(3)
    expect(past.map((p) => p.at)).toEqual([...past.map((p) => p.at)].sort())
    expect(past[0]?.found.length).toBe(5)
    expect(((await tern.get('/api/loops/ZS-305/drift').expect(200)).body as LoopHistory).past).toEqual([])
  })
  test('verifications from before drift was kept are filled in, to the same list', async () => {
    const before = await list()
    await app.connection.db.update(runs).set({ errors: null })
    await app.connection.db.update(loops).set({ drift: null })
    expect(await list()).toEqual([])
    await fillErrors(app.connection.db)
    expect(await list()).toEqual(before)
    const left = await app.connection.db.select().from(runs).where(eq(runs.state, 'countersigned'))
    expect(left.every((r) => r.errors !== null)).toBe(true)
  })
})
