import type { Log } from '@calm/contract/logs'
import { MOST_ROWS } from '@calm/core/logs/sniff/how-many'
import { and, eq } from 'drizzle-orm'
import { setTimeout as pause } from 'node:timers/promises'
import type { Database } from '../db/connection.ts'
import { conflict, notFound, wrongValues } from '../http/problems.ts'
import { sha256Texts } from '../record/digest.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { logPieces, logs } from './schema.ts'
import { grown, logOf, storeBlocks } from './store.ts'
import { readPiece, type PieceRead } from './work.ts'

const MOST_TOLD = 1000
/** A piece that overtook the one before it on its way waits for it this long. */
const OVERTAKEN_MS = 1000
/** Pieces that may come before the one that comes next: one is stored, one read, one on its way. */
const MOST_AHEAD = 2
const LOOK_MS = 10

type Row = typeof logs.$inferSelect
/** How far a log is read. */
type Extent = Pick<
  Row,
  'channels' | 'rows' | 'wrongCount' | 'wrong' | 'pieces' | 'blocks' | 'line' | 'reader' | 'fromMs' | 'toMs'
>
interface Piece {
  readonly piece: number
  readonly file: number
  readonly beginsFile: boolean
  readonly text: string
}
/** A piece that is being read and stored here: the next one is read on from it while it is stored. */
interface Coming {
  readonly piece: number
  readonly read: Promise<Extent>
  readonly stored: Promise<void>
}

const ends = (
  pick: 'from' | 'to',
  of: (...x: number[]) => number,
  was: number | null,
  { channels: [first = []] }: PieceRead,
) => (first.length === 0 ? was : of(...first.map((b) => b[pick]), ...(was === null ? [] : [was])))

/** A log with what a piece more brings. */
const withPiece = (e: Extent, read: PieceRead): Extent => ({
  channels: e.channels.map((c, i) => grown(c, read.channels[i] ?? [])),
  rows: e.rows + read.rows,
  wrongCount: e.wrongCount + read.wrongCount,
  wrong: [...e.wrong, ...read.wrong].slice(0, MOST_TOLD),
  pieces: e.pieces + 1,
  blocks: e.blocks + (read.channels[0] ?? []).length,
  line: read.line,
  reader: read.reader,
  fromMs: ends('from', Math.min, e.fromMs, read),
  toMs: ends('to', Math.max, e.toMs, read),
})

const comesNext = (next: number) => conflict(`Piece ${next} comes next.`, { next })

/** Reads pieces of logs in: while one is stored the next one may be read already, and is stored behind it. */
export function logReader(db: Database, pool: Pool) {
  const coming = new Map<string, Coming>()

  const rowOf = async (loopId: string, id: string): Promise<Row> => {
    const [row] = await db
      .select()
      .from(logs)
      .where(and(eq(logs.id, id), eq(logs.loopId, loopId)))
    if (!row) throw notFound('log')
    return row
  }

  /** From what a piece goes on: the log as it is stored, or as the piece before it will leave it. */
  async function goesOnFrom(
    loopId: string,
    id: string,
    piece: number,
  ): Promise<{ readonly row: Row; readonly extent: Extent; readonly before: Coming | null }> {
    const until = performance.now() + OVERTAKEN_MS
    for (;;) {
      const before = coming.get(id)
      if (before?.piece === piece - 1) {
        const extent = await before.read.catch(() => null)
        if (!extent) throw comesNext(before.piece)
        return { row: await rowOf(loopId, id), extent, before }
      }
      const row = await rowOf(loopId, id)
      if (row.state === 'kept') throw conflict('This log is whole: nothing can be added to it.')
      if (row.pieces === piece) return { row, extent: row, before: null }
      const isNear = piece > row.pieces && piece - row.pieces <= MOST_AHEAD
      // While one before it is being read here, it is only a matter of time.
      if (!isNear || (!before && performance.now() > until)) throw comesNext(row.pieces)
      await pause(LOOK_MS)
    }
  }

  async function readOn(row: Row, e: Extent, p: Piece): Promise<PieceRead> {
    if (p.file >= row.files.length)
      throw wrongValues([{ path: 'file', says: `The log has ${row.files.length} files.` }])
    const { mapping } = row
    const { file, text } = p
    const read = resultOf(
      await pool.run(readPiece, { mapping, reader: e.reader, file, line: p.beginsFile ? 0 : e.line, text }),
    )
    if (!read)
      throw wrongValues([{ path: 'text', says: 'These lines take too long to read: send fewer at once.' }])
    if (e.rows + read.rows > MOST_ROWS)
      throw wrongValues([{ path: 'text', says: `A log holds at most ${MOST_ROWS / 1e6} million rows.` }])
    return read
  }

  const store = (id: string, p: Piece, sha256: string, first: number, read: PieceRead, after: Extent) =>
    db.transaction(async (tx) => {
      const [now] = await tx.select({ pieces: logs.pieces }).from(logs).where(eq(logs.id, id)).for('update')
      if (now?.pieces !== p.piece) throw comesNext(now?.pieces ?? 0)
      await storeBlocks(tx, id, read.channels, first)
      await tx.insert(logPieces).values({ logId: id, piece: p.piece, sha256 })
      await tx.update(logs).set(after).where(eq(logs.id, id))
    })

  /**
   * The next piece of a log; one that came already changes nothing, so that a sending that broke off goes on where it
   * stopped.
   * @throws HttpProblem 409 for a piece out of order, or another one in the place of one that is here
   */
  return async function add(loopId: string, id: string, p: Piece): Promise<Log> {
    const sha256 = sha256Texts(`${p.file} ${String(p.beginsFile)} `, p.text)
    const [here] = await db
      .select()
      .from(logPieces)
      .innerJoin(logs, and(eq(logs.id, logPieces.logId), eq(logs.loopId, loopId)))
      .where(and(eq(logPieces.logId, id), eq(logPieces.piece, p.piece)))
    if (here?.log_pieces.sha256 === sha256) return logOf(db, loopId, id)
    if (here) throw conflict(`Piece ${p.piece} of this log is here already, with other lines.`)
    const { row, extent, before } = await goesOnFrom(loopId, id, p.piece)
    const reading = readOn(row, extent, p).then((read) => ({ read, after: withPiece(extent, read) }))
    const stored = reading.then(async ({ read, after }) => {
      if (before) await before.stored.catch(() => Promise.reject(comesNext(before.piece)))
      await store(id, p, sha256, extent.blocks, read, after)
    })
    const mine: Coming = { piece: p.piece, read: reading.then((r) => r.after), stored }
    // Whoever waits for it is told; nobody may.
    mine.read.catch(() => undefined)
    coming.set(id, mine)
    try {
      await stored
    } finally {
      if (coming.get(id) === mine) coming.delete(id)
    }
    return logOf(db, loopId, id)
  }
}
