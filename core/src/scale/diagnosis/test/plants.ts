import { Chain } from '../../../signal/chain.ts'
import type { StationId } from '../../../signal/stage.ts'
import type { Generator } from '../../../statistics/generator.ts'
import type { Link } from '../links.ts'
import type { LocateTask, Level } from '../locate.ts'
import type { Shape } from '../shapes.ts'

/**
 * A plant of its own, reckoned without any of the laws that are to name its mistakes: from the applied value through
 * sensor, transfer, current, shunt, card, scaling and display, each with its limits, as the hardware does it.
 */
interface Plant {
  lrv: number
  urv: number
  unit: string
  root: 'none' | 'tx' | 'rx'
  lo: number
  hi: number
  outUnit: string
  shunt: number
  display: { lo: number; hi: number; from: 'EU' | 'MA' } | null
}
/** What is wrong in it; everything healthy where nothing is said. */
interface Wrong {
  sensor?: (fraction: number, dir: 1 | -1) => number
  /** Share of a step that had not come when it was read. */
  behind?: number
  range?: { lrv: number; urv: number }
  rootTx?: boolean
  reversed?: boolean
  output?: (mA: number) => number
  sends?: '0-20'
  most_mA?: number
  held_mA?: number
  shunt?: number
  parallel_ohm?: number
  card?: (volts: number) => number
  reads?: '0-20'
  frozen?: number
  scaling?: { lo: number; hi: number }
  fullScale?: number
  rootRx?: boolean
  rootRxToo?: boolean
  display?: { lo: number; hi: number }
}
const LINE: readonly StationId[] = ['IN', 'PV', 'PCT', 'MA', 'V', 'CNT', 'EU', 'DSP']
const N4 = 0
const N20 = 27_648
const NMIN = -4864
const NMAX = 32_511
const LOW_mA = 3.8
const HIGH_mA = 20.5
const held = (x: number, low: number, high: number) => Math.min(high, Math.max(low, x))
const root = (x: number) => Math.sqrt(Math.max(0, x))

/** A signal in place of what a station gives, as a share of its range. */
interface Fed {
  readonly at: StationId
  readonly share: number
}
/** @param before - what the sensor felt at the reading before, a share of its range */
export function simulate(
  p: Plant,
  w: Wrong,
  applied: number,
  dir: 1 | -1,
  { fed, before }: { fed?: Fed | undefined; before?: number | undefined } = {},
): Record<StationId, number> {
  const span = p.urv - p.lrv
  const given = (applied - p.lrv) / span
  const settled = w.behind !== undefined && before !== undefined ? given + w.behind * (before - given) : given
  const felt = w.sensor ? w.sensor(settled, dir) : settled
  const PV = p.lrv + (fed?.at === 'PV' ? fed.share : felt) * span
  const told = w.range ?? p
  let share = (PV - told.lrv) / (told.urv - told.lrv)
  if (w.rootTx ?? p.root === 'tx') share = root(share)
  if (w.reversed) share = 1 - share
  const isShare = fed?.at === 'PCT'
  if (isShare) share = fed.share
  const PCT = 100 * share
  const ideal = w.sends === '0-20' ? held(20 * share, 0, HIGH_mA) : held(4 + 16 * share, LOW_mA, HIGH_mA)
  const MA =
    (fed?.at === 'MA' ? 4 + 16 * fed.share : w.held_mA) ??
    Math.min(w.output ? held(w.output(ideal), w.sends === '0-20' ? 0 : 3.3, 22) : ideal, w.most_mA ?? 22)
  const ohm = w.shunt ?? p.shunt
  const across = w.parallel_ohm === undefined ? ohm : (ohm * w.parallel_ohm) / (ohm + w.parallel_ohm)
  const V = fed?.at === 'V' ? ((4 + 16 * fed.share) * p.shunt) / 1000 : (MA * across) / 1000
  const seen_mA = (1000 * (w.card ? w.card(V) : V)) / p.shunt
  const at = w.reads === '0-20' ? seen_mA / 20 : (seen_mA - 4) / 16
  const CNT = w.frozen ?? Math.round(held(N4 + at * (N20 - N4), NMIN, NMAX))
  let scaled = (CNT - N4) / ((w.fullScale ?? N20) - N4)
  if (w.rootRx ?? p.root === 'rx') scaled = root(scaled)
  if (w.rootRxToo) scaled = root(scaled)
  const scaling = w.scaling ?? p
  const EU = scaling.lo + scaled * (scaling.hi - scaling.lo)
  const d = p.display
  const shows = w.display ?? d
  const from = d?.from === 'MA' ? (MA - 4) / 16 : (EU - p.lo) / (p.hi - p.lo)
  const DSP = shows ? shows.lo + from * (shows.hi - shows.lo) : NaN
  return { IN: applied, PV, PCT, MA, V, CNT, EU, DSP } as Record<StationId, number>
}

