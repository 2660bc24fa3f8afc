import { getEventListeners } from 'node:events'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { calculationNamed } from '@calm/core/catalogue'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { outOfReason } from '../calc/out-of-reason.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { calculate as work } from '../calc/work.ts'
import { startPool, type Pool } from './pool.ts'
import type { Work } from './work.ts'

describe('threads that may be ended', () => {
  let pool: Pool
  beforeAll(() => {
    pool = startPool(1)
  })
  afterAll(() => pool.stop())
  const calculate = (name: string, input: unknown) => pool.run(work, { calculation: name, input })
  test('a result, a refusal, and one after the other', async () => {
    const all = await Promise.all([
      calculate('signal.currentState', { mA: 3.5 }),
      calculate('signal.currentState', { mA: 'x' }),
      calculate('units.convert', { value: 1, from: 'bar', to: 'kPa' }),
    ])
    expect(all.map((o) => o.kind)).toEqual(['done', 'done', 'done'])
    expect(all[1]).toMatchObject({ result: { kind: 'refused' } })
  })
  test('a failure of ours is told as one and the thread goes on', async () => {
    await expect(calculate('no.such', {})).rejects.toThrow(/no calculation/)
    expect(await calculate('signal.currentState', { mA: 12 })).toMatchObject({ kind: 'done' })
  })
  test('one that does not come to an end is ended, one that eats all memory too; the next one is answered', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'calm-pool-'))
    const file = join(folder, 'worker.mjs')
    writeFileSync(
      file,
      `import { parentPort } from 'node:worker_threads'
       parentPort.on('message', ({ input: { calculation: name } }) => {
         const kept = []
         while (name === 'loop') kept.length = 0
         while (name === 'eat') kept.push(new Array(1e5).fill(name + kept.length))
         parentPort.postMessage({ ok: true, result: name })
       })
       parentPort.postMessage({ ready: true })`,
    )
    const hard = startPool(1, file)
    const run = (name: string) => hard.run(work, { calculation: name, input: null })
    const [loop, next, eat, last] = await Promise.all([run('loop'), run('a'), run('eat'), run('b')])
    expect(loop).toEqual({ kind: 'too-long' })
    expect(next).toEqual({ kind: 'done', result: 'a' })
    expect(['too-large', 'too-long']).toContain(eat.kind)
    expect(['done', 'busy']).toContain(last.kind)
    expect(await run('c')).toEqual({ kind: 'done', result: 'c' })
    await hard.stop()
    rmSync(folder, { recursive: true })
  })
  test('it tells how far it is; given up it ends at once, at work or waiting, and the next one is answered', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'calm-pool-'))
    const file = join(folder, 'worker.mjs')
    writeFileSync(
      file,
      `import { parentPort } from 'node:worker_threads'
       parentPort.on('message', ({ input: name }) => {
         for (const n of [1, 2]) parentPort.postMessage({ tells: name + n })
         while (name === 'loop');
         parentPort.postMessage({ ok: true, result: name })
       })
       parentPort.postMessage({ ready: true })`,
    )
    const hard = startPool(1, file)
    const endless: Work<string, string, string> = { name: 'any', time_ms: 600_000, memory_MB: 64 }
    const [atWork, waits, before] = [new AbortController(), new AbortController(), new AbortController()]
    before.abort()
    const told: string[] = []
    const heard = new Promise<void>((done) => {
      void hard
        .run(endless, 'loop', { signal: atWork.signal, tell: (t) => told.push(t) && t === 'loop2' && done() })
        .then((o) => told.push(o.kind))
    })
    const queued = hard.run(endless, 'queued', { signal: waits.signal })
    const next = hard.run(endless, 'next')
    expect(await hard.run(endless, 'never', { signal: before.signal })).toEqual({ kind: 'given-up' })
    waits.abort()
    expect(await queued).toEqual({ kind: 'given-up' })
    await heard
    atWork.abort()
    expect(await next).toEqual({ kind: 'done', result: 'next' })
    expect(told).toEqual(['loop1', 'loop2', 'given-up'])
    // Of many pieces behind one another none is kept in memory by what would give it up.
    const long = new AbortController()
    for (let i = 0; i < 3; i++) await hard.run(endless, `piece ${i}`, { signal: long.signal })
    expect(getEventListeners(long.signal, 'abort')).toEqual([])
    await hard.stop()
    rmSync(folder, { recursive: true })
  })
  test('a machine so busy that a thread starts in four seconds sends nobody away for it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'calm-pool-'))
    const file = join(folder, 'worker.mjs')
    writeFileSync(
      file,
      `import { parentPort } from 'node:worker_threads'
       parentPort.on('message', ({ input: name }) => parentPort.postMessage({ ok: true, result: name }))
       setTimeout(() => parentPort.postMessage({ ready: true }), 4_000)`,
    )
    const slow = startPool(1, file)
    const any: Work<string, string> = { name: 'any', time_ms: 1_000, memory_MB: 256 }
    expect(await Promise.all(['a', 'b'].map((name) => slow.run(any, name)))).toEqual([
      { kind: 'done', result: 'a' },
      { kind: 'done', result: 'b' },
    ])
    await slow.stop()
    rmSync(folder, { recursive: true })
  })
  test('stopped, it takes nothing more', async () => {
    const other = startPool(1)
    await other.stop()
    expect(await other.run(work, { calculation: 'signal.currentState', input: {} })).toEqual({
      kind: 'busy',
    })
  })
})

test.each<[string, unknown, string]>([
  ['the largest', { level: 3, tank: { height: 1e30 } }, 'tank.height'],
  ['the smallest', { a: 12, b: 1e-40 }, 'b'],
  ['a list without end', { a: 12, rows: Array.from({ length: 5000 }, () => 1) }, 'rows'],
  ['a negative one', { list: [1, -1e20] }, 'list.1'],
  ['nothing to suspect', {}, ''],
])('the field that is out of reason: %s', (_why, input, path) => {
  expect(outOfReason(input).where).toBe(path)
})

describe('no calculation holds the server', () => {
  let app: TestApp
  let wren: TestAgent
  beforeAll(async () => {
    app = await testApp()
    wren = await app.as('wren')
  })
  afterAll(() => app.stop())
  test('a tank of 1e30 m answers', async () => {
    const huge = (x: unknown): unknown =>
      typeof x === 'number'
        ? x * 1e30
        : typeof x === 'object' && x !== null && !Array.isArray(x)
          ? Object.fromEntries(Object.entries(x).map(([k, v]) => [k, huge(v)]))
          : x
    const { tank } = calculationNamed('tank.level')?.example as { tank: object }
    const res = await wren.post('/api/calc/tank.level').send({ tank: huge(tank), volume: 1e80 })
    expect(res.status).toBe(200)
    expect((res.body as { h: number }).h).toBeGreaterThan(1e20)
  })
})
