import { roundHalfAway } from '../quantity/round.ts'
import { STATION_IDS, stageOf, type Range, type Stage, type StageKind, type StationId } from './stage.ts'
import { applyTransfer, invertKnown, type Known } from './transfer.ts'

/** One station on the line, ready to compute with: everything in closures, nothing looked up per value. */
export interface Station {
  readonly id: StationId
  readonly kind: StageKind
  readonly unit: string
  /** The station's value at 0 % and at 100 %. */
  readonly low: number
  readonly high: number
  /** Index of the station it takes its signal from; -1 for the process. */
  readonly from: number
  readonly toFraction: (value: number) => number
  readonly fromFraction: (phi: number) => number
  /** What the link into this station does to the fraction. */
  readonly link: (phi: number) => number
  readonly unlink: (known: Known) => Known
  /** What the station makes of its own value: a card rounds to codes, a display to decimals. */
  readonly settle: (value: number) => number
  /** What is known of the fraction when this value stands at the station. */
  readonly observe: (value: number) => Known
}

export type StationValue =
  | { readonly kind: 'value'; readonly value: number; readonly phi: number }
  | {
      readonly kind: 'interval'
      readonly mid: number
      readonly lo: number
      readonly hi: number
      readonly phi: number
    }
  | { readonly kind: 'atLeast' | 'atMost'; readonly bound: number; readonly phi: number }
  | { readonly kind: 'none' }

export interface Path {
  readonly stations: readonly Station[]
}

const same = (x: number) => x
const through = (k: Known) => k

function scale(range: Pick<Range, 'low' | 'high'>) {
  const span = range.high - range.low
  return {
    low: range.low,
    high: range.high,
    toFraction: (v: number) => (v - range.low) / span,
    fromFraction: (phi: number) => range.low + span * phi,
  }
}

/** Keeps a fraction between two limits; a value at a limit is known from one side only. */
function limits(lo: number, hi: number) {
  return {
    link: (phi: number) => Math.min(hi, Math.max(lo, phi)),
    unlink: (k: Known): Known => {
      const at = k.kind === 'value' ? k.phi : k.kind === 'interval' ? k.mid : null
      if (at === null) return k
      if (at >= hi) return { kind: 'atLeast', bound: hi }
      return at <= lo ? { kind: 'atMost', bound: lo } : k
    },
  }
}

const reverseKnown = (k: Known): Known => {
  switch (k.kind) {
    case 'value':
      return { kind: 'value', phi: 1 - k.phi }
    case 'interval':
      return { kind: 'interval', mid: 1 - k.mid, lo: 1 - k.lo, hi: 1 - k.hi }
    case 'none':
      return k
    default:
      return { kind: k.kind === 'atLeast' ? 'atMost' : 'atLeast', bound: 1 - k.bound }
  }
}

/** Volts of a 0-20 or 4-20 mA current across the shunt use the live-zero fraction in both cases. */
const currentScale = (signal: '4-20' | '0-20') =>
  scale(signal === '4-20' ? { low: 4, high: 20 } : { low: 0, high: 20 })

type Scale = ReturnType<typeof scale>
/** A link between a scale that is sent and one that is taken; nothing where both are the same. */
function between(sent: Scale, taken: Scale): Pick<Station, 'link' | 'unlink'> {
  if (sent.low === taken.low && sent.high === taken.high) return { link: same, unlink: through }
  const forward = (phi: number) => taken.toFraction(sent.fromFraction(phi))
  const back = (phi: number) => sent.toFraction(taken.fromFraction(phi))
  return { link: forward, unlink: (k) => mapKnown(k, back) }
}

/** The current that arrives at a stage: the isolator's where there is one before it. */
function arriving(stages: readonly Stage[], at: Stage): Scale {
  const isolator = stageOf(stages.slice(0, stages.indexOf(at)), 'isolator')
  return isolator
    ? scale({ low: isolator.outLow_mA, high: isolator.outHigh_mA })
    : currentScale(stageOf(stages, 'output')?.signal ?? '4-20')
}

function mapKnown(k: Known, f: (phi: number) => number): Known {
  switch (k.kind) {
    case 'value':
      return { kind: 'value', phi: f(k.phi) }
    case 'interval':
      return { kind: 'interval', mid: f(k.mid), lo: f(k.lo), hi: f(k.hi) }
    case 'none':
      return k
    default:
      return { kind: k.kind, bound: f(k.bound) }
  }
}