const between = (g: Generator, a: number, b: number) => a + (b - a) * g.uniform()
const pick = <T>(g: Generator, list: readonly T[]): T => {
  const one = list[Math.floor(g.uniform() * list.length)]
  if (one === undefined) throw new Error('nothing to pick from')
  return one
}
const sign = (g: Generator) => (g.uniform() < 0.5 ? -1 : 1)
const rounded = (x: number) => Number(x.toPrecision(2))

/** A healthy plant: pressure, level, temperature or flow, of some size, with the receivers it may have. */
export function plantOf(g: Generator): Plant {
  const kind = pick(g, ['pressure', 'level', 'temperature', 'flow', 'flow'] as const)
  const size = rounded(10 ** between(g, 0, 2.5))
  const low =
    kind === 'temperature' ? pick(g, [0, -50, 20]) : kind === 'pressure' ? pick(g, [0, 0, -1, 5]) : 0
  const range = { lrv: low, urv: low + size }
  const flow = kind === 'flow'
  const high = flow ? rounded(10 ** between(g, 0.5, 3)) : range.urv
  const lo = flow ? 0 : low
  const from = pick(g, ['EU', 'MA'] as const)
  return {
    ...range,
    unit: { pressure: 'bar', level: 'm', temperature: 'degC', flow: 'mbar' }[kind],
    outUnit: { pressure: 'bar', level: 'm', temperature: 'degC', flow: 'm3/h' }[kind],
    root: flow ? pick(g, ['tx', 'tx', 'rx'] as const) : 'none',
    lo,
    hi: high,
    shunt: pick(g, [250, 250, 100]),
    // A display in the current shows what a root at the receiver has not been taken of: not one of these plants.
    display: g.uniform() < 0.4 && !flow ? { lo, hi: high, from } : null,
  }
}
const documented = (p: Plant): Chain =>
  Chain.parse({
    lrv: p.lrv,
    urv: p.urv,
    inUnit: p.unit,
    transfer: p.root === 'none' ? 'linear' : 'sqrt',
    sqrtAt: p.root === 'rx' ? 'rx' : 'tx',
    shunt: p.shunt,
    n4: N4,
    n20: N20,
    nmin: NMIN,
    nmax: NMAX,
    lo: p.lo,
    hi: p.hi,
    unit: p.outUnit,
    satLo: LOW_mA,
    satHi: HIGH_mA,
    ...(p.display ? { dsp: { ...p.display, unit: p.outUnit, decimals: 3 } } : {}),
  })

