import type { OwnPart } from '@calm/core/part/own-part'
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

const part = (title: string, change: Partial<OwnPart> = {}): OwnPart => ({
  title,
  printed: { plus: '13', minus: '14' },
  kind: 'two-wire-transmitter',
  settings: { lift_V: 11 },
  ...change,
})
const list = async () => (await wren.get('/api/own-parts').expect(200)).body as OwnPart[]
const take = (...parts: unknown[]) => wren.post('/api/own-parts').send({ parts })

describe('parts of the plant’s own', () => {
  test('are kept by name; the same name again is the newer one; let go, they are gone', async () => {
    await take(part('Brine transmitter'), part('Acid transmitter')).expect(200)
    await take(part('Brine transmitter', { settings: { lift_V: 9 } })).expect(200)
    expect((await list()).map((p) => [p.title, p.settings])).toEqual([
      ['Acid transmitter', { lift_V: 11 }],
      ['Brine transmitter', { lift_V: 9 }],
    ])
    await wren.delete('/api/own-parts/Acid%20transmitter').expect(200)
    expect((await list()).map((p) => p.title)).toEqual(['Brine transmitter'])
  })
  test('two who add at once both have theirs in it', async () => {
    await Promise.all(['A', 'B', 'C', 'D'].map((n) => take(part(`Twin ${n}`)).expect(200)))
    expect((await list()).filter((p) => p.title.startsWith('Twin'))).toHaveLength(4)
  })
  test.each<[string, unknown, string, string]>([
    ['of no kind', { ...part('X'), kind: 'flux' }, 'parts.0.kind', 'There is no part “flux”.'],
    [
      'with a label that cannot be',
      part('X', { settings: { lift_V: -3 } }),
      'parts.0.settings.lift_V',
      'Lift-off voltage is -3 V; possible is 1 to 40 V.',
    ],
    [
      'with a terminal that it has not',
      part('X', { printed: { L9: '9' } }),
      'parts.0.printed.L9',
      'A 2-wire transmitter has no terminal L9.',
    ],
    ['without a name', part(' '), 'parts.0.title', 'Give the part a name.'],
    ['from elsewhere', { name: 'pump', pins: 3 }, 'parts.0.kind', 'This is missing.'],
  ])('%s: refused at its place, nothing stored', async (_what, body, path, says) => {
    const before = await list()
    const answer = await take(part('Good one'), body).expect(422)
    const { errors } = answer.body as { errors: { path: string; says: string }[] }
    expect(errors.find((e) => e.path === path.replace('parts.0', 'parts.1'))?.says).toBe(says)
    expect(await list()).toEqual(before)
  })
  test('a viewer looks and does not add', async () => {
    const tern = await app.as('tern')
    await tern.get('/api/own-parts').expect(200)
    await tern
      .post('/api/own-parts')
      .send({ parts: [part('X')] })
      .expect(403)
  })
})
