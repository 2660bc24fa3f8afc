import type { Block } from '../blocks.ts'
import type { OwnTime } from './parts.ts'

type Span = Pick<Block, 'rows' | 'from' | 'to'>

/** Rows of either log in a part of two. */
const OWN_ROWS = 256 * 1024

/** Rows of the blocks that touch a time. */
const rowsTouching = (blocks: readonly Span[], from: number, to: number): number =>
  blocks.reduce((n, b) => (b.to >= from && b.from <= to ? n + b.rows : n), 0)

/**
 * Cuts the time of two logs into parts of as many rows of either as are compared at once. A part sees all that was
 * recorded of its time in the order in which it came: what a clock that went back recorded once more is left out there
 * as it is in the whole.
 * @param a, b - blocks of the logs, in their order
 * @param margin_ms - how far a part looks beyond its own time
 * @param most - rows of a log that can be looked at in one part
 * @returns null where no part is short enough: a clock went back again and again, or the margin is too long
 */
export function partsOfTwo(
  a: readonly Span[],
  b: readonly Span[],
  margin_ms: number,
  most: number,
  ownRows = OWN_ROWS,
): readonly OwnTime[] | null {
  const begins = [a, b]
    .flatMap((blocks, log) => blocks.map(({ from, rows }) => ({ at: from, log, rows })))
    .sort((x, y) => x.at - y.at)
  const seams: number[] = []
  const rows = [0, 0]
  let before = -Infinity
  for (const { at, log, rows: more } of begins) {
    if (at > before && Math.max(...rows) >= ownRows) {
      seams.push(at)
      rows.fill(0)
    }
    rows[log] = (rows[log] ?? 0) + more
    before = at
  }
  const parts = [-Infinity, ...seams].map((from, k) => ({ from, to: seams[k] ?? Infinity }))
  const fits = ({ from, to }: OwnTime) =>
    [a, b].every((blocks) => rowsTouching(blocks, from - margin_ms, to + margin_ms) <= most)
  return parts.every(fits) ? parts : null
}
