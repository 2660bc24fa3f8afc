import type { Chain } from '../../signal/chain.ts'
import { scaleAt, type Link, type Segment } from './links.ts'
import { BETWEEN, density } from './grid.ts'
import { lagging } from './lag.ts'
import { NEAR_SHUNT, nearLoads, otherLoads, type Load } from './loads.ts'
import { scaleFactors } from './unit-factors.ts'

/** Shapes that an error can have over the range; each is a law of the observed fraction. */
export const SHAPES = [
  'NONE',
  'OFFSET',
  'GAIN',
  'OFFSET_GAIN',
  'GAIN_LIVE',
  'RANGE_HI',
  'RANGE_LO',
  'RANGE_BOTH',
  'RANGE_DEFAULT',
  'SCALE',
  'LIVE0_TX',
  'LIVE0_RX',
  'COUNTS_FS',
  'SQRT_EXTRA',
  'SQRT_MISSING',
  'OFFSET_IN',
  'REVERSED_IN',
  'LIVE0_TX_IN',
  'LIVE0_RX_IN',
  'GAIN_LIVE_IN',
  'COUNTS_FS_IN',
  'REVERSED',
  'SIGN_FLIP',
  'ATM_OFFSET',
  'ZERO_OMITTED',
  'TABLE_MISSING',
  'STUCK',
  'CLAMP_HI',
  'CLAMP_LO',
  'CUTOFF',
  'BOW',
  'HYST',
  'LAG',
  'UNKNOWN',
] as const
export type SimpleShape = (typeof SHAPES)[number]
/** A simple shape, or one applied to another: two mistakes. */
export type Shape =
  | SimpleShape
  | `${'SQRT_EXTRA' | 'SQRT_MISSING' | 'REVERSED'}+${'OFFSET' | 'RANGE_HI' | 'RANGE_DEFAULT' | 'SCALE'}`

/** How often each is met, before anything was read; engineering choices, can be changed. */
export const WEIGHTS: Readonly<Record<SimpleShape, number>> = {
  NONE: 0.3,
  OFFSET: 0.12,
  GAIN: 0.08,
  OFFSET_GAIN: 0.04,
  GAIN_LIVE: 0.05,
  RANGE_HI: 0.06,
  RANGE_LO: 0.03,
  RANGE_BOTH: 0.03,
  RANGE_DEFAULT: 0.05,
  SCALE: 0.05,
  LIVE0_TX: 0.02,
  LIVE0_RX: 0.03,
  COUNTS_FS: 0.02,
  SQRT_EXTRA: 0.03,
  SQRT_MISSING: 0.03,
  OFFSET_IN: 0.04,
  REVERSED_IN: 0.03,
  LIVE0_TX_IN: 0.02,
  LIVE0_RX_IN: 0.03,
  GAIN_LIVE_IN: 0.05,
  COUNTS_FS_IN: 0.02,
  REVERSED: 0.03,
  SIGN_FLIP: 0.01,
  ATM_OFFSET: 0.02,
  // A receiver left at 0 to 100 is met more often than a lower value that nobody added.
  ZERO_OMITTED: 0.005,
  TABLE_MISSING: 0.03,
  STUCK: 0.05,
  CLAMP_HI: 0.03,
  CLAMP_LO: 0.02,
  CUTOFF: 0.02,
  BOW: 0.03,
  HYST: 0.03,
  LAG: 0.02,
  UNKNOWN: 0.001,
}

const words = (list: string) => list.split(' ') as SimpleShape[]
const ELIGIBLE: Readonly<Record<Link, readonly SimpleShape[]>> = {
  'IN>PV': words('OFFSET GAIN OFFSET_GAIN BOW HYST LAG STUCK CLAMP_HI CLAMP_LO SIGN_FLIP ATM_OFFSET SCALE'),
  'PV>PCT': words('RANGE_HI RANGE_LO RANGE_BOTH REVERSED SQRT_EXTRA SQRT_MISSING CUTOFF TABLE_MISSING STUCK'),
  'PCT>MA': words('OFFSET GAIN OFFSET_GAIN LAG STUCK CLAMP_HI CLAMP_LO LIVE0_TX'),
  'MA>V': words('GAIN_LIVE OFFSET CLAMP_HI STUCK'),
  'V>CNT': words('OFFSET GAIN OFFSET_GAIN GAIN_LIVE LIVE0_RX STUCK CLAMP_HI CLAMP_LO'),
  'CNT>EU': words(
    'OFFSET LAG RANGE_HI RANGE_LO RANGE_BOTH RANGE_DEFAULT SCALE COUNTS_FS LIVE0_RX ZERO_OMITTED SQRT_EXTRA SQRT_MISSING REVERSED CUTOFF CLAMP_HI CLAMP_LO STUCK ATM_OFFSET TABLE_MISSING',
  ),
  'EU>DSP': words(
    'OFFSET RANGE_HI RANGE_LO RANGE_BOTH RANGE_DEFAULT SCALE LIVE0_RX ZERO_OMITTED SQRT_EXTRA SQRT_MISSING REVERSED CUTOFF CLAMP_HI CLAMP_LO STUCK',
  ),
}
const LINK_ORDER = Object.keys(ELIGIBLE) as Link[]

