import type { Signal } from './behaviour.ts'
import { asThen } from './past.ts'
import { inputAt, measures, readStandIn, shownOf, signalsAt, taskAt, type StandIn } from './stand-in.ts'

/** What a device remembers of its readings: the coarser, the farther back. */
export const RESOLUTIONS = [
  { every_s: 1, hours: 2 },
  { every_s: 10, hours: 24 },
  { every_s: 60, hours: 24 * 7 },
  { every_s: 600, hours: 24 * 60 },
] as const
/** What the link carries in a second. */
const ROWS_PER_S = 60
const BYTES_A_NUMBER = 9

/** Readings that are fetched from the device's memory: which, and how many of them are here. */
export interface Download {
  readonly every_s: number
  /** Device time of the newest row, and how many rows there are before it. */
  readonly to_s: number
  readonly rows: number
  readonly got: number
}
export interface Estimate {
  readonly rows: number
  readonly bytes: number
  readonly takes_s: number
}

/** Rows, size and time of a download before it is begun. */
export function estimate(every_s: number, hours: number, numbers: number): Estimate {
  const rows = Math.floor((hours * 3600) / every_s)
  return { rows, bytes: rows * (numbers + 1) * BYTES_A_NUMBER, takes_s: Math.ceil(rows / ROWS_PER_S) }
}
/** Why so much is not remembered at that resolution, or null. */
export function notRemembered(every_s: number, hours: number): string | null {
  const kept = RESOLUTIONS.find((r) => r.every_s === every_s)
  if (!kept)
    return `It remembers a reading every ${RESOLUTIONS.map((r) => r.every_s).join(', ')} s, not every ${every_s} s.`
  return hours > kept.hours
    ? `Every ${every_s} s it remembers the last ${kept.hours} hours, not ${hours}. Take a coarser one for longer.`
    : null
}
/** Rows that came so far: those from before, and those of the task that runs. */
export function rowsGot(d: StandIn, t_s: number): number {
  if (!d.download) return 0
  const task = taskAt(d, t_s)
  return task?.kind === 'history'
    ? Math.min(d.download.rows, d.download.got + Math.floor((t_s - task.from_s) * ROWS_PER_S))
    : d.download.got
}
/** Seconds that the rest takes. */
export const restTakes_s = (download: Download): number => (download.rows - download.got) / ROWS_PER_S

export interface LogRow {
  readonly t_s: number
  /** Null where it measured nothing. */
  readonly PV: number | null
  readonly signals: readonly Signal[]
}
const DAY_s = 86_400
/** The process before the device came on this link: it breathes with the day and with the plant, up to what it is now. */
function inputBefore(d: StandIn, t_s: number): number {
  const { LRV, URV } = d.transmitter.state
  const span = Math.abs(URV - LRV)
  const phase = (d.seed % 1000) / 159
  const breath = (at_s: number) =>
    0.06 * Math.sin((2 * Math.PI * at_s) / DAY_s + phase) +
    0.02 * Math.sin((2 * Math.PI * at_s) / 4_211 + 2 * phase) +
    0.008 * Math.sin((2 * Math.PI * at_s) / 613)
  return d.process + span * (breath(t_s) - breath(0))
}
/** Whether it had supply then; without, nothing was remembered. */
const remembered = (d: StandIn, t_s: number): boolean =>
  !d.outages.some((o) => t_s >= o.from_s && t_s < (o.to_s ?? Infinity))

/** Rows that are here, oldest first; a time without supply is a gap in them. */
export function logRows(d: StandIn, t_s: number): readonly LogRow[] {
  const { download } = d
  if (!download) return []
  const rows: LogRow[] = []
  const oldest_s = download.to_s - (download.rows - 1) * download.every_s
  for (let i = 0; i < rowsGot(d, t_s); i++) {
    const at = oldest_s + i * download.every_s
    if (!remembered(d, at)) continue
    const then = asThen(d, at)
    const seen = at >= Math.max(0, then.motion.at_s)
    const input = seen ? inputAt(then, at) : inputBefore(then, at)
    const PV = !measures(then)
      ? null
      : seen
        ? readStandIn({ ...then, powered: true }, at).PV
        : shownOf(then, at, input)
    rows.push({ t_s: at, PV, signals: signalsAt(then, at, input).filter((s) => !s.held) })
  }
  return rows
}
