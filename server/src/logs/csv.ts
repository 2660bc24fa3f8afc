import type { Log } from '@calm/contract/logs'
import { channelOf } from '@calm/core/logs/blocks'
import { Zip, ZipDeflate } from 'fflate'
import type { Response } from 'express'
import type pg from 'pg'
import { joined } from './floats.ts'
import { chunksOf, samplesOfChunks } from './samples.ts'

type Stretch = { readonly from: number; readonly to: number }
const quoted = (s: string) => `"${s.replace(/"/g, '""')}"`
/** What a file of it is called. */
export const fileOf = (log: Pick<Log, 'tag' | 'title'>) =>
  `${log.tag} ${log.title.replace(/[^\w .-]+/g, '-')}`

const headOf = (log: Log): string => {
  const names = log.channels.map((c) => quoted(c.unit === null ? c.name : `${c.name} [${c.unit}]`))
  return `\uFEFF${[log.relative ? '"Time [s]"' : '"Time"', ...names].join(',')}\r\n`
}

/** Rows of a stretch as lines of a file, a block at a time: however long a log is, no more of it is in memory. */
async function* linesOf(pool: pg.Pool, log: Log, { from, to }: Stretch): AsyncGenerator<string[]> {
  const all = await Promise.all(log.channels.map((_, channel) => chunksOf(pool, { log: log.id, channel })))
  const blocks = all[0]?.blocks.length ?? 0
  for (let b = 0; b < blocks; b++) {
    const columns = await Promise.all(
      all.map(async (c, channel) => {
        const [begin = 0, end = 0] = [c.begins[b], c.begins[b + 1]]
        const places = Array.from({ length: end - begin }, (_, k) => begin + k)
        return channelOf(joined(await samplesOfChunks(pool, { log: log.id, channel }, c, places)))
      }),
    )
    const lines: string[] = []
    ;(columns[0]?.t ?? []).forEach((t, i) => {
      if (t < from || t > to) return
      const values = columns.map((c) => c.v[i] ?? '').join(',')
      lines.push(`${log.relative ? t / 1000 : new Date(t).toISOString()},${values}\r\n`)
    })
    yield lines
  }
}

/** Waits for who reads as slowly as they read. */
const written = async (res: Response, piece: string | Uint8Array): Promise<void> => {
  if (!res.write(piece)) await new Promise((go) => res.once('drain', go).once('close', go))
}

/** A stretch as one file. */
export async function sendCsv(
  pool: pg.Pool,
  log: Log,
  stretch: Stretch,
  res: Response,
  gone: AbortSignal,
): Promise<void> {
  res.type('text/csv').attachment(`${fileOf(log)}.csv`)
  res.write(headOf(log))
  for await (const lines of linesOf(pool, log, stretch)) {
    if (gone.aborted) break
    await written(res, lines.join(''))
  }
  res.end()
}

/** A stretch as several files of at most so many rows, in one archive: a spreadsheet takes no more. */
export async function sendParts(
  pool: pg.Pool,
  log: Log,
  { rows, ...stretch }: Stretch & { readonly rows: number },
  res: Response,
  gone: AbortSignal,
): Promise<void> {
  res.type('application/zip').attachment(`${fileOf(log)}.zip`)
  let ready: Uint8Array[] = []
  const zip = new Zip((_error, piece) => ready.push(piece))
  const flush = async () => {
    const pieces = ready
    ready = []
    for (const p of pieces) await written(res, p)
  }
  const bytes = (text: string) => Buffer.from(text)
  let [part, left, file] = [0, 0, null as ZipDeflate | null]
  const open = () => {
    file?.push(new Uint8Array(0), true)
    part++
    left = rows
    file = new ZipDeflate(`${fileOf(log)} ${String(part).padStart(3, '0')}.csv`, { level: 6 })
    zip.add(file)
    file.push(bytes(headOf(log)))
    return file
  }
  open()
  for await (const lines of linesOf(pool, log, stretch)) {
    if (gone.aborted) break
    for (let i = 0; i < lines.length;) {
      const into = left === 0 ? open() : (file ?? open())
      const some = lines.slice(i, i + left)
      into.push(bytes(some.join('')))
      left -= some.length
      i += some.length
    }
    await flush()
  }
  file?.push(new Uint8Array(0), true)
  zip.end()
  await flush()
  res.end()
}
