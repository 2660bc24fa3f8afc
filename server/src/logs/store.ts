import type { Log, NewLog } from '@calm/contract/logs'
import type { Person } from '@calm/contract/people'
import { BLOCK, type Block, blockOf } from '@calm/core/logs/blocks'
import { arrived, paceOf } from '@calm/core/logs/samples'
import { freshState } from '@calm/core/logs/sniff/read-rows'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { logKept } from '@calm/core/record/kinds/log-kept'
import { and, asc, desc, eq, isNull, sql, type SQL } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { isoInstant } from '../db/time.ts'
import { equipment } from '../equipment/schema.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound, wrongValues } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import { people } from '../people/schema.ts'
import { appendOnce } from '../record/append-once.ts'
import { byTag, holdLoop, isIdentifier } from '../record/append.ts'
import { loops } from '../record/schema.ts'
import { bytesOf, floatsOf } from './floats.ts'
import { hashOfLog } from './samples.ts'
import { logBlocks, logs } from './schema.ts'

type Row = typeof logs.$inferSelect
const RELATIVE: readonly string[] = ['ELAPSED', 'RELATIVE']

const selectLogs = (db: Executor) =>
  db
    .select({ log: logs, tag: loops.tag, byName: people.shownName, instrument: equipment.name })
    .from(logs)
    .innerJoin(loops, eq(loops.id, logs.loopId))
    .innerJoin(people, eq(people.id, logs.by))
    .leftJoin(equipment, eq(equipment.id, logs.instrument))

const told = ({
  log,
  tag,
  byName,
  instrument,
}: {
  log: Row
  tag: string
  byName: string
  instrument: string | null
}): Log => ({
  id: log.id,
  tag,
  title: log.title,
  of: log.of,
  source: log.source,
  instrument,
  site: log.site,
  files: [...log.files],
  simulated: log.simulated,
  state: log.state,
  channels: [...log.channels],
  rows: log.rows,
  wrongCount: log.wrongCount,
  wrong: [...log.wrong],
  pieces: log.pieces,
  from: log.fromMs,
  to: log.toMs,
  interval: log.interval,
  gapAbove: log.gapAbove,
  relative: RELATIVE.includes(log.mapping.time.format),
  zone: log.mapping.zone,
  mapping: log.mapping,
  byName,
  at: isoInstant(log.at),
})

/** Logs of all loops in use, the newest first. */
export async function allLogs(db: Executor): Promise<Log[]> {
  const rows = await selectLogs(db).where(isNull(loops.archivedAt)).orderBy(desc(logs.at), asc(logs.id))
  return rows.map(told)
}

/** @throws HttpProblem 404 */
export async function logOf(db: Executor, loopId: string, id: string): Promise<Log> {
  const [row] = await selectLogs(db).where(and(eq(logs.id, id), eq(logs.loopId, loopId)))
  if (!row) throw notFound('log')
  return told(row)
}

const notWhole = () => conflict('This log is not read in whole yet.')

/** @throws HttpProblem 404, or 409 while it is being read in */
export async function keptLogOf(db: Executor, loopId: string, id: string): Promise<Log> {
  const log = await logOf(db, loopId, id)
  if (log.state === 'open') throw notWhole()
  return log
}

const [name, id] = [sql.placeholder('name'), sql.placeholder('id')]
const channelsOn = (statement: string, loop: SQL | undefined) =>
  prepared(statement, (db) =>
    db
      .select({ state: logs.state, channels: sql<number>`jsonb_array_length(${logs.channels})` })
      .from(logs)
      .innerJoin(loops, eq(loops.id, logs.loopId))
      .where(and(eq(logs.id, id), loop)),
  )
const channelsOfLoop = channelsOn('log_channels_by_loop', eq(loops.id, name))
const channelsOfTag = channelsOn('log_channels_by_tag', byTag(sql`${name}::text`))

/**
 * How many channels a kept log of a loop has: all that who pans over it needs to be asked each time.
 * @throws HttpProblem 404, or 409 while it is being read in
 */
export async function keptChannels(db: Executor, idOrTag: string, log: string): Promise<number> {
  const [row] = await (isIdentifier(idOrTag) ? channelsOfLoop : channelsOfTag)(db, { name: idOrTag, id: log })
  if (!row) {
    await loopIdOf(db, idOrTag)
    throw notFound('log')
  }
  if (row.state === 'open') throw notWhole()
  return row.channels
}

/** Begins to read in a log; the same one again changes nothing. */
export async function beginLog(
  db: Database,
  loopId: string,
  log: NewLog,
  person: Person,
  now: Date,
): Promise<Log> {
  if (log.instrument !== null) {
    const [known] = await db
      .select({ id: equipment.id })
      .from(equipment)
      .where(eq(equipment.id, log.instrument))
    if (!known)
      throw wrongValues([{ path: 'instrument', says: 'This instrument is not in the plant’s list.' }])
  }
  await db.transaction(async (tx) => {
    const { row } = await holdLoop(tx, loopId)
    const [here] = await tx.select().from(logs).where(eq(logs.id, log.id))
    if (here) {
      const same = here.loopId === loopId && here.by === person.id && here.title === log.title
      if (!same || canonicalJson(here.mapping) !== canonicalJson(log.mapping))
        throw conflict('A log with this identifier is here already, with other contents.')
      return
    }
    // A device that can be asked here is a stand-in: what comes from one is simulated, and only there.
    if (!row.demo && (log.source === 'link' || log.source === 'memory'))
      throw wrongValues([
        { path: 'source', says: 'This loop is a real one: no stand-in stands on it. Type its readings.' },
      ])
    const channels = log.mapping.columns.flatMap((c) =>
      c.kind === 'value' || c.kind === 'quality'
        ? [{ name: c.name, unit: c.unit, kind: c.kind, n: 0, min: null, max: null }]
        : [],
    )
    const { id, title, of, source, instrument, site, files, mapping } = log
    await tx.insert(logs).values({
      ...{ id, title, of, source, instrument, site, files, mapping },
      loopId,
      simulated: row.demo,
      state: 'open',
      channels,
      reader: freshState(),
      by: person.id,
      at: now,
    })
    await tellWindows(tx, { loopId, tag: row.tag, what: 'logs' })
  })
  return logOf(db, loopId, log.id)
}

