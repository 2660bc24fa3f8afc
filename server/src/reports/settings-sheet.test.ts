import { afterAll, beforeAll, expect, test } from 'vitest'
import { inflateSync } from 'node:zlib'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const sheetOf = async (tag: string) => wren.get(`/api/loops/${tag}/settings-sheet.pdf`).buffer()
const pages = (pdf: Buffer) => [...pdf.toString('latin1').matchAll(/\/Type \/Page\b/g)].length
/** Marks of a file's pages: what a reader hears them to be. */
function roles(pdf: Buffer): Set<string> {
  const text = pdf.toString('latin1')
  const found = new Set<string>()
  for (const m of text.matchAll(/stream\r?\n/g)) {
    const from = m.index + m[0].length
    try {
      const stream = inflateSync(pdf.subarray(from, text.indexOf('endstream', from))).toString('latin1')
      for (const [, role = ''] of stream.matchAll(/\/(\w+) <<[^>]*>> BDC/g)) found.add(role)
    } catch {
      // No text in it: a font, or what lies behind it.
    }
  }
  return found
}

test.each([
  'FT-101',
  'FT-203',
  'FT-206',
  'FT-402',
  'FT-403',
  'LT-301',
  'PT-103',
  'TT-205',
  'AT-204',
  'FT-304',
])('the sheet of %s is printed, with its parts', async (tag) => {
  const res = await sheetOf(tag)
  expect([res.status, res.headers['content-type']]).toEqual([200, 'application/pdf'])
  expect(res.headers['content-disposition']).toContain(`${tag}-settings.pdf`)
  const pdf = res.body as Buffer
  expect(pages(pdf)).toBeGreaterThan(0)
  expect(roles(pdf)).toEqual(new Set(['H1', 'H2', 'P', 'TD', 'TH', 'LI', 'Artifact']))
})
test('a loop whose set-up nobody has begun has none, and says so', async () => {
  const res = await wren.get('/api/loops/LI-303/settings-sheet.pdf')
  expect([res.status, (res.body as { title: string }).title]).toEqual([
    409,
    'Nobody has begun a set-up of this loop: it has no settings sheet.',
  ])
})
test('no loop, no sheet', async () => {
  expect((await wren.get('/api/loops/NO-1/settings-sheet.pdf')).status).toBe(404)
})
