/** A log is as long as a portable meter's memory, not as a plant's history. */
export const MOST_ROWS = 12_000_000
/** A guess by the first lines may be wrong by so much. */
const GUESSED_TO = 1.1

/**
 * Rows of a file, guessed by how long its first lines are.
 * @param bytes - of the whole file
 * @param lines - the first of it, without their ends
 * @param bytesPerSign - 2 in UTF-16
 */
export function rowsGuessed(bytes: number, lines: readonly string[], bytesPerSign: 1 | 2): number {
  const long = lines.reduce((n, l) => n + l.length + 1, 0) * bytesPerSign
  return long === 0 ? 0 : (bytes * lines.length) / long
}

/** Why files of so many rows are no log; null where they may be one. */
export const sayTooManyRows = (rows: number): string | null =>
  rows > MOST_ROWS * GUESSED_TO
    ? `About ${Math.round(rows / 1e6)} million rows: a log holds at most ${MOST_ROWS / 1e6} million. Export a shorter time, or a row less often, or read the files in as several logs.`
    : null
