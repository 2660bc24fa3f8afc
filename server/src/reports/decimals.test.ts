import type { Log } from '@calm/contract/logs'
import type { DecimalSign } from '@calm/core/quantity/decimal-sign'
import type { TDocumentDefinitions } from 'pdfmake/interfaces.js'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest'
import { testApp } from '../test/app.ts'
import { asBuffer } from '../test/as-buffer.ts'
import type { Work } from '../work/work.ts'
import { certificatePdf } from './certificate.ts'
import { pdfLibrary } from './fonts.ts'
import { logPdf } from './log-report.ts'
import { settingsSheetPdf } from './settings-sheet.ts'
import type { Stationery } from './stationery.ts'
import { printCertificate, printLog, printSettingsSheet } from './work.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

/** Everything that is read on a paper: its texts, those of its drawings, what its drawings show in words. */
function readOn(node: unknown): string[] {
  if (typeof node === 'string') return [node]
  if (Array.isArray(node)) return node.flatMap(readOn)
  if (node === null || typeof node !== 'object') return []
  const { text, stack, columns, ul, table, svg, alt } = node as Record<string, unknown>
  const drawn = typeof svg === 'string' ? [...svg.matchAll(/>([^<>]+)<\/text>/g)].map((m) => m[1] ?? '') : []
  const body = (table as { body?: unknown } | undefined)?.body
  return [...[text, stack, columns, ul, body, alt].flatMap(readOn), ...drawn]
}
/** What a request has printed, printed once more with the plant's decimals as told. */
async function printed<D extends { readonly stationery: Stationery }>(
  path: string,
  work: Work<D, unknown>,
  print: (data: D) => Promise<Buffer> | null,
): Promise<(sign: DecimalSign) => Promise<string[]>> {
  const run = vi.spyOn(app.parts.pool, 'run')
  await wren.get(path).expect(200)
  const data = run.mock.calls.find(([w]) => w.name === work.name)?.[1] as D
  run.mockRestore()
  return async (sign) => {
    const create = vi.spyOn(pdfLibrary(), 'createPdf')
    await print({ ...data, stationery: { ...data.stationery, sign } })
    const paper = create.mock.calls[0]?.[0] as TDocumentDefinitions
    create.mockRestore()
    return readOn(paper.content)
  }
}

/** What people typed: their words stand on the paper as they are, numbers and all. */
const TYPED = '7.31 as typed'
const typedIn = <T extends object>(x: T, ...fields: readonly (keyof T)[]): T => ({
  ...x,
  ...Object.fromEntries(fields.map((f) => [f, TYPED])),
})
const withDecimal = (texts: readonly string[]) => texts.filter((t) => /\d\.\d/.test(t))
const idsOf = async (path: string): Promise<string[]> =>
  ((await wren.get(path).expect(200)).body as { id: string }[]).map((x) => x.id)

const typedLog = (log: Log): Log => ({
  ...typedIn(log, 'title', 'site', 'instrument', 'byName'),
  files: [TYPED],
  channels: log.channels.map((c) => typedIn(c, 'name')),
})
const aLog = async (): Promise<Log> => {
  const [log] = (await wren.get('/api/logs').expect(200)).body as Log[]
  if (!log) throw new Error('the demo plant has no log')
  return log
}

describe('a plant that writes decimals with a comma has one sign on a paper, and typed words stay', () => {
  test('certificates', async () => {
    for (const tag of ['FT-101', 'FT-203', 'AT-204', 'PDT-201'])
      for (const id of (await idsOf(`/api/loops/${tag}/runs`)).slice(0, 1)) {
        const paper = await printed(`/api/runs/${id}/certificate.pdf`, printCertificate, (d) =>
          certificatePdf({
            ...d,
            document: typedIn(d.document, 'tag', 'service', 'area'),
            equipment: d.equipment.map((e) => typedIn(e, 'name', 'serial', 'uncertainty', 'certificate')),
            names: Object.fromEntries(Object.keys(d.names).map((by) => [by, TYPED])),
            stationery: { ...d.stationery, letterhead: { name: TYPED, address: TYPED, country: '' } },
            run: {
              ...d.run,
              adjustments: d.run.adjustments.map((a) => typedIn(a, 'note')),
              signatures: d.run.signatures.map((s) => typedIn(s, 'statement')),
              returned: [{ by: 'x', at: d.run.startedAt, reason: TYPED }],
              started: {
                ...d.run.started,
                circumstances: {
                  maker: TYPED,
                  model: TYPED,
                  serial: TYPED,
                  order: TYPED,
                  place: TYPED,
                  ambient: TYPED,
                  procedure: TYPED,
                },
              },
            },
          }),
        )
        await holds(paper, 10)
      }
  })
  test('settings sheets', async () => {
    for (const tag of ['FT-203', 'FT-206', 'FT-304', 'AT-204'])
      await holds(
        await printed(`/api/loops/${tag}/settings-sheet.pdf`, printSettingsSheet, (d) =>
          settingsSheetPdf({ ...d, document: typedIn(d.document, 'tag', 'service', 'area') }),
        ),
        1,
      )
  })
  test('reports of logs', async () => {
    const log = await aLog()
    await holds(
      await printed(
        `/api/loops/${log.tag}/logs/${log.id}/report.pdf?channel=0&from=${log.from}&to=${log.to}&beside=${log.id}.0`,
        printLog,
        (d) =>
          logPdf({
            ...d,
            document: typedIn(d.document, 'tag', 'service'),
            log: typedLog(d.log),
            beside: d.beside.map((b) => ({ ...b, log: typedLog(b.log) })),
          }),
      ),
      3,
    )
  })
  test('drawings, by the rule of the plant', async () => {
    const plover = await app.as('plover')
    const log = await aLog()
    for (const path of [
      `/api/loops/${log.tag}/logs/${log.id}/plot.svg?channel=0&from=${log.from}&to=${log.to}`,
      '/api/loops/PT-202/wiring.svg',
    ]) {
      const read = async () => {
        const { body } = await wren.get(path).buffer(true).parse(asBuffer).expect(200)
        return readOn({ svg: (body as Buffer).toString() })
      }
      const point = await read()
      await plover.put('/api/plant/rules').send({ decimalSign: 'comma' }).expect(200)
      const comma = await read()
      await plover.put('/api/plant/rules').send({ decimalSign: 'point' }).expect(200)
      expect(withDecimal(comma)).toEqual([])
      expect(withDecimal(point).length).toBeGreaterThan(0)
      expect(comma.map((t) => t.replaceAll(/(\d),(\d)/g, '$1.$2'))).toEqual(point)
    }
  })
})

/** @param least - so many decimals of the program stand on it */
async function holds(paper: (sign: DecimalSign) => Promise<string[]>, least: number): Promise<void> {
  const [comma, point] = [await paper('comma'), await paper('point')]
  expect(new Set(withDecimal(comma.map((t) => t.replaceAll(TYPED, ''))))).toEqual(new Set())
  const typed = (texts: readonly string[]) => texts.join('\n').split(TYPED).length
  expect(typed(comma)).toBe(typed(point))
  expect(withDecimal(point).length - withDecimal(comma).length).toBeGreaterThanOrEqual(least)
  // Nothing but the sign differs.
  expect(comma.map((t) => t.replaceAll(/(\d),(\d)/g, '$1.$2'))).toEqual(
    point.map((t) => t.replaceAll(/(\d),(\d)/g, '$1.$2')),
  )
}