function stationOf(stage: Stage, stages: readonly Stage[], from: number): Station {
  const transmitter = stageOf(stages, 'transmitter')
  const input: Range = transmitter?.range ?? { low: 0, high: 100, unit: '%' }
  const plain = {
    id: STATION_IDS[stage.kind],
    kind: stage.kind,
    from,
    link: same,
    unlink: through,
    settle: same,
  }
  const observed =
    (toFraction: (v: number) => number) =>
    (v: number): Known => ({ kind: 'value', phi: toFraction(v) })
  switch (stage.kind) {
    case 'process':
    case 'sensor': {
      const s = scale(input)
      return { ...plain, ...s, unit: input.unit, observe: observed(s.toFraction) }
    }
    case 'transmitter': {
      const s = scale({ low: 0, high: 100 })
      const { transfer, reverse } = stage
      return {
        ...plain,
        ...s,
        unit: '%',
        link: (phi) => (reverse ? 1 - applyTransfer(transfer, phi) : applyTransfer(transfer, phi)),
        unlink: (k) => invertKnown(transfer, reverse ? reverseKnown(k) : k),
        observe: observed(s.toFraction),
      }
    }
    case 'output': {
      const s = currentScale(stage.signal)
      return {
        ...plain,
        ...s,
        ...limits(s.toFraction(stage.satLow_mA), s.toFraction(stage.satHigh_mA)),
        unit: 'mA',
        observe: observed(s.toFraction),
      }
    }
    case 'frequency': {
      // Behind the percent, beside the current; 0 % of flow is no pulse, whatever the range starts at.
      const shows = transmitter?.shows ?? input
      const perUnit = stage.frequency_Hz / stage.atRate
      const s = scale({ low: shows.low * perUnit, high: shows.high * perUnit })
      return { ...plain, ...s, unit: 'Hz', settle: (v) => Math.max(0, v), observe: observed(s.toFraction) }
    }
    case 'totalizer': {
      const hertz = stageOf(stages, 'frequency')
      const shows = transmitter?.shows ?? input
      const perUnit = hertz ? (hertz.frequency_Hz / hertz.atRate) * 3600 * stage.unitsPerPulse : 1
      const s = scale({ low: shows.low * perUnit, high: shows.high * perUnit })
      return { ...plain, ...s, unit: shows.unit, observe: observed(s.toFraction) }
    }
    case 'isolator': {
      const sent = currentScale(stageOf(stages, 'output')?.signal ?? '4-20')
      const s = scale({ low: stage.outLow_mA, high: stage.outHigh_mA })
      const taken = scale({ low: stage.inLow_mA, high: stage.inHigh_mA })
      return { ...plain, ...s, ...between(sent, taken), unit: 'mA', observe: observed(s.toFraction) }
    }
    case 'converter': {
      const s = scale(stage.range)
      return {
        ...plain,
        ...s,
        unit: stage.range.unit,
        settle: (v) => roundHalfAway(v, stage.decimals),
        observe: observed(s.toFraction),
      }
    }
    case 'shunt': {
      const current = arriving(stages, stage)
      const volts = (mA: number) => (mA * stage.resistance_ohm) / 1000
      const s = scale({ low: volts(current.low), high: volts(current.high) })
      return { ...plain, ...s, unit: 'V', observe: observed(s.toFraction) }
    }
    case 'input': {
      const s = scale({ low: stage.n4, high: stage.n20 })
      const shunt = stageOf(stages, 'shunt')
      const sent = arriving(stages, stage)
      const expected = currentScale(stage.signal)
      // A card that takes other volts for 20 mA, or another live zero, reads another fraction.
      const stretch = shunt && stage.volts20 !== undefined ? (0.02 * shunt.resistance_ohm) / stage.volts20 : 1
      const seen = scale({ low: expected.low / stretch, high: expected.high / stretch })
      return {
        ...plain,
        ...s,
        ...between(sent, seen),
        unit: 'counts',
        settle: (v) => Math.min(stage.nmax, Math.max(stage.nmin, Math.floor(v + 0.5))),
        observe: (v) =>
          v >= stage.nmax
            ? { kind: 'atLeast', bound: s.toFraction(stage.nmax) }
            : v <= stage.nmin
              ? { kind: 'atMost', bound: s.toFraction(stage.nmin) }
              : Number.isInteger(v)
                ? {
                    kind: 'interval',
                    mid: s.toFraction(v),
                    lo: s.toFraction(v - 0.5),
                    hi: s.toFraction(v + 0.5),
                  }
                : { kind: 'value', phi: s.toFraction(v) },
      }
    }
    case 'controller':
    case 'display': {
      const s = scale(stage.range)
      const card = stageOf(stages, 'input')
      const codes =
        stage.kind === 'controller' && card && (stage.m4 !== undefined || stage.m20 !== undefined)
          ? between(
              scale({ low: card.n4, high: card.n20 }),
              scale({ low: stage.m4 ?? card.n4, high: stage.m20 ?? card.n20 }),
            )
          : { link: same, unlink: through }
      return {
        ...plain,
        ...s,
        unit: stage.range.unit,
        link: (phi) => applyTransfer(stage.transfer, codes.link(phi)),
        unlink: (k) => codes.unlink(invertKnown(stage.transfer, k)),
        settle: stage.kind === 'display' ? (v) => roundHalfAway(v, stage.decimals) : same,
        observe: observed(s.toFraction),
      }
    }
  }
}

