import { Mapping, WrongLine } from '@calm/contract/logs'
import type { LoopPackage } from '@calm/contract/loop-package'
import { BLOCK } from '@calm/core/logs/blocks'
import { logKept } from '@calm/core/record/kinds/log-kept'
import type { PayloadOf } from '@calm/core/record/kinds/kind'
import { isRefused, refused, type Refused } from '@calm/core/refused'
import { z } from 'zod'
import { sha256, sha256Bytes } from '../record/digest.ts'
import { jsonOf } from './open.ts'

const ROW_BYTES = 16

/** How the samples of a log lie in its file, and what its row holds besides what its event tells. */
const PackedLog = z.strictObject({
  mapping: Mapping,
  kinds: z
    .array(z.enum(['value', 'quality']))
    .min(1)
    .max(12),
  interval: z.number(),
  gapAbove: z.number(),
  wrong: z.array(WrongLine).max(1000),
  /** Rows of each block, the same in every channel: one channel after the other, each block after block. */
  blocks: z.array(z.int().min(1).max(BLOCK)).max(20_000),
})
export type PackedLog = z.output<typeof PackedLog>
type Told = PayloadOf<typeof logKept>

/** A log of a package whose samples are those that its event tells of. */
export interface ProvedLog {
  readonly told: Told
  readonly meta: PackedLog
  readonly samples: Uint8Array
  readonly at: string
}

/** Logs that a record tells of. */
export const keptIn = (all: LoopPackage['events']): { readonly told: Told; readonly at: string }[] =>
  all.flatMap((e) => {
    const told = e.type === logKept.type ? logKept.payload.safeParse(e.payload).data : undefined
    return told ? [{ told, at: e.at }] : []
  })
export const nameOf = (id: string, what: 'json' | 'f64') => `logs/${id}.${what}`

/** The bytes of each block, in the order of channels and blocks. */
export function* blocksOf(meta: PackedLog, samples: Uint8Array) {
  let at = 0
  for (const channel of meta.kinds.keys())
    for (const [block, rows] of meta.blocks.entries()) {
      const bytes = samples.subarray(at, (at += rows * ROW_BYTES))
      yield { channel, block, rows, bytes }
    }
}

/** The hash of a log as its event has it, from the bytes of its blocks. */
const hashOf = (meta: PackedLog, samples: Uint8Array): string =>
  sha256(
    [...blocksOf(meta, samples)]
      .map((b) => `${b.channel} ${b.block} ${b.rows} ${sha256Bytes(b.bytes)}`)
      .join('\n'),
  )

/** The logs of a package whose samples came along, each proved against its event; the others stayed where they were. */
export function provedLogsOf(
  files: ReadonlyMap<string, Uint8Array>,
  all: LoopPackage['events'],
): ProvedLog[] | Refused {
  const out: ProvedLog[] = []
  for (const { told, at } of keptIn(all)) {
    const [json, samples] = [files.get(nameOf(told.log, 'json')), files.get(nameOf(told.log, 'f64'))]
    if (!json && !samples) continue
    const [name, data] = [nameOf(told.log, 'f64'), nameOf(told.log, 'json')]
    if (!json || !samples) return refused(`The package holds no ${json ? name : data}.`, json ? name : data)
    const read = jsonOf(json, data)
    if (isRefused(read)) return read
    const meta = PackedLog.safeParse(read.data)
    if (!meta.success || meta.data.kinds.length !== told.channels.length)
      return refused(`${data} does not tell how the samples of “${told.title}” lie.`, data)
    const rows = meta.data.blocks.reduce((n, x) => n + x, 0)
    const isWhole = samples.length === rows * meta.data.kinds.length * ROW_BYTES
    if (!isWhole || rows !== told.rows || hashOf(meta.data, samples) !== told.sha256)
      return refused(`${name} does not hold the samples that the record tells of.`, name)
    out.push({ told, meta: meta.data, samples, at })
  }
  return out
}