/** What a shape becomes when its link acts before the square root or table. */
const BEFORE: Partial<Readonly<Record<SimpleShape, SimpleShape | null>>> = {
  OFFSET: 'OFFSET_IN',
  REVERSED: 'REVERSED_IN',
  LIVE0_TX: 'LIVE0_TX_IN',
  LIVE0_RX: 'LIVE0_RX_IN',
  GAIN_LIVE: 'GAIN_LIVE_IN',
  COUNTS_FS: 'COUNTS_FS_IN',
  SIGN_FLIP: null,
  ATM_OFFSET: null,
  SCALE: null,
}

/** Simple shapes that a fault in some links of a segment can show. @param links - all of the segment where none are named */
export function eligibleShapes(segment: Segment, links: readonly Link[] = segment.links): SimpleShape[] {
  const found = new Set<SimpleShape>()
  const { bend } = segment
  for (const link of links) {
    const isBefore = bend !== null && LINK_ORDER.indexOf(link) < LINK_ORDER.indexOf(bend.link)
    const ownLink = bend !== null && bend.link === 'CNT>EU' && link === 'CNT>EU'
    // Ends exchanged where the bend is made turn what goes into it.
    if (bend?.link === 'PV>PCT' && link === 'PV>PCT') found.add('REVERSED_IN')
    for (const shape of ELIGIBLE[link]) {
      const turned = BEFORE[shape]
      if (isBefore && turned !== undefined) {
        if (turned !== null) found.add(turned)
      } else if (ownLink && (shape === 'COUNTS_FS' || shape === 'LIVE0_RX')) {
        if (turned) found.add(turned)
      } else found.add(shape)
    }
  }
  return SHAPES.filter((s) => found.has(s))
}

/** What the fitted numbers of a component mean. */
export interface Reported {
  readonly label:
    | 'offsetPctSpan'
    | 'gainPct'
    | 'bowPctSpan'
    | 'hysteresisPctSpan'
    | 'lagPctOfStep'
    | 'ohm'
    | 'fraction'
    | 'inputOffsetPctSpan'
    | 'upperRange'
    | 'lowerRange'
    | 'factor'
    | 'low'
    | 'high'
    | 'fullScaleCode'
  readonly value: number
}

/** One law with its free numbers: mean(F) + Σ columns·θ, θ normal around 0 with these variances. */
export interface Component {
  readonly weight: number
  /** Value of the law at the point i for an expected fraction F. */
  readonly mean: (F: number, i: number) => number
  readonly columns: readonly ((F: number, i: number) => number)[]
  readonly variances: readonly number[]
  /** The law of what stands before the bend, where the shape acts there: the mean is what the bend makes of it. */
  readonly inner?: (x: number) => number
  /** Points whose slope is 0: stuck, clamped or cut off. */
  readonly flat?: (i: number) => boolean
  /** Ends of the unclamped and the clamped points, for the plausibility of a clamp. */
  readonly clamp?: { readonly kind: 'HI' | 'LO'; readonly clamped: ReadonlySet<number> }
  /** Scatter that belongs to the shape itself. */
  readonly scatter?: number
  readonly report?: (theta: readonly number[]) => Reported[]
}

export interface Point {
  /** Expected fraction downstream, with every limit on the way. */
  readonly F: number
  readonly r: number
  readonly s: number
  readonly dir: 1 | -1
  /** What stands before the bend; F where there is none. */
  readonly x?: number
  /** What is allowed here, a fraction; the segment’s everywhere where it is not said. */
  readonly T?: number
  /** F and x by zone of the segment, without the limits behind it. */
  readonly free?: readonly { readonly F: number; readonly x: number }[]
}

const FULL_SCALES = [4095, 10_000, 16_383, 20_000, 27_648, 30_000, 32_767, 65_535]
const DEFAULTS: readonly (readonly [number, number])[] = [
  [0, 100],
  [0, 1],
  [0, 10],
  [0, 1000],
  [4, 20],
  [1, 5],
]
const identity = (F: number) => F
const one = () => 1
const parabola = (F: number) => 4 * F * (1 - F)
const distinct = (values: readonly number[], decimals: number) => [
  ...new Set(values.map((v) => Math.round(v * 10 ** decimals) / 10 ** decimals)),
]

