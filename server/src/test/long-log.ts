import { randomUUID } from 'node:crypto'
import type { Log, NewLog } from '@calm/contract/logs'
import { sniff } from '@calm/core/logs/sniff/sniff'
import type TestAgent from 'supertest/lib/agent.js'
import { testClock } from './app.ts'

/** Rows that are read in at a time. */
export const PIECE = 60_000

/** Reads a long file in, piece by piece, and keeps it. @param at - address of the logs of its loop */
export async function longLog(
  who: TestAgent,
  at: string,
  {
    title,
    of,
    head,
    rows,
    line,
  }: {
    readonly title: string
    readonly of: NewLog['of']
    /** With its end of line. */
    readonly head: string
    readonly rows: number
    readonly line: (i: number) => string
  },
): Promise<Log> {
  const lines = (from: number, to: number) =>
    Array.from({ length: to - from }, (_, k) => line(from + k)).join('\n')
  const begun: NewLog = {
    ...{ id: randomUUID(), title, of, source: 'file', instrument: null, site: '' },
    files: ['long.csv'],
    mapping: sniff(`${head}${lines(0, 300)}`.split('\n'))?.mapping as NewLog['mapping'],
  }
  await who.post(at).send(begun).expect(201)
  for (let n = 0; n * PIECE < rows; n++)
    await who
      .post(`${at}/${begun.id}/pieces`)
      .send({
        piece: n,
        file: 0,
        beginsFile: n === 0,
        text: `${n === 0 ? head : ''}${lines(n * PIECE, Math.min(rows, (n + 1) * PIECE))}\n`,
      })
      .expect(200)
  const kept = await who.post(`${at}/${begun.id}/keep`).send({ at: testClock().toISOString() }).expect(200)
  return kept.body as Log
}
