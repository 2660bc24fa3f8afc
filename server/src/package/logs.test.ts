import type { Log, LogView } from '@calm/contract/logs'
import type { LoopPackage } from '@calm/contract/loop-package'
import { isRefused } from '@calm/core/refused'
import { strFromU8, strToU8, unzipSync } from 'fflate'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { provedLogsOf } from './log-files.ts'

const TAG = 'PT-405'
let here: TestApp
let elsewhere: TestApp
let [ours, theirs]: TestAgent[] = []
let bytes: Buffer
const packageOf = async (who: TestAgent | undefined) =>
  (await who?.get(`/api/loops/${TAG}/package.zip`).buffer(true).parse(asBuffer).expect(200))?.body as Buffer
beforeAll(async () => {
  here = await testApp()
  elsewhere = await testApp({ own: true })
  await elsewhere.tamper('truncate loops, loop_revisions, runs, events, stand_ins cascade')
  ours = await here.as('wren')
  theirs = await elsewhere.as('wren')
  bytes = await packageOf(ours)
})
afterAll(async () => {
  await here.stop()
  await elsewhere.stop()
})
const logOf = async (who: TestAgent | undefined): Promise<Log> => {
  const all = (await who?.get('/api/logs').expect(200))?.body as Log[]
  const log = all.find((l) => l.tag === TAG)
  if (!log) throw new Error('no log')
  return log
}
const filesOf = () => new Map(Object.entries(unzipSync(new Uint8Array(bytes))))
const eventsOf = (files: ReadonlyMap<string, Uint8Array>) =>
  (JSON.parse(strFromU8(files.get('loop.json') ?? new Uint8Array())) as LoopPackage).events
const find = (files: ReadonlyMap<string, Uint8Array>, end: string) =>
  [...files.keys()].find((n) => n.startsWith('logs/') && n.endsWith(end)) ?? ''

describe('samples of a log in a package', () => {
  test('go along, and are seen and judged elsewhere as they were here', async () => {
    await theirs?.post('/api/packages').set('Content-Type', 'application/zip').send(bytes).expect(200)
    const [a, b] = [await logOf(ours), await logOf(theirs)]
    expect({ ...b, at: '', byName: '', instrument: null, pieces: 0 }).toEqual({
      ...{ ...a, at: '', byName: '', instrument: null, pieces: 0 },
    })
    const view = async (who: TestAgent | undefined) =>
      (await who?.get(`/api/loops/${TAG}/logs/${a.id}/view?from=${a.from}&to=${a.to}&width=400`).expect(200))
        ?.body as LogView
    expect(await view(theirs)).toEqual(await view(ours))
  })
  test('and from there further on, with the same bytes', async () => {
    const again = new Map(Object.entries(unzipSync(new Uint8Array(await packageOf(theirs)))))
    const name = find(again, '.f64')
    expect(again.get(name)).toEqual(filesOf().get(name))
  })
  test('changed or gone there they are found', async () => {
    const { id } = await logOf(theirs)
    // Its own loops were taken out of that plant before the test: of its record only the logs are asked.
    const found = async () =>
      (await provePlant(elsewhere.connection.db)).mismatches
        .filter((m) => m.field === 'log')
        .map((m) => m.says)
    expect(await found()).toEqual([])
    await elsewhere.tamper(
      `update log_blocks set samples = set_byte(samples, 20, get_byte(samples, 20) # 1) where log_id = '${id}' and block = 1`,
    )
    expect(await found()).toEqual([expect.stringContaining('are gone, or were changed')])
    await elsewhere.tamper(`delete from logs where id = '${id}'`)
    expect(await found()).toEqual([expect.stringContaining('are gone, or were changed')])
  })
})

describe('a package whose samples are not those of the record', () => {
  const proved = (change: (files: Map<string, Uint8Array>) => void) => {
    const files = filesOf()
    const events = eventsOf(files)
    change(files)
    const told = provedLogsOf(files, events)
    return isRefused(told) ? told.where : told.length
  }
  const f64 = () => find(filesOf(), '.f64')
  const json = () => find(filesOf(), '.json')
  const meta = (change: (m: { blocks: number[]; kinds: string[] }) => void) =>
    proved((files) => {
      const m = JSON.parse(strFromU8(files.get(json()) ?? new Uint8Array())) as Parameters<typeof change>[0]
      change(m)
      files.set(json(), strToU8(JSON.stringify(m)))
    })
  test('as it was made it is whole', () => {
    expect(proved(() => undefined)).toBe(1)
  })
  test('without both files the samples stayed behind', () => {
    expect(
      proved((files) => {
        files.delete(f64())
        files.delete(json())
      }),
    ).toBe(0)
  })
  test('one byte', () => {
    expect(
      proved((files) => {
        const data = Uint8Array.from(files.get(f64()) ?? [])
        data[33] = (data[33] ?? 0) ^ 1
        files.set(f64(), data)
      }),
    ).toBe(f64())
  })
  test('a row too many, or too few', () => {
    for (const by of [16, -16])
      expect(
        proved((files) => {
          const data = files.get(f64()) ?? new Uint8Array()
          const other = new Uint8Array(data.length + by)
          other.set(data.subarray(0, other.length))
          files.set(f64(), other)
        }),
      ).toBe(f64())
  })
  test('one of its two files is missing', () => {
    expect(proved((files) => files.delete(json()))).toBe(json())
    expect(proved((files) => files.delete(f64()))).toBe(f64())
  })
  test('blocks that lie otherwise', () => {
    const moved = meta((m) => {
      m.blocks[0] = (m.blocks[0] ?? 0) - 1
      m.blocks[1] = (m.blocks[1] ?? 0) + 1
    })
    expect([f64(), json()]).toContain(moved)
    expect(meta((m) => m.kinds.push('value'))).toBe(json())
    expect(meta((m) => (m.blocks = []))).toBe(f64())
    expect(meta((m) => (m.blocks = [-1, 7201]))).toBe(json())
  })
})