/** A mistake: where it is, what it may honestly be called from readings alone, and how it is made. */
interface Mistake {
  readonly name: string
  readonly link: Link
  readonly called: readonly Shape[]
  readonly fits?: (p: Plant) => boolean
  readonly make: (p: Plant, g: Generator) => Wrong
}
const BY_A_FACTOR: readonly Shape[] = ['GAIN', 'RANGE_HI', 'SCALE', 'COUNTS_FS', 'OFFSET_GAIN', 'GAIN_LIVE']
export const MISTAKES: readonly Mistake[] = [
  {
    name: 'sensor zero',
    link: 'IN>PV',
    called: ['OFFSET', 'OFFSET_IN', 'ATM_OFFSET'],
    make: (_, g) => {
      const c = sign(g) * between(g, 0.02, 0.08)
      return { sensor: (x) => x + c }
    },
  },
  {
    name: 'sensor span',
    link: 'IN>PV',
    called: BY_A_FACTOR,
    make: (_, g) => {
      const k = 1 + sign(g) * between(g, 0.02, 0.06)
      return { sensor: (x) => x * k }
    },
  },
  {
    name: 'sensor bent',
    link: 'IN>PV',
    called: ['BOW'],
    fits: (p) => p.root === 'none',
    make: (_, g) => {
      const b = sign(g) * between(g, 0.025, 0.06)
      return { sensor: (x) => x + 4 * b * x * (1 - x) }
    },
  },
  {
    name: 'hysteresis',
    link: 'IN>PV',
    called: ['HYST'],
    fits: (p) => p.root === 'none',
    make: (_, g) => {
      const h = between(g, 0.03, 0.08)
      return { sensor: (x, dir) => x - dir * (h / 2) * 4 * x * (1 - x) }
    },
  },
  {
    name: 'read too soon',
    link: 'IN>PV',
    called: ['LAG'],
    make: (_, g) => ({ behind: between(g, 0.05, 0.3) }),
  },
  {
    name: 'sensor stuck',
    link: 'IN>PV',
    called: ['STUCK'],
    make: (_, g) => {
      const c = between(g, 0.1, 0.95)
      return { sensor: () => c }
    },
  },
  {
    name: 'transmitter’s 20 mA point',
    link: 'PV>PCT',
    called: BY_A_FACTOR,
    make: (p, g) => ({
      range: { lrv: p.lrv, urv: p.lrv + (p.urv - p.lrv) * pick(g, [0.5, 0.6, 0.8, 1.25, 1.6, 2]) },
    }),
  },
  {
    name: 'transmitter’s 4 mA point',
    link: 'PV>PCT',
    called: ['RANGE_LO', 'RANGE_BOTH', 'LIVE0_RX', 'LIVE0_TX'],
    fits: (p) => p.root === 'none',
    make: (p, g) => ({
      range: { lrv: p.lrv + (p.urv - p.lrv) * sign(g) * between(g, 0.05, 0.15), urv: p.urv },
    }),
  },
  {
    name: 'root not taken',
    link: 'PV>PCT',
    called: ['SQRT_MISSING'],
    fits: (p) => p.root === 'tx',
    make: () => ({ rootTx: false }),
  },
  {
    name: 'reversed',
    link: 'PV>PCT',
    called: ['REVERSED', 'REVERSED_IN'],
    make: () => ({ reversed: true }),
  },
  {
    name: 'output trim, zero',
    link: 'PCT>MA',
    called: ['OFFSET', 'OFFSET_IN'],
    make: (_, g) => {
      const c = sign(g) * between(g, 0.2, 0.6)
      return { output: (mA) => mA + c }
    },
  },
  {
    name: 'output trim, span',
    link: 'PCT>MA',
    called: [...BY_A_FACTOR, 'GAIN_LIVE_IN'],
    make: (_, g) => {
      const k = 1 + sign(g) * between(g, 0.02, 0.05)
      return { output: (mA) => 4 + (mA - 4) * k }
    },
  },
  {
    name: 'output held',
    link: 'PCT>MA',
    called: ['STUCK'],
    make: (_, g) => ({ held_mA: pick(g, [4, 12, 20, between(g, 5, 19)]) }),
  },
  {
    name: 'the supply cannot drive it',
    link: 'PCT>MA',
    called: ['CLAMP_HI'],
    make: (_, g) => ({ most_mA: between(g, 13, 18.5) }),
  },
  {
    name: 'output set to 0-20 mA',
    link: 'PCT>MA',
    called: ['LIVE0_TX', 'LIVE0_TX_IN', 'RANGE_LO'],
    make: () => ({ sends: '0-20' }),
  },
  {
    name: 'another shunt',
    link: 'MA>V',
    called: ['GAIN_LIVE', 'GAIN_LIVE_IN'],
    make: (p, g) => ({ shunt: p.shunt * pick(g, [0.5, 0.88, 0.96, 1.08, 1.2]) }),
  },
  {
    name: 'a second load beside the shunt',
    link: 'MA>V',
    called: ['GAIN_LIVE', 'GAIN_LIVE_IN'],
    make: (p, g) => ({ parallel_ohm: p.shunt * Math.exp(between(g, Math.log(0.5), Math.log(30))) }),
  },
  {
    name: 'card read as 0-20 mA',
    link: 'V>CNT',
    called: ['LIVE0_RX', 'LIVE0_RX_IN', 'RANGE_LO'],
    make: () => ({ reads: '0-20' }),
  },
  {
    name: 'card frozen',
    link: 'V>CNT',
    called: ['STUCK'],
    make: (_, g) => ({ frozen: Math.round(between(g, 1000, 27_000)) }),
  },
  {
    name: 'card’s zero',
    link: 'V>CNT',
    called: ['OFFSET', 'OFFSET_IN'],
    make: (p, g) => {
      const c = sign(g) * between(g, 0.02, 0.06) * 0.016 * p.shunt
      return { card: (V) => V + c }
    },
  },
  {
    name: 'receiver’s 20 mA point',
    link: 'CNT>EU',
    called: [...BY_A_FACTOR, 'RANGE_DEFAULT'],
    make: (p, g) => ({
      scaling: { lo: p.lo, hi: p.lo + (p.hi - p.lo) * (1 + sign(g) * between(g, 0.05, 0.4)) },
    }),
  },
  {
    name: 'receiver left at percent',
    link: 'CNT>EU',
    called: ['RANGE_DEFAULT', 'SCALE'],
    fits: (p) => Math.abs(p.hi - p.lo - 100) > 2,
    make: () => ({ scaling: { lo: 0, hi: 100 } }),
  },
  {
    name: 'decimal point of the receiver',
    link: 'CNT>EU',
    called: ['SCALE', 'RANGE_DEFAULT'],
    make: (p, g) => {
      const k = pick(g, [0.1, 10, 100])
      return { scaling: { lo: p.lo * k, hi: p.hi * k } }
    },
  },
  {
    name: 'full-scale code of the receiver',
    link: 'CNT>EU',
    called: ['COUNTS_FS', 'COUNTS_FS_IN', 'RANGE_HI', 'GAIN'],
    make: (_, g) => ({ fullScale: pick(g, [32_767, 20_000, 30_000]) }),
  },
  {
    name: 'root taken twice',
    link: 'CNT>EU',
    called: ['SQRT_EXTRA'],
    fits: (p) => p.root === 'tx',
    make: () => ({ rootRx: true }),
  },
  {
    name: 'root at the receiver not taken',
    link: 'CNT>EU',
    called: ['SQRT_MISSING'],
    fits: (p) => p.root === 'rx',
    make: () => ({ rootRx: false }),
  },
  {
    name: 'display left at percent',
    link: 'EU>DSP',
    called: ['RANGE_DEFAULT', 'SCALE'],
    fits: (p) => p.display !== null && Math.abs(p.hi - p.lo - 100) > 2,
    make: () => ({ display: { lo: 0, hi: 100 } }),
  },
]