function line(
  columns: Component['columns'],
  sds: readonly number[],
  weight: number,
  report?: Component['report'],
): Component {
  return {
    weight,
    mean: identity,
    columns,
    variances: sds.map((s) => s * s),
    ...(report ? { report } : {}),
  }
}
/** A law of what stands before the bend; with `varies`, how it changes with a number that is known only to `sd`. */
function within(
  bend: NonNullable<Segment['bend']>,
  inner: (x: number, by: number) => number,
  weight = 1,
  report?: (by: number) => Reported[],
  sd = 0,
): Component {
  const out = (F: number, by: number) => bend.G(inner(bend.inverse(F), by))
  return {
    weight,
    mean: (F) => out(F, 0),
    inner: (x) => inner(x, 0),
    columns: sd > 0 ? [(F) => (out(F, sd) - out(F, -sd)) / (2 * sd)] : [],
    variances: sd > 0 ? [sd * sd] : [],
    ...(report ? { report: ([by = 0]) => report(by) } : {}),
  }
}
const fixed = (mean: (F: number) => number, weight = 1, report?: Component['report']): Component => ({
  weight,
  mean,
  columns: [],
  variances: [],
  ...(report ? { report } : {}),
})
const normalised = (list: readonly Component[]): Component[] => {
  const sum = list.reduce((s, c) => s + c.weight, 0)
  return list.map((c) => ({ ...c, weight: c.weight / sum }))
}

/** Everything the shapes need to know besides the points. */
export interface ShapeContext {
  readonly chain: Chain
  readonly segment: Segment
  readonly points: readonly Point[]
  /** Tolerance of what lies before the bend, a fraction of what goes into it; 0 without a bend. */
  readonly Tin?: number
}

const atTransmitter = (segment: Segment) => segment.to !== 'EU' && segment.to !== 'DSP'

function upper(c: ShapeContext, g: number): number {
  const { lo, hi } = scaleAt(c.chain, c.segment.to)
  return atTransmitter(c.segment)
    ? c.chain.lrv + (c.chain.urv - c.chain.lrv) / (1 + g)
    : lo + (hi - lo) * (1 + g)
}
function lower(c: ShapeContext, alpha: number): number {
  const { lo, hi } = scaleAt(c.chain, c.segment.to)
  return atTransmitter(c.segment) ? (c.chain.lrv - alpha * c.chain.urv) / (1 - alpha) : lo + alpha * (hi - lo)
}

/** Both ends of a range that makes F + α + gF of the documented fraction. */
function bothEnds(c: ShapeContext, alpha: number, g: number): { low: number; high: number } {
  const { lo, hi } = scaleAt(c.chain, c.segment.to)
  if (!atTransmitter(c.segment))
    return { low: lo + alpha * (hi - lo), high: lo + (hi - lo) * (1 + alpha + g) }
  const span = (c.chain.urv - c.chain.lrv) / (1 + g)
  const low = c.chain.lrv - alpha * span
  return { low, high: low + span }
}

const approachedBothWays = (points: readonly Point[]) =>
  points.some((p) => p.dir === 1) && points.some((p) => p.dir === -1)

