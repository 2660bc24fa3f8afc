/** A log is as long as a portable meter's memory, not as a plant's history. */
export const MOST_ROWS = 12_000_000
/** A guess by the first lines may be wrong by so much. */
const GUESSED_TO = 1.1

/**
 * Rows of a file, guessed by parts of it: a count grows longer from row to row, so its beginning alone tells too many.
 * @param bytes - of the whole file
 * @param parts - texts from all over it, each with the bytes it takes
 */
export function rowsGuessed(
  bytes: number,
  parts: readonly { readonly bytes: number; readonly text: string }[],
): number {
  const seen = parts.reduce((n, p) => n + p.bytes, 0)
  // Every whole line has an end in one of the parts; an empty one is no row.
  const rows = parts.reduce((n, p) => n + (p.text.match(/[^\r\n][\r\n]/g)?.length ?? 0), 0)
  return seen === 0 ? 0 : (bytes * rows) / seen
}

/** Why files of so many rows are no log; null where they may be one. */
export const sayTooManyRows = (rows: number): string | null =>
  rows > MOST_ROWS * GUESSED_TO
    ? `About ${Math.round(rows / 1e6)} million rows: a log holds at most ${MOST_ROWS / 1e6} million. Export a shorter time, or a row less often, or read the files in as several logs.`
    : null