/** Noise of a reading as a share of the station's span, one standard deviation; and what is told of it. */
const NOISE: Readonly<Record<StationId, number>> = {
  IN: 0.0002,
  PV: 0.0002,
  PCT: 0.0001,
  MA: 0.0002,
  V: 0.0003,
  CNT: 0.0001,
  EU: 0.0002,
  DSP: 0.0005,
} as Record<StationId, number>
/** Tolerance of each station, % of span; the same at every plant. */
const TOLERANCE: LocateTask['tol'] = { PV: 0.25, PCT: 0.02, MA: 0.1, V: 0.1, CNT: 0.05, EU: 0.05, DSP: 0.2 }
/** Usual test plans: every one of them has both ends. */
const PLANS = [
  [0, 50, 100],
  [0, 25, 50, 75, 100],
  [0, 50, 100],
] as const

const spans = (p: Plant): Readonly<Record<StationId, number>> =>
  ({
    IN: p.urv - p.lrv,
    PV: p.urv - p.lrv,
    PCT: 100,
    MA: 16,
    V: 0.016 * p.shunt,
    CNT: N20 - N4,
    EU: p.hi - p.lo,
    DSP: p.hi - p.lo,
  }) as Record<StationId, number>

/** Healthy devices are never perfect: something inside each station's tolerance. */
function imperfect(w: Wrong, g: Generator): Wrong {
  const share = 0.3
  const draw = () => share * (2 * g.uniform() - 1)
  const [z, k, o] = [draw(), draw(), draw()]
  const { sensor, output } = w
  return {
    ...w,
    sensor: (x, dir) => (sensor ? sensor(x, dir) : x) + (0.0025 * (z + k * x)) / 2,
    output: (mA) => (output ? output(mA) : mA) + 0.016 * o,
  }
}