/** The components of a simple shape for these points; none where the shape makes no sense here. */
export function componentsOf(shape: SimpleShape, c: ShapeContext): Component[] {
  const { chain, segment, points } = c
  const { lo, hi, unit } = scaleAt(chain, segment.to)
  const sp = hi - lo
  const bend = segment.bend
  const inverse = bend?.inverse ?? identity
  const span = chain.urv - chain.lrv
  switch (shape) {
    case 'NONE':
      return [fixed(identity)]
    case 'OFFSET':
      return [0.02, 0.2].map((sd) =>
        line([one], [sd], 0.5, ([t = 0]) => [{ label: 'offsetPctSpan', value: 100 * t }]),
      )
    case 'GAIN':
      return [0.01, 0.05].map((sd) =>
        line([identity], [sd], 0.5, ([t = 0]) => [{ label: 'gainPct', value: 100 * t }]),
      )
    case 'OFFSET_GAIN':
      return [
        line([one, identity], [0.03, 0.03], 1, ([o = 0, g = 0]) => [
          { label: 'offsetPctSpan', value: 100 * o },
          { label: 'gainPct', value: 100 * g },
        ]),
      ]
    case 'GAIN_LIVE': {
      const of = ({ k, sd, weight }: Load): Component => ({
        ...line([(F) => F + 0.25], [sd], weight, ([t = 0]) => [
          { label: 'ohm', value: chain.shunt * (k + t) },
        ]),
        mean: (F) => k * F + (k - 1) / 4,
      })
      return [...otherLoads(chain.shunt), ...NEAR_SHUNT.map((near) => ({ k: 1, ...near }))].map(of)
    }
    case 'RANGE_HI':
      return [line([identity], [0.7], 1, ([g = 0]) => [{ label: 'upperRange', value: upper(c, g) }])]
    case 'RANGE_LO':
      return [line([(F) => 1 - F], [0.4], 1, ([a = 0]) => [{ label: 'lowerRange', value: lower(c, a) }])]
    case 'RANGE_BOTH':
      return [
        line([one, identity], [0.4, 0.7], 1, ([a = 0, g = 0]) => {
          const ends = bothEnds(c, a, g)
          return [
            { label: 'lowerRange', value: ends.low },
            { label: 'upperRange', value: ends.high },
          ]
        }),
      ]
    case 'RANGE_DEFAULT':
      return normalised(
        DEFAULTS.filter(([A, B]) => A !== lo || B !== hi).map(([A, B]) =>
          fixed(
            (F) => (A + (B - A) * F - lo) / sp,
            1,
            () => [
              { label: 'low', value: A },
              { label: 'high', value: B },
            ],
          ),
        ),
      )
    case 'SCALE': {
      // A factor that makes one value of all that was read is none: that stands still.
      const all = points.map((p) => p.F)
      const least = 4 * Math.max(...points.map((p) => p.s))
      return normalised(
        scaleFactors(unit)
          .filter(({ k }) => k * (Math.max(...all) - Math.min(...all)) > least)
          .map(({ k, k0 }) =>
            fixed(
              (F) => (k * (lo + sp * F) + k0 - lo) / sp,
              1,
              () => [{ label: 'factor', value: k }],
            ),
          ),
      )
    }
    case 'LIVE0_TX':
      return [fixed((F) => 1.25 * F - 0.25)]
    case 'LIVE0_RX':
      return [fixed((F) => 0.2 + 0.8 * F)]
    case 'COUNTS_FS':
    case 'COUNTS_FS_IN': {
      if (chain.n4 !== 0) return []
      const before = shape === 'COUNTS_FS_IN'
      return normalised(
        FULL_SCALES.filter((m) => m !== chain.n20).map((m) => {
          const k = chain.n20 / m
          const report = () => [{ label: 'fullScaleCode' as const, value: m }]
          return before && bend ? within(bend, (x) => x * k, 1, report) : fixed((F) => F * k, 1, report)
        }),
      )
    }
    case 'SQRT_EXTRA':
      return [fixed((F) => Math.sqrt(Math.max(F, 0)))]
    case 'SQRT_MISSING':
      return bend?.kind === 'sqrt' ? [fixed((F) => F * F)] : []
    case 'OFFSET_IN': {
      if (!bend) return []
      const [from, to, n] = [Math.log(1e-4), Math.log(0.2), 40]
      const step = (to - from) / (n - 1)
      return normalised(
        Array.from({ length: n }, (_, i) => Math.exp(from + step * i)).flatMap((size) =>
          [size, -size].map((off) =>
            within(
              bend,
              (x, by) => x + off + by,
              size * (0.5 * density(off, 0, 0.02) + 0.5 * density(off, 0, 0.1)),
              (by) => [{ label: 'inputOffsetPctSpan', value: 100 * (off + by) }],
              size * step * BETWEEN,
            ),
          ),
        ),
      )
    }
    case 'REVERSED_IN':
      return bend ? [within(bend, (x) => 1 - x)] : []
    case 'LIVE0_TX_IN':
      return bend ? [within(bend, (x) => 1.25 * x - 0.25)] : []
    case 'LIVE0_RX_IN':
      return bend ? [within(bend, (x) => 0.2 + 0.8 * x)] : []
    case 'GAIN_LIVE_IN': {
      if (!bend) return []
      const of = ({ k, sd, weight }: Load) =>
        within(
          bend,
          (x, by) => (k + by) * x + (k + by - 1) / 4,
          weight,
          (by) => [{ label: 'ohm', value: chain.shunt * (k + by) }],
          sd,
        )
      return [...otherLoads(chain.shunt), ...nearLoads()].map(of)
    }
    case 'REVERSED':
      return [fixed((F) => 1 - F)]
    case 'SIGN_FLIP':
      return bend?.kind === 'sqrt' ? [] : [fixed((F) => -F - (2 * chain.lrv) / span)]
    case 'ATM_OFFSET': {
      if (chain.atm === undefined || bend?.kind === 'sqrt') return []
      const a = chain.atm / span
      return [a, -a].map((shift) => ({
        ...line([one], [0.03 * Math.abs(a)], 0.5, ([t = 0]) => [
          { label: 'offsetPctSpan' as const, value: 100 * (shift + t) },
        ]),
        mean: (F: number) => F + shift,
      }))
    }
    case 'ZERO_OMITTED':
      return lo === 0 ? [] : [fixed((F) => (sp * F - lo) / sp)]
    case 'TABLE_MISSING':
      return bend?.kind === 'table' ? [fixed(inverse)] : []
    case 'STUCK':
      return [
        {
          weight: 1,
          mean: () => 0.5,
          columns: [one],
          variances: [0.16],
          flat: () => true,
          report: ([t = 0]) => [{ label: 'fraction', value: 0.5 + t }],
        },
      ]
    case 'CLAMP_HI':
    case 'CLAMP_LO': {
      const high = shape === 'CLAMP_HI'
      const order = points
        .map((p, i) => ({ i, F: p.F }))
        .sort((a, b) => (high ? b.F - a.F : a.F - b.F))
        .map(({ i }) => i)
      return normalised(
        Array.from({ length: Math.max(0, points.length - 1) }, (_, k): Component => {
          const clamped = new Set(order.slice(0, k + 1))
          const inside = (i: number) => clamped.has(i)
          return {
            weight: 1,
            mean: (F, i) => (inside(i) ? 0.5 : F),
            columns: [(_F, i) => (inside(i) ? 1 : 0)],
            variances: [0.16],
            flat: inside,
            clamp: { kind: high ? 'HI' : 'LO', clamped },
            report: ([t = 0]) => [{ label: 'fraction', value: 0.5 + t }],
          }
        }),
      )
    }
    case 'CUTOFF': {
      const levels = distinct(
        points.map((p) => p.F).filter((F) => F > 0.005),
        6,
      ).sort((a, b) => a - b)
      return normalised(
        Array.from({ length: Math.max(0, levels.length - 1) }, (_, k): Component => {
          const limit = (levels[k] ?? 0) + 5e-7
          const cut = (i: number) => {
            const F = points[i]?.F ?? 0
            return F > 0.005 && F <= limit
          }
          return {
            weight: 1,
            mean: (F, i) => (cut(i) ? 0 : F),
            columns: [],
            variances: [],
            flat: cut,
            report: () => [{ label: 'fraction', value: levels[k] ?? 0 }],
          }
        }),
      )
    }
    case 'BOW':
      return [0.01, 0.05].map((sd) =>
        line([parabola], [sd], 0.5, ([t = 0]) => [{ label: 'bowPctSpan', value: 100 * t }]),
      )
    case 'HYST':
      return approachedBothWays(points)
        ? [0.01, 0.05].map((sd) =>
            line([(F, i) => (-(points[i]?.dir ?? 1) / 2) * parabola(F)], [sd], 0.5, ([t = 0]) => [
              { label: 'hysteresisPctSpan', value: 100 * t },
            ]),
          )
        : []
    case 'LAG':
      return approachedBothWays(points) ? lagging(points, segment) : []
    case 'UNKNOWN':
      return [{ ...fixed(identity), scatter: 0.5 }]
  }
}

const FIRST = ['SQRT_EXTRA', 'SQRT_MISSING', 'REVERSED'] as const
const SECOND = ['OFFSET', 'RANGE_HI', 'RANGE_DEFAULT', 'SCALE'] as const

/** Two mistakes at once, for three different levels or more: the second applied to what the first makes. */
export function compositeShapes(eligible: readonly SimpleShape[], c: ShapeContext) {
  if (
    distinct(
      c.points.map((p) => p.F),
      4,
    ).length < 3
  )
    return []
  return FIRST.flatMap((a) => {
    const [first] = eligible.includes(a) ? componentsOf(a, c) : []
    if (!first) return []
    return SECOND.flatMap((b) => {
      if (!eligible.includes(b)) return []
      const components = componentsOf(b, c).map((x): Component => ({
        ...x,
        mean: (F, i) => x.mean(first.mean(F, i), i),
        columns: x.columns.map((col) => (F: number, i: number) => col(first.mean(F, i), i)),
      }))
      return [{ shape: `${a}+${b}` as Shape, weight: 0.5 * WEIGHTS[a] * WEIGHTS[b], components }]
    })
  })
}