/** What a channel holds once some blocks more are in it. */
export const grown = (c: Row['channels'][number], blocks: readonly Block[]): Row['channels'][number] => {
  let { n, min, max } = c
  for (const b of blocks)
    for (let i = 1; i < b.samples.length; i += 2) {
      const x = b.samples[i] ?? NaN
      if (Number.isNaN(x)) continue
      n++
      min = Math.min(min ?? x, x)
      max = Math.max(max ?? x, x)
    }
  return { ...c, n, min, max }
}

/** Puts blocks of every channel behind those that are there. */
export async function storeBlocks(
  tx: Executor,
  logId: string,
  channels: readonly (readonly Block[])[],
  first: number,
): Promise<void> {
  for (const [channel, blocks] of channels.entries())
    if (blocks.length > 0)
      await tx.insert(logBlocks).values(
        blocks.map((b, i) => ({
          logId,
          channel,
          block: first + i,
          rows: b.rows,
          fromMs: b.from,
          toMs: b.to,
          chunks: bytesOf(b.chunks),
          samples: bytesOf(b.samples),
        })),
      )
}

/** How often rows come, told by the first of them. */
async function paceOfLog(db: Executor, id: string) {
  const blocks = await db
    .select({ samples: logBlocks.samples })
    .from(logBlocks)
    .where(and(eq(logBlocks.logId, id), eq(logBlocks.channel, 0)))
    .orderBy(asc(logBlocks.block))
    .limit(20)
  const t = blocks.flatMap((b) => [...floatsOf(b.samples)].filter((_, i) => i % 2 === 0))
  const { interval, gapAbove } = paceOf(arrived({ t, v: t }), 5)
  return { interval, gapAbove: Number.isFinite(gapAbove) ? gapAbove : 0 }
}

/** The log is whole: it goes into the record of its loop, with the hash of what it holds. */
export async function keepLog(
  db: Database,
  loopId: string,
  id: string,
  at: string,
  person: Person,
  now: Date,
): Promise<Log> {
  const log = await logOf(db, loopId, id)
  if (log.state === 'kept') return log
  if (log.rows === 0 || log.from === null || log.to === null)
    throw conflict('No row of this log could be read: choose its columns and times again.')
  const sha256 = await hashOfLog(db, id)
  const payload = logKept.payload.parse({
    log: id,
    title: log.title,
    of: log.of,
    ...(log.source === 'file' ? {} : { source: log.source }),
    instrument: log.instrument ?? '',
    site: log.site,
    files: log.files,
    channels: log.channels.map(({ name, unit }) => ({ name, unit })),
    rows: log.rows,
    wrong: log.wrongCount,
    from: log.from,
    to: log.to,
    simulated: log.simulated,
    sha256,
  })
  await appendOnce(db, loopId, { id, at, type: logKept.type, payload }, person, now)
  await db
    .update(logs)
    .set({ state: 'kept', ...(await paceOfLog(db, id)) })
    .where(eq(logs.id, id))
  return logOf(db, loopId, id)
}

/** Keeps a log whose rows are at hand: one channel, as a file of it would have been read. */
export async function keepSamples(
  db: Database,
  loopId: string,
  log: NewLog,
  { t, v }: { readonly t: Float64Array; readonly v: Float64Array },
  person: Person,
  at: Date,
): Promise<void> {
  const begun = await beginLog(db, loopId, log, person, at)
  const blocks: Block[] = []
  for (let i = 0; i < t.length; i += BLOCK)
    blocks.push(blockOf(t.subarray(i, i + BLOCK), v.subarray(i, i + BLOCK)))
  await storeBlocks(db, log.id, [blocks], 0)
  await db
    .update(logs)
    .set({
      channels: begun.channels.map((c) => grown(c, blocks)),
      ...{ rows: t.length, pieces: 1, blocks: blocks.length, fromMs: t[0] ?? 0, toMs: t.at(-1) ?? 0 },
    })
    .where(eq(logs.id, log.id))
  await keepLog(db, loopId, log.id, at.toISOString(), person, at)
}

/** Nothing of a log stays that is not whole. @throws HttpProblem 409 for one that is in the record */
export async function giveUpLog(db: Database, loopId: string, id: string): Promise<void> {
  const { state, tag } = await logOf(db, loopId, id)
  if (state === 'kept') throw conflict('This log is in the record of its loop: it stays.')
  await db.transaction(async (tx) => {
    await tx.delete(logs).where(and(eq(logs.id, id), eq(logs.state, 'open')))
    await tellWindows(tx, { loopId, tag, what: 'logs' })
  })
}
