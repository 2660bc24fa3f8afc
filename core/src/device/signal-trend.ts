import { fitLine } from '../numeric/fit-line.ts'
import { movedAt_s, signalsAt, type StandIn } from './stand-in.ts'

/** A signal over a while in which nothing was moved: its mean, its scatter about a line, and that line's slope a second. */
export interface SignalTrend {
  readonly value: number
  readonly scatter: number
  readonly slope: number
  readonly n: number
  readonly over_s: number
}

/** Looked at so often, s, for so long, s. */
const [EVERY_S, LONG_S] = [0.5, 12]

/** What a settled device has said about itself for the last seconds, by name; never from before it was moved or started. */
export function signalTrends(d: StandIn, t_s: number): Readonly<Record<string, SignalTrend>> {
  const long_s = Math.min(LONG_S, t_s - movedAt_s(d))
  const n = Math.max(1, Math.floor(long_s / EVERY_S))
  const times = Array.from({ length: n }, (_, i) => t_s - (n - 1 - i) * EVERY_S)
  const looks = times.map((t) => signalsAt(d, t))
  return Object.fromEntries(
    (looks.at(-1) ?? []).map((s): [string, SignalTrend] => {
      const points = looks.flatMap((look, i) => {
        const there = look.find((x) => x.name === s.name)
        return there ? [[times[i] ?? t_s, there.value] as const] : []
      })
      const line = fitLine(points)
      return [
        s.name,
        {
          value: line?.meanY ?? s.value,
          scatter: line?.scatter ?? 0,
          slope: line?.slope ?? 0,
          n: points.length,
          over_s: (points.length - 1) * EVERY_S,
        },
      ]
    }),
  )
}
