import { randomUUID } from 'node:crypto'
import type { Preview } from '@calm/contract/loop-list'
import { ProcedureClient } from './procedure-client.ts'
import type { Figure } from './report.ts'

const ROWS = 5000
const HEADINGS = 'Tag;Service;Area;Type;LRV;URV;Unit;Signal;Tolerance (% span);Interval (months)'

/** A loop list of 5 000 rows looked at, brought in, and undone as a whole. */
export async function importFigures(base: string): Promise<Figure[]> {
  const client = new ProcedureClient(base)
  await client.signIn()
  const rows = Array.from(
    { length: ROWS },
    (_, n) => `IM-${n};Skid ${n};7${n % 30} Import;pressure;0;${(n % 16) + 1};bar;4-20 mA;0,5;12`,
  )
  const text = [HEADINGS, ...rows].join('\n')
  const timed = async <T>(what: string, path: string, body: unknown): Promise<{ s: number; body: T }> => {
    const begun = performance.now()
    const answer = await fetch(base + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie: client.session },
      body: JSON.stringify(body),
    })
    const told = (await answer.json()) as T
    if (!answer.ok)
      throw new Error(`${what} answered ${answer.status}: ${JSON.stringify(told).slice(0, 300)}`)
    return { s: (performance.now() - begun) / 1000, body: told }
  }
  const look = await timed<Preview>('the preview', '/api/loop-list/preview', { text })
  const id = randomUUID()
  const { mapping } = look.body
  const done = await timed('the import', '/api/loop-list/import', { id, text, mapping, update: [] })
  const undone = await timed('the undo', `/api/loop-list/imports/${id}/undo`, { reason: 'bench' })
  const figure = (title: string, s: number, allowed: number): Figure => ({
    title: `loop list of ${ROWS} rows ${title}`,
    measured: `${s.toFixed(1)} s`,
    against: `${allowed} s allowed`,
    ratio: s / allowed,
    wanted: 'below 1',
  })
  return [figure('looked at', look.s, 2), figure('brought in', done.s, 10), figure('undone', undone.s, 10)]
}
