/** Where a log comes from, in words. */
export const HOW_IT_CAME = {
  file: 'read in',
  memory: 'fetched from the device’s memory',
  link: 'recorded over the link',
  typed: 'typed while it ran',
} as const

/** A reading as it is seen live: the time of the device, and its values; null where it measures nothing. */
export interface LiveReading {
  readonly t_s: number
  readonly values: readonly (number | null)[]
}
/** What one look at a device brought. */
export interface LiveLook {
  /** Time on the wall when it was taken, ms since 1970, and the device's own time then, s. */
  readonly wall_ms: number
  readonly t_s: number
  /** Seconds of the device in one on the wall: a stand-in can be told to run faster. */
  readonly speed: number
  /** Oldest first; those of earlier looks may be among them. */
  readonly readings: readonly LiveReading[]
}
export interface RecordedRow {
  readonly at_ms: number
  readonly values: readonly (number | null)[]
}

/** In which step of a recording a time lies. */
const stepOf = (ms: number, every_s: number): number => Math.floor(ms / (1000 * every_s))

/**
 * What is recorded of a look: the first reading of every step that has none yet, at its own time on the wall. A step
 * in which nothing was seen stays out; nothing is put in its place.
 * @param last_ms - time of the newest row so far, null before there is one
 * @param every_s - step of the recording, s
 */
export function recordedOf(look: LiveLook, last_ms: number | null, every_s: number): RecordedRow[] {
  const rows: RecordedRow[] = []
  let done = last_ms === null ? -Infinity : stepOf(last_ms, every_s)
  for (const { t_s, values } of look.readings) {
    const at_ms = Math.round(look.wall_ms - (1000 * (look.t_s - t_s)) / look.speed)
    const step = stepOf(at_ms, every_s)
    if (step <= done) continue
    done = step
    rows.push({ at_ms, values })
  }
  return rows
}

/** Rows as lines of the file that a recorder would have written. */
export const linesOf = (rows: readonly RecordedRow[]): string =>
  rows.map((r) => `${[r.at_ms, ...r.values.map((v) => v ?? '')].join(';')}\n`).join('')

/** How such lines are read: a time in ms since 1970, then the values. */
export const recordingMapping = (
  channels: readonly { readonly name: string; readonly unit: string | null }[],
  zone: string,
) => ({
  delimiter: ';' as const,
  decimal: '.' as const,
  isDecimalDelimiter: false,
  headerLines: 1,
  columns: [
    { name: 'Time', unit: null, kind: 'time' as const },
    ...channels.map(({ name, unit }) => ({ name, unit, kind: 'value' as const })),
  ],
  time: { format: 'EPOCH_MS' as const, unit_s: 0.001 },
  zone,
})
/** The head of such a file. */
export const headOf = (channels: readonly { readonly name: string }[]): string =>
  `${['Time', ...channels.map((c) => c.name)].join(';')}\n`
