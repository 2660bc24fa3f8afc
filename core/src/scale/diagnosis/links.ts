import { fractionOf } from '../../signal/current-range.ts'
import type { Chain } from '../../signal/chain.ts'
import type { StationId } from '../../signal/stage.ts'
import { invertTransfer, applyTransfer, type Transfer } from '../../signal/transfer.ts'

/** Links of the chain in their order; each ends at the station its name ends with. */
export const LINKS = ['IN>PV', 'PV>PCT', 'PCT>MA', 'MA>V', 'V>CNT', 'CNT>EU', 'EU>DSP'] as const
export type Link = (typeof LINKS)[number]

const TRUNK: readonly StationId[] = ['IN', 'PV', 'PCT', 'MA', 'V', 'CNT', 'EU', 'DSP']

/** The station that a station takes its signal from; a display in the loop takes it from the current. */
const before = (chain: Chain, id: StationId): StationId | null =>
  id === 'DSP' && chain.dsp?.from === 'MA' ? 'MA' : (TRUNK[TRUNK.indexOf(id) - 1] ?? null)

/** The links from one station down to another; null when the second does not follow from the first. */
export function linksBetween(chain: Chain, from: StationId, to: StationId): Link[] | null {
  const out: Link[] = []
  let at: StationId | null = to
  while (at !== null && at !== from) {
    const source: StationId | null = before(chain, at)
    out.unshift(at === 'DSP' ? 'EU>DSP' : (`${source ?? ''}>${at}` as Link))
    at = source
  }
  return at === from ? out : null
}

/** Square root or table of the chain, and the link that applies it. */
export interface Bend {
  readonly link: Link
  readonly kind: 'sqrt' | 'table'
  readonly G: (u: number) => number
  readonly inverse: (q: number) => number
}
export function bendOf(chain: Chain): Bend | null {
  const link: Link = chain.sqrtAt === 'tx' ? 'PV>PCT' : 'CNT>EU'
  if (chain.transfer === 'sqrt')
    return {
      link,
      kind: 'sqrt',
      G: (u) => Math.sqrt(Math.max(u, 0)),
      inverse: (q) => Math.max(q, 0) ** 2,
    }
  if (chain.transfer !== 'table' || !chain.table) return null
  const t: Transfer = { kind: 'table', points: chain.table }
  return {
    link,
    kind: 'table',
    G: (u) => applyTransfer(t, u),
    inverse: (q) => {
      const k = invertTransfer(t, q)
      return k.kind === 'value' ? k.phi : q
    },
  }
}

/** What a fault in some links of a segment acts on: the fraction that is there, before the limits behind it. */
export interface Zone {
  readonly links: readonly Link[]
  /** Fraction downstream without the limits that lie at or behind these links, and what stands before the bend. */
  readonly free: (phi: number) => { readonly F: number; readonly x: number }
  /** Limits that lie at or behind these links, as fractions downstream: what comes out is held to them. */
  readonly low: number
  readonly high: number
}
/** A stretch of the chain between two observed stations. */
export interface Segment {
  readonly from: StationId
  readonly to: StationId
  readonly links: readonly Link[]
  /** The bend when it lies inside. */
  readonly bend: Bend | null
  /** Expected fraction downstream of a fraction upstream. */
  readonly law: (phi: number) => number
  /** Places for a fault, by the limits that lie behind them. */
  readonly zones: readonly Zone[]
}

/** Which limits lie behind a link: those of output and card, of the card alone, or none. */
const ZONE_OF: Readonly<Record<Link, 0 | 1 | 2>> = {
  'IN>PV': 0,
  'PV>PCT': 0,
  'PCT>MA': 0,
  'MA>V': 1,
  'V>CNT': 1,
  'CNT>EU': 2,
  'EU>DSP': 2,
}

export function segmentOf(chain: Chain, from: StationId, to: StationId): Segment | null {
  const links = linksBetween(chain, from, to)
  if (!links || links.length === 0) return null
  const whole = bendOf(chain)
  const bend = whole && links.includes(whole.link) ? whole : null
  const turns = chain.reverse === true && links.includes('PV>PCT')
  const cutoff = bend?.kind === 'sqrt' ? (chain.cutoff ?? 0) : 0
  const code = (n: number) => (n - chain.n4) / (chain.n20 - chain.n4)
  const limits = (
    [
      ['PCT>MA', fractionOf(chain.satLo), fractionOf(chain.satHi)],
      ['V>CNT', code(chain.nmin), code(chain.nmax)],
    ] as const
  ).filter(([link]) => links.includes(link))
  /** All of it, with the limits before a zone alone. */
  const run = (phi: number, before: number) => {
    let q = phi
    let x = phi
    const apply = () => {
      x = q
      if (!bend) return
      q = bend.G(q)
      if (q < cutoff) q = 0
    }
    if (bend?.link === 'PV>PCT') apply()
    if (turns) q = 1 - q
    for (const [link, low, high] of limits) if (ZONE_OF[link] < before) q = Math.min(high, Math.max(low, q))
    if (bend?.link === 'CNT>EU') apply()
    return { F: q, x: bend ? x : q }
  }
  const after = (q: number) => (bend?.link === 'CNT>EU' ? bend.G(q) : q)
  const zones = ([0, 1, 2] as const)
    .map((zone): Zone => {
      const behind = limits.filter(([link]) => ZONE_OF[link] >= zone)
      return {
        links: links.filter((link) => ZONE_OF[link] === zone),
        free: (phi) => run(phi, zone),
        low: after(Math.max(-Infinity, ...behind.map(([, low]) => low))),
        high: after(Math.min(Infinity, ...behind.map(([, , high]) => high))),
      }
    })
    .filter((zone) => zone.links.length > 0)
  return { from, to, links, bend, law: (phi) => run(phi, 3).F, zones }
}

/** A station's value as a fraction of its documented range. */
export function fractionAt(chain: Chain, id: StationId, value: number): number {
  switch (id) {
    case 'IN':
    case 'PV':
      return (value - chain.lrv) / (chain.urv - chain.lrv)
    case 'PCT':
      return value / 100
    case 'MA':
      return fractionOf(value)
    case 'V':
      return fractionOf((1000 * value) / chain.shunt)
    case 'CNT':
      return (value - chain.n4) / (chain.n20 - chain.n4)
    case 'EU':
      return (value - chain.lo) / (chain.hi - chain.lo)
    case 'DSP': {
      const d = chain.dsp ?? { lo: chain.lo, hi: chain.hi }
      return (value - d.lo) / (d.hi - d.lo)
    }
    default:
      throw new RangeError(`no fraction for station ‘${id as string}’`)
  }
}
/** Value of a whole span at a station: an uncertainty divided by this is a fraction. */
export const spanAt = (chain: Chain, id: StationId): number => {
  const one = fractionAt(chain, id, 1) - fractionAt(chain, id, 0)
  return 1 / one
}

/** Range and unit that a segment's downstream reading is told in. */
export function scaleAt(chain: Chain, to: StationId): { lo: number; hi: number; unit: string } {
  if (to === 'EU') return { lo: chain.lo, hi: chain.hi, unit: chain.unit }
  if (to === 'DSP' && chain.dsp) return chain.dsp
  return { lo: chain.lrv, hi: chain.urv, unit: chain.inUnit }
}
