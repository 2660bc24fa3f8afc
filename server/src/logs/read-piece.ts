import { BLOCK, type Block, blockOf } from '@calm/core/logs/blocks'
import { rowReader, valueColumns } from '@calm/core/logs/sniff/read-rows'
import type { PieceRead, PieceToRead } from './work.ts'

const MOST_TOLD = 1000

/** Reads whole lines: their rows in blocks, and each line that is wrong with its reason. */
export function readLines({ mapping, reader, file, line, text }: PieceToRead): PieceRead {
  const columns = valueColumns(mapping)
  const state = { ...reader }
  const read = rowReader(mapping, state)
  const times: number[] = []
  const values: number[][] = columns.map(() => [])
  const wrong: { file: number; line: number; reason: 'FIELDS' | 'TIME' | 'NUMBER' }[] = []
  let [at, wrongCount, start] = [line, 0, 0]
  while (start < text.length) {
    const found = text.indexOf('\n', start)
    const end = found < 0 ? text.length : found
    at++
    const row = read(text, at, start, end)
    start = end + 1
    if (row === null) continue
    if (row.kind === 'wrong' || row.t === null) {
      wrongCount++
      if (wrong.length < MOST_TOLD)
        wrong.push({ file, line: at, reason: row.kind === 'wrong' ? row.reason : 'TIME' })
      continue
    }
    times.push(row.t)
    for (let c = 0; c < values.length; c++) values[c]?.push(row.values[c] ?? NaN)
  }
  const channels = values.map((v) => {
    const blocks: Block[] = []
    for (let from = 0; from < times.length; from += BLOCK)
      blocks.push(blockOf(times.slice(from, from + BLOCK), v.slice(from, from + BLOCK)))
    return blocks
  })
  return { channels, rows: times.length, wrong, wrongCount, reader: state, line: at }
}
