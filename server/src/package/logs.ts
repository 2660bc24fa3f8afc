import type { LoopPackage } from '@calm/contract/loop-package'
import { blockOf } from '@calm/core/logs/blocks'
import { freshState } from '@calm/core/logs/sniff/read-rows'
import { asc, eq } from 'drizzle-orm'
import { strToU8 } from 'fflate'
import type { Executor } from '../db/connection.ts'
import { floatsOf, joined } from '../logs/floats.ts'
import { logBlocks, logs } from '../logs/schema.ts'
import { storeBlocks } from '../logs/store.ts'
import { blocksOf, keptIn, nameOf, type PackedLog, type ProvedLog } from './log-files.ts'

/** Values of all logs that go along; what is more stays behind, and its event tells of it. */
const MOST_VALUES = 2_000_000

/** The samples of a loop's logs as files; little endian, time (ms) and value of each row, NaN where there is none. */
export async function logFilesOf(
  db: Executor,
  all: LoopPackage['events'],
): Promise<Record<string, Uint8Array>> {
  const files: Record<string, Uint8Array> = {}
  let left = MOST_VALUES
  for (const { told } of keptIn(all)) {
    const [row] = await db.select().from(logs).where(eq(logs.id, told.log))
    const values = told.rows * told.channels.length
    if (!row || values > left) continue
    left -= values
    const blocks = await db
      .select({ channel: logBlocks.channel, rows: logBlocks.rows, samples: logBlocks.samples })
      .from(logBlocks)
      .where(eq(logBlocks.logId, told.log))
      .orderBy(asc(logBlocks.channel), asc(logBlocks.block))
    const meta: PackedLog = {
      mapping: row.mapping,
      kinds: row.channels.map((c) => c.kind),
      interval: row.interval,
      gapAbove: row.gapAbove,
      wrong: [...row.wrong],
      blocks: blocks.filter((b) => b.channel === 0).map((b) => b.rows),
    }
    files[nameOf(told.log, 'json')] = strToU8(`${JSON.stringify(meta, null, 1)}\n`)
    files[nameOf(told.log, 'f64')] = new Uint8Array(Buffer.concat(blocks.map((b) => b.samples)))
  }
  return files
}

/** Puts a log of a package where those lie that were read in here. @param by - who took the package in */
export async function storeLog(tx: Executor, loopId: string, log: ProvedLog, by: string): Promise<void> {
  const { told, meta, samples } = log
  const channels = meta.kinds.map((_, channel) =>
    [...blocksOf(meta, samples)]
      .filter((b) => b.channel === channel)
      .map((b) => {
        const pairs = floatsOf(Buffer.from(b.bytes))
        const every = (k: 0 | 1) =>
          Float64Array.from({ length: b.rows }, (_row, i) => pairs[2 * i + k] ?? NaN)
        return blockOf(every(0), every(1))
      }),
  )
  const isNew = await tx
    .insert(logs)
    .values({
      id: told.log,
      loopId,
      ...{ title: told.title, of: told.of, site: told.site, files: told.files, simulated: told.simulated },
      source: told.source ?? 'file',
      instrument: null,
      mapping: meta.mapping,
      state: 'kept',
      channels: told.channels.map((c, i) => {
        const values = joined((channels[i] ?? []).map((b) => b.samples)).filter(
          (x, k) => k % 2 === 1 && !Number.isNaN(x),
        )
        const [min, max] = values.reduce(([lo, hi], x) => [Math.min(lo, x), Math.max(hi, x)] as const, [
          Infinity,
          -Infinity,
        ] as readonly [number, number])
        return {
          ...{ name: c.name, unit: c.unit, kind: meta.kinds[i] ?? 'value', n: values.length },
          min: values.length > 0 ? min : null,
          max: values.length > 0 ? max : null,
        }
      }),
      ...{ rows: told.rows, wrongCount: told.wrong, wrong: meta.wrong, blocks: meta.blocks.length },
      reader: freshState(),
      ...{ fromMs: told.from, toMs: told.to, interval: meta.interval, gapAbove: meta.gapAbove },
      by,
      at: new Date(log.at),
    })
    .onConflictDoNothing()
    .returning({ id: logs.id })
  if (isNew.length > 0) await storeBlocks(tx, told.log, channels, 0)
}
