import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { asBuffer } from '../test/as-buffer.ts'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
beforeAll(async () => {
  app = await testApp()
})
afterAll(async () => {
  await app.stop()
})
const pageBox = (pdf: Buffer) => /\/MediaBox \[([^\]]+)\]/.exec(pdf.toString('latin1'))?.[1]?.trim()

describe('the wiring as a drawing to hand over', () => {
  test('as SVG: tag, revision and every wire on it', async () => {
    const wren = await app.as('wren')
    const res = await wren.get('/api/loops/PT-202/wiring.svg').expect(200)
    expect(res.headers['content-type']).toMatch('image/svg+xml')
    const svg = String(res.body instanceof Buffer ? res.body : res.text)
    expect(svg).toContain('>PT-202</text>')
    expect(svg).toMatch(/revision \d+, 20\d\d-\d\d-\d\d \d\d:\d\d UTC, /)
    expect(svg.match(/<path /g)?.length).toBeGreaterThan(5)
  })
  test('it says its time as the other papers of the plant do', async () => {
    const wren = await app.as('wren')
    await wren
      .put('/api/plant/rules')
      .send({ dates: { form: 'dots', timeZone: 'Asia/Kolkata' } })
      .expect(200)
    const res = await wren.get('/api/loops/PT-202/wiring.svg').expect(200)
    const svg = String(res.body instanceof Buffer ? res.body : res.text)
    expect(svg).toMatch(/revision \d+, \d\d\.\d\d\.20\d\d \d\d:\d\d UTC\+5:30, /)
    await wren
      .put('/api/plant/rules')
      .send({ dates: { form: 'iso', timeZone: 'UTC' } })
      .expect(200)
  })
  test.each([
    ['A4', '0 0 841.89 595.28'],
    ['letter', '0 0 792 612'],
  ] as const)('as PDF on %s, lying on its side', async (paper, box) => {
    const wren = await app.as('wren')
    await wren.put('/api/plant/rules').send({ paper }).expect(200)
    const pdf = await wren.get('/api/loops/PT-202/wiring.pdf').buffer(true).parse(asBuffer).expect(200)
    expect((pdf.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
    expect(pageBox(pdf.body as Buffer)).toBe(box)
  })
  test('a loop that nobody has wired says so', async () => {
    const wren = await app.as('wren')
    const res = await wren.get('/api/loops/TT-407/wiring.svg').expect(409)
    expect(JSON.stringify(res.body)).toContain('Nothing is wired')
  })
})

describe('sign-ins on the page', () => {
  test('nobody is named outside the demo plant', async () => {
    const own = await testApp({ settings: { demo: [] } })
    expect((await own.anyone().get('/api/session/demo').expect(200)).body).toEqual([])
    await own.stop()
  })
  test('the demo plant names its own, and only who is in it', async () => {
    const demo = await testApp({
      settings: {
        demo: ['wren', 'nobody-here'].map((name) => ({
          name,
          shownName: name,
          role: 'technician',
          password: 'x',
        })),
      },
    })
    const res = await demo.anyone().get('/api/session/demo').expect(200)
    expect((res.body as { name: string }[]).map((p) => p.name)).toEqual(['wren'])
    await demo.stop()
  })
})
