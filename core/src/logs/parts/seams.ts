import type { Block } from '../blocks.ts'

/** Rows of a part of its own, and of what its judgement sees of both neighbours. */
const OWN_ROWS = 256 * 1024
const MARGIN_ROWS = 16 * 1024

/** A part of a log that is judged by itself: blocks first..last − 1 are seen, own..end − 1 are its own. */
export interface Part {
  readonly first: number
  readonly own: number
  readonly end: number
  readonly last: number
}

/**
 * Cuts a long log into parts. Between two parts the clock rises: whatever came before the seam is older than whatever
 * comes after it, so that a clock that went back lies within one part.
 * @param blocks - of a log, in their order
 * @param most - rows that can be judged at once
 * @returns null where the clock went back so far that no part is short enough
 */
export function partsOf(
  blocks: readonly Pick<Block, 'rows' | 'from' | 'to'>[],
  most: number,
  { own: ownRows, margin } = { own: OWN_ROWS, margin: MARGIN_ROWS },
): readonly Part[] | null {
  const earliestFrom = new Float64Array(blocks.length + 1).fill(Infinity)
  for (let b = blocks.length - 1; b >= 0; b--)
    earliestFrom[b] = Math.min(earliestFrom[b + 1] ?? Infinity, blocks[b]?.from ?? Infinity)
  const seams = [0]
  let [latest, rows] = [-Infinity, 0]
  blocks.forEach((block, b) => {
    latest = Math.max(latest, block.to)
    rows += block.rows
    if (b + 1 < blocks.length && rows >= ownRows && latest < (earliestFrom[b + 1] ?? Infinity)) {
      seams.push(b + 1)
      rows = 0
    }
  })
  // A last part that is nearly empty would be judged by next to nothing.
  if (seams.length > 1 && rows < margin) seams.pop()
  const rowsOf = (from: number, to: number) => blocks.slice(from, to).reduce((sum, b) => sum + b.rows, 0)
  const parts = seams.map((own, k): Part => {
    const end = seams[k + 1] ?? blocks.length
    let [first, last] = [own, end]
    while (first > 0 && rowsOf(first, own) < margin) first--
    while (last < blocks.length && rowsOf(end, last) < margin) last++
    return { first, own, end, last }
  })
  return parts.every((p) => rowsOf(p.first, p.last) <= most) ? parts : null
}