/** Kinds a stage takes its signal from, the preferred one first; none: the stage before it. */
function sourcesOf(stage: Stage): readonly StageKind[] {
  switch (stage.kind) {
    case 'frequency':
    case 'output':
      return ['transmitter']
    case 'totalizer':
      return ['frequency', 'transmitter']
    case 'isolator':
      return ['output', 'transmitter']
    case 'converter':
    case 'shunt':
      return ['isolator', 'output', 'transmitter']
    case 'input':
      return ['shunt', 'isolator', 'output', 'transmitter']
    case 'controller':
      return ['input', 'shunt', 'isolator', 'output', 'transmitter']
    case 'display':
      return stage.from === 'current'
        ? ['isolator', 'output']
        : stage.from === 'converter'
          ? ['converter', 'controller']
          : ['controller']
    default:
      return []
  }
}

/**
 * Prepares an ordered list of stages for computing.
 *
 * Each station takes its signal from the one before it, a panel display that sits in the loop from the
 * output, so the path is a tree with one trunk.
 */
export function compilePath(stages: readonly Stage[]): Path {
  const stations: Station[] = []
  for (const stage of stages) {
    const found = sourcesOf(stage)
      .map((kind) => stations.findIndex((s) => s.kind === kind))
      .find((i) => i >= 0)
    stations.push(stationOf(stage, stages, found ?? stations.length - 1))
  }
  return { stations }
}

/** What is known of a fraction, in the station's own unit. A reversed range turns "at least" round. */
function inUnit(station: Station, known: Known): StationValue {
  switch (known.kind) {
    case 'none':
      return known
    case 'value':
      return { kind: 'value', value: station.settle(station.fromFraction(known.phi)), phi: known.phi }
    case 'interval':
      return {
        kind: 'interval',
        mid: station.fromFraction(known.mid),
        lo: station.fromFraction(known.lo),
        hi: station.fromFraction(known.hi),
        phi: known.mid,
      }
    default: {
      const falls = station.high < station.low
      const kind = falls ? (known.kind === 'atLeast' ? 'atMost' : 'atLeast') : known.kind
      return { kind, bound: station.fromFraction(known.bound), phi: known.bound }
    }
  }
}

const phiOf = (v: StationValue | undefined): number | null =>
  v === undefined || v.kind === 'none' ? null : v.phi

/**
 * All stations from one value typed at any of them: backwards to the process, forwards to the display.
 *
 * Forwards the rounded code of a card goes on, as in the real thing. Backwards a code is the interval of
 * all currents that give it, and a value at a limit is only "at least" or "at most".
 * @param stuck - true when the output is held at a fixed current: nothing upstream can be inferred.
 */
export function computeFrom(path: Path, at: number, value: number, stuck = false): StationValue[] {
  const { stations } = path
  const out = new Array<StationValue>(stations.length)
  const origin = stations[at]
  if (!origin) throw new RangeError(`the path has no station ${at}`)
  out[at] = { kind: 'value', value, phi: origin.toFraction(value) }
  let known = origin.observe(value)
  for (let i = at; i > 0;) {
    const station = stations[i]
    if (!station) break
    const before = station.from
    const source = stations[before]
    if (!source) break
    known = stuck && station.kind === 'output' ? { kind: 'none' } : station.unlink(known)
    out[before] = inUnit(source, known)
    i = before
  }
  for (let i = 0; i < stations.length; i++) {
    const station = stations[i]
    if (!station || out[i]) continue
    const phi = phiOf(out[station.from])
    if (phi === null) {
      out[i] = { kind: 'none' }
      continue
    }
    const settled = station.settle(station.fromFraction(station.link(phi)))
    // A display's rounding is for the eye; a card's code is what the controller really gets.
    out[i] = { kind: 'value', value: settled, phi: station.toFraction(settled) }
  }
  return out
}

/** As `computeFrom`, by station id. Null when the path has no such station. */
export function computeFromStation(path: Path, id: StationId, value: number): StationValue[] | null {
  const at = path.stations.findIndex((s) => s.id === id)
  return at < 0 ? null : computeFrom(path, at, value)
}

/** The single number to show for a station, or null when nothing is known. */
export const shownValue = (v: StationValue): number | null => {
  switch (v.kind) {
    case 'value':
      return v.value
    case 'interval':
      return v.mid
    case 'none':
      return null
    default:
      return v.bound
  }
}

/** The exact, unrounded transfer from process fraction to the fraction at the controller's place. */
export function outputFraction(stages: readonly Stage[], inputFraction: number): number {
  let phi = inputFraction
  for (const stage of stages) {
    if (stage.kind === 'transmitter') {
      phi = applyTransfer(stage.transfer, phi)
      if (stage.reverse) phi = 1 - phi
    } else if (stage.kind === 'controller') phi = applyTransfer(stage.transfer, phi)
  }
  return phi
}
