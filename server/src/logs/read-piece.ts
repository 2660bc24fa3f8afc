import { BLOCK, type Block, blockOf } from '@calm/core/logs/blocks'
import { rowPlace, type RowPlace, rowsInto, valueColumns } from '@calm/core/logs/sniff/read-rows'
import type { PieceRead, PieceToRead } from './work.ts'

const MOST_TOLD = 1000

/** Reads whole lines: their rows in blocks, and each line that is wrong with its reason. */
export function readLines({ mapping, reader, file, line, text }: PieceToRead): PieceRead {
  const state = { ...reader }
  const read = rowsInto(mapping, state)
  const into = rowPlace()
  const rows = new Columns(valueColumns(mapping).length)
  const wrong: { file: number; line: number; reason: 'FIELDS' | 'TIME' | 'NUMBER' }[] = []
  let [at, wrongCount, start] = [line, 0, 0]
  while (start < text.length) {
    const found = text.indexOf('\n', start)
    const end = found < 0 ? text.length : found
    at++
    const told = read(text, at, start, end, into)
    start = end + 1
    if (told === 'none') continue
    if (told === 'row' && !Number.isNaN(into.t)) {
      rows.add(into)
      continue
    }
    wrongCount++
    if (wrong.length < MOST_TOLD) wrong.push({ file, line: at, reason: told === 'row' ? 'TIME' : told })
  }
  return { channels: rows.blocks(), rows: rows.n, wrong, wrongCount, reader: state, line: at }
}

/** Rows of a piece, column by column. */
class Columns {
  n = 0
  private room = 4 * BLOCK
  private times = new Float64Array(this.room)
  private values: Float64Array[]

  constructor(columns: number) {
    this.values = Array.from({ length: columns }, () => new Float64Array(this.room))
  }

  add(row: RowPlace): void {
    if (this.n === this.room) this.grow()
    this.times[this.n] = row.t
    for (let c = 0; c < this.values.length; c++) {
      const column = this.values[c]
      if (column) column[this.n] = row.values[c] ?? NaN
    }
    this.n++
  }

  private grow(): void {
    this.room *= 2
    const wider = (x: Float64Array) => {
      const y = new Float64Array(this.room)
      y.set(x)
      return y
    }
    this.times = wider(this.times)
    this.values = this.values.map(wider)
  }

  blocks(): Block[][] {
    return this.values.map((v) => {
      const blocks: Block[] = []
      for (let from = 0; from < this.n; from += BLOCK) {
        const to = Math.min(this.n, from + BLOCK)
        blocks.push(blockOf(this.times.subarray(from, to), v.subarray(from, to)))
      }
      return blocks
    })
  }
}