export interface Job {
  readonly task: LocateTask
  /** What is wrong; nothing in a healthy plant, two things in some. */
  readonly mistakes: readonly Mistake[]
  /** Whether a reading stands at a limit of the output or the card. */
  readonly atLimit: boolean
  /** Stations that this plant has. */
  readonly stations: readonly StationId[]
  /** The same task with a station read at every level too, or with a further level at the stations that are read. */
  readonly withStation: (task: LocateTask, station: StationId) => LocateTask
  readonly withLevel: (task: LocateTask, at_pct: number) => LocateTask
  /** And with both ends and the middle fed in at a station, read there and at what is read behind it. */
  readonly withFeed: (task: LocateTask, at: StationId) => LocateTask
}
/** A plant, read as a technician would: both ends and the middle, some stations of the line, with noise. */
function jobOf(g: Generator, mistakesOf: (p: Plant) => readonly Mistake[]): Job {
  const p = plantOf(g)
  const mistakes = mistakesOf(p)
  const wrong = imperfect(Object.assign({}, ...mistakes.map((m) => m.make(p, g))) as Wrong, g)
  const upDown =
    mistakes.some((m) => m.called.includes('HYST') || m.called.includes('LAG')) || g.uniform() < 0.3
  const plan = pick(g, PLANS)
  const levels = [
    ...plan.map((x) => ({ x, dir: 1 as const })),
    ...(upDown ? [...plan].reverse().map((x) => ({ x, dir: -1 as const })) : []),
  ]
  const last: StationId =
    p.display && (mistakes.some((m) => m.link === 'EU>DSP') || g.uniform() < 0.3) ? 'DSP' : 'EU'
  const inside: readonly StationId[] = ['PV', 'MA', 'V', 'CNT']
  const read: readonly StationId[] = [
    'IN',
    ...inside.filter(() => g.uniform() < 0.5),
    ...(p.display && last === 'DSP' ? (['EU', 'DSP'] as const) : (['EU'] as const)),
  ]
  const size = spans(p)
  let before: number | undefined
  const trueAt = (x: number, dir: 1 | -1, fed?: Fed) => {
    const v = simulate(p, wrong, p.lrv + ((p.urv - p.lrv) * x) / 100, dir, { fed, before })
    before = (v.PV - p.lrv) / (p.urv - p.lrv)
    return v
  }
  const noisy = (v: Readonly<Record<StationId, number>>, ids: readonly StationId[]) =>
    Object.fromEntries(
      ids.map((id) => {
        const value = v[id] + g.normal() * NOISE[id] * Math.abs(size[id])
        return [id, id === 'CNT' ? Math.round(value) : value]
      }),
    ) as Level['values']
  const true_ = levels.map(({ x, dir }) => trueAt(x, dir))
  const limits = true_.some(
    (v) => v.MA <= LOW_mA + 0.03 || v.MA >= HIGH_mA - 0.03 || v.CNT <= NMIN || v.CNT >= NMAX,
  )
  const truth = new Map<Level, Readonly<Record<StationId, number>>>()
  const levelOf = (
    v: Readonly<Record<StationId, number>>,
    dir: 1 | -1,
    ids: readonly StationId[],
    fedAt?: StationId,
  ): Level => {
    const level = { values: noisy(v, ids), dir, ...(fedAt ? { fedAt } : {}) }
    truth.set(level, v)
    return level
  }
  return {
    task: {
      chain: documented(p),
      levels: true_.map((v, i) => levelOf(v, levels[i]?.dir ?? 1, read)),
      u: Object.fromEntries(
        Object.entries(NOISE).map(([id, n]) => [id, n * Math.abs(size[id as StationId])]),
      ),
      tol: TOLERANCE,
    },
    mistakes,
    atLimit: limits,
    stations: ['IN', 'PV', 'PCT', 'MA', 'V', 'CNT', 'EU', ...(p.display ? (['DSP'] as const) : [])],
    withStation: (task, station) => ({
      ...task,
      levels: task.levels.map((l) => {
        const v = truth.get(l)
        if (l.fedAt && LINE.indexOf(station) < LINE.indexOf(l.fedAt)) return l
        if (!v) throw new Error('a level of another plant')
        const level = { ...l, values: { ...l.values, ...noisy(v, [station]) } }
        truth.set(level, v)
        return level
      }),
    }),
    withLevel: (task, at_pct) => ({
      ...task,
      levels: [
        ...task.levels,
        levelOf(trueAt(at_pct, 1), 1, Object.keys(task.levels[0]?.values ?? {}) as StationId[]),
      ],
    }),
    withFeed: (task, at) => {
      const ids = Object.keys(task.levels[0]?.values ?? {}) as StationId[]
      const behind = [at, ...ids.filter((id) => LINE.indexOf(id) > LINE.indexOf(at))]
      const levels = [0, 0.5, 1].map((share) => levelOf(trueAt(50, 1, { at, share }), 1, behind, at))
      return { ...task, levels: [...task.levels, ...levels] }
    },
  }
}
const fitting = (p: Plant) =>
  MISTAKES.filter((m) => m.fits?.(p) !== false && (m.link !== 'EU>DSP' || p.display))
export const healthyJob = (g: Generator): Job => jobOf(g, () => [])
export const brokenJob = (g: Generator): Job => jobOf(g, (p) => [pick(g, fitting(p))])
/** Two mistakes at once, in two parts of the line. */
export const twiceBrokenJob = (g: Generator): Job =>
  jobOf(g, (p) => {
    const first = pick(g, fitting(p))
    return [
      first,
      pick(
        g,
        fitting(p).filter((m) => m.link !== first.link),
      ),
    ]
  })
