import type { InstrumentOf, Interval } from './problem.ts'
import { reaches } from './check.ts'

export interface KitNeed {
  readonly id: string
  readonly kind: string
  readonly unit: string
  readonly lo: number
  readonly hi: number
  readonly tolerance: number
  readonly ratio: number
  /** Until when it is used, minutes. */
  readonly until: number
  readonly wanted: string | null
}
export type KitInstrument = Pick<
  InstrumentOf,
  'id' | 'kind' | 'unit' | 'lo' | 'hi' | 'u' | 'certificateEnds'
> & {
  readonly away: readonly Interval[]
}

/** Why an instrument does not serve, the first in this order. */
export const SHORT_CODES = ['RANGE_SHORT', 'RATIO_LOW', 'CERTIFICATE_ENDED', 'INSTRUMENT_AWAY'] as const
export type ShortCode = (typeof SHORT_CODES)[number]

export interface Kit {
  readonly pack: readonly string[]
  readonly serves: readonly {
    readonly need: string
    readonly instrument: string
    /** Tolerance by uncertainty; null where the instrument has none. */
    readonly ratio: number | null
    /** In place of the one that was wanted. */
    readonly substitute: boolean
  }[]
  readonly missing: readonly {
    readonly need: string
    readonly nearest: { readonly instrument: string; readonly code: ShortCode } | null
  }[]
}

const isOfKind = (x: KitInstrument, n: KitNeed) => x.kind === n.kind && x.unit === n.unit

/** Why an instrument of the right kind does not serve a need; null where it does. */
export function shortOf(x: KitInstrument, n: KitNeed): ShortCode | null {
  if (!reaches(x, n)) return 'RANGE_SHORT'
  if (n.tolerance < n.ratio * x.u) return 'RATIO_LOW'
  if (x.certificateEnds < n.until) return 'CERTIFICATE_ENDED'
  return x.away.some((a) => a.from < n.until) ? 'INSTRUMENT_AWAY' : null
}
const doesServe = (x: KitInstrument, n: KitNeed) => isOfKind(x, n) && shortOf(x, n) === null

/** The one that is least good and still serves: the better ones stay for who needs them. */
function least(all: readonly KitInstrument[], among: readonly number[]): number {
  const better = (a: number, b: number) => {
    const [x, y] = [all[a], all[b]]
    if (!x || !y) return 0
    return y.u - x.u || x.hi - x.lo - (y.hi - y.lo) || a - b
  }
  return [...among].sort(better)[0] ?? -1
}

/** What of the same kind comes nearest to a need that nothing serves. */
export function nearestTo(
  n: KitNeed,
  all: readonly KitInstrument[],
): { readonly instrument: string; readonly code: ShortCode } | null {
  const kind = all.flatMap((x) => {
    const code = isOfKind(x, n) ? shortOf(x, n) : null
    return code === null ? [] : [{ x, code }]
  })
  const overlap = (x: KitInstrument) => Math.min(x.hi, n.hi) - Math.max(x.lo, n.lo)
  for (const code of [...SHORT_CODES].reverse()) {
    const these = kind.filter((k) => k.code === code)
    if (code === 'RATIO_LOW') these.sort((a, b) => a.x.u - b.x.u)
    if (code === 'RANGE_SHORT') these.sort((a, b) => overlap(b.x) - overlap(a.x))
    if (these[0]) return { instrument: these[0].x.id, code }
  }
  return null
}

/** Whether one list of rising numbers comes before another. */
const comesBefore = (a: readonly number[], b: readonly number[]): boolean => {
  const i = a.findIndex((x, k) => x !== b[k])
  return i >= 0 && (a[i] ?? 0) < (b[i] ?? 0)
}

/** The fewest instruments that serve needs besides those that are packed anyway; equal: the smallest indices. */
function fewest(needs: readonly (readonly number[])[], packed: ReadonlySet<number>): number[] {
  const choose = (
    left: readonly (readonly number[])[],
    chosen: readonly number[],
    size: number,
  ): number[] | null => {
    const uncovered = left.filter((servers) => !servers.some((i) => chosen.includes(i)))
    if (uncovered.length === 0) return [...packed, ...chosen].sort((a, b) => a - b)
    if (chosen.length === size) return null
    const narrow = uncovered.reduce((a, b) => (b.length < a.length ? b : a))
    const found = narrow.flatMap((i) => {
      const pack = choose(uncovered, [...chosen, i], size)
      return pack ? [pack] : []
    })
    return found.length === 0 ? null : found.reduce((a, b) => (comesBefore(b, a) ? b : a))
  }
  const open = needs.filter((servers) => !servers.some((i) => packed.has(i)))
  for (let size = 0; ; size++) {
    const pack = choose(open, [], size)
    if (pack) return pack
  }
}

/** The kit to pack, so that every need is served by as few instruments as possible, and what nothing serves. */
export function packKit(needs: readonly KitNeed[], all: readonly KitInstrument[]): Kit {
  const servers = needs.map((n) => all.flatMap((x, i) => (doesServe(x, n) ? [i] : [])))
  const forced = needs.map((n, k) => {
    if (n.wanted === null || servers[k]?.length === 0) return -1
    const wanted = all.findIndex((x) => x.id === n.wanted)
    return servers[k]?.includes(wanted) ? wanted : least(all, servers[k] ?? [])
  })
  const packed = new Set(forced.filter((i) => i >= 0))
  const pack = fewest(
    servers.filter((s) => s.length > 0),
    packed,
  )
  return {
    pack: pack.map((i) => all[i]?.id ?? ''),
    serves: needs.flatMap((n, k) => {
      const own = servers[k] ?? []
      if (own.length === 0) return []
      const at =
        (forced[k] ?? -1) >= 0
          ? (forced[k] ?? -1)
          : least(
              all,
              own.filter((i) => pack.includes(i)),
            )
      const x = all[at]
      if (!x) return []
      const ratio = x.u > 0 ? n.tolerance / x.u : null
      return [{ need: n.id, instrument: x.id, ratio, substitute: n.wanted !== null && x.id !== n.wanted }]
    }),
    missing: needs.flatMap((n, k) =>
      servers[k]?.length === 0 ? [{ need: n.id, nearest: nearestTo(n, all) }] : [],
    ),
  }
}
