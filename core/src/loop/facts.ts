import type { Senses } from '../family/family.ts'
import { familyOf } from '../family/index.ts'
import type {
  AtWork,
  DiscreteInput,
  Family,
  PressureKind,
  PulseOutput,
  Vessel,
  ZeroInput,
} from '../family/family.ts'
import type { FluidState } from '../media/fluid.ts'
import type { ManifoldKind } from '../manifold/manifold.ts'
import { convertRangeEnd } from '../quantity/units.ts'
import { settingProblem, shownSettings, valuesOf, type Typed } from '../quantity/setting.ts'
import type { RelayPlace } from '../signal/relay-judgement.ts'
import type { Relays } from '../signal/relay-plan.ts'
import { judgeRoot, rootTakers } from '../signal/root.ts'
import { stageOf, type FrequencyStage, type Range, type StageKind } from '../signal/stage.ts'
import { toleranceAt } from '../verify/tolerance.ts'
import type { LoopDocument } from './document.ts'
import { sheetUnitsOf } from './sheet-units.ts'

/** Where an entry comes from: somebody typed or confirmed it, nobody did, or it cannot be. */
export type EntryState = 'typed' | 'assumed' | 'refused'

/** A range at one stage of the signal path. */
export interface StageRange {
  readonly stage: StageKind
  readonly range: Range
}

/** What may be wrong at a value and still pass; in the range's own unit, in percent of span and in mA. */
export interface AllowedError {
  readonly at: (value: number) => number
  /** At the upper end of the range, % of span. */
  readonly top_pct: number
  readonly top_mA: number
}

/**
 * What a loop is, worked out of its document once: every bench, procedure, stand-in, paper and judgement asks
 * here. Two benches that show the same quantity show the same number and the same judgement.
 */
export interface LoopFacts {
  /** What kind of meter it is; null where nobody has told. */
  readonly family: Family | null
  /** The entries of its set-up as typed; what is missing has its default. */
  readonly values: Typed
  readonly entries: Readonly<Record<string, EntryState>>
  /** Units in which its device asks, by those of the sheet. */
  readonly sheetUnits: Readonly<Record<string, string>>
  /** Whether anybody has entered anything: what the words of the list made likely does not count. */
  readonly setUpBegun: boolean

  /** Range of the transmitter, and what 0 to 100 % stand for; null for a loop that switches. */
  readonly range: Range | null
  readonly shows: Range | null
  /** Ranges along the line, the transmitter first. */
  readonly ranges: readonly StageRange[]
  /** What the sensor measures at all, in the unit of the range; `known` where somebody entered it. */
  readonly limits: { readonly low: number; readonly high: number; readonly known: boolean } | null
  /** Whether exactly one root belongs on the path; null where nobody has told what the loop is. */
  readonly needsRoot: boolean | null
  /** Who takes the root, and the judgement of that; null for a loop without a signal path. */
  readonly root: AtWork['root']

  readonly pressureKind: PressureKind
  readonly manifold: ManifoldKind | null
  readonly damping_s: number
  /** The discrete input, for a loop that switches; null for a family without one. */
  readonly input: DiscreteInput | null
  /** Whether the loop’s signal is 1 while it senses, or while it does not; null where nobody has told. */
  readonly senses: Senses | null
  /** Whether its display is to be lit. */
  readonly lit: boolean
  /** Its frequency or pulse output; null where it has none, or nobody has typed it. */
  readonly pulses: PulseOutput | null
  /** The stage of the signal path that its counter is scaled by; null where there is none. */
  readonly frequency: FrequencyStage | null
  /** What acts on the loop's value, and the axis its points stand on; null where nothing can. */
  readonly relays: Relays | null
  readonly relayPlace: RelayPlace | null
  /** What stands at the sensor without process and standard: legs, seals and elevation included. */
  readonly zeroInput: ZeroInput | null
  /** From where a residual flow is worth a new zero, and above which it is none; unit of the range. */
  readonly zeroLimits: { readonly least: number; readonly most: number | null } | null
  /** What flows, at working conditions; null for a family that does not ask. */
  readonly fluid: FluidState | null
  readonly vessel: Vessel | null
  /** Null where the loop has no tolerance. */
  readonly allowed: AllowedError | null
}

/** What is taken where the device was not told its damping, s. */
const USUAL_DAMPING_S = 1

/** What the facts rest on; a loop that is being edited has it before it is saved. */
export type FactsOf = Pick<LoopDocument, 'family' | 'setUp' | 'path' | 'tolerance' | 'unconfirmed' | 'trips'>

/** Path of a set-up's entry among the fields of a document. */
export const entryPath = (name: string): string => `setUp.values.${name}`

function entryStates(d: FactsOf, family: Family | null): Record<string, EntryState> {
  if (!family) return {}
  const typed = d.setUp?.values ?? {}
  const shown = shownSettings(family.settings, valuesOf(family.settings, typed))
  return Object.fromEntries(
    shown.map((s): [string, EntryState] => {
      const value = typed[s.name]
      if (value === undefined || d.unconfirmed.includes(entryPath(s.name))) return [s.name, 'assumed']
      return [s.name, settingProblem(s, value) ? 'refused' : 'typed']
    }),
  )
}

/** Limits of the sensor: as entered on the path or in the set-up, else the range and as much again on both sides. */
function limitsOf(
  d: FactsOf,
  f: Family | null,
  entries: Readonly<Record<string, EntryState>>,
): LoopFacts['limits'] {
  const transmitter = stageOf(d.path, 'transmitter')
  if (!transmitter) return null
  const entered = stageOf(d.path, 'sensor')?.limits
  if (entered) return { low: entered.low, high: entered.high, known: true }
  const { low, high, unit } = transmitter.range
  const cell = f?.sensorLimits?.(d.setUp?.values ?? {}) ?? null
  if (cell && cell.rests.every((name) => entries[name] === 'typed')) {
    const [from, to] = [
      convertRangeEnd(cell.low, cell.unit, unit),
      convertRangeEnd(cell.high, cell.unit, unit),
    ]
    if (from.kind === 'value' && to.kind === 'value' && to.value >= Math.max(low, high))
      return { low: Math.min(from.value, low, high), high: to.value, known: true }
  }
  const span = Math.abs(high - low)
  return { low: Math.min(low, high) - span, high: Math.max(low, high) + span, known: false }
}

/** Typed in every part, or nothing: a default of a form is no output of a device. */
function pulsesOf(values: Typed, f: Family | null, entries: LoopFacts['entries']): PulseOutput | null {
  const told = f?.pulses?.(values) ?? null
  return told?.rests.every((name) => entries[name] === 'typed') ? told : null
}

function zeroLimitsOf(values: Typed, f: Family | null, unit: string | undefined): LoopFacts['zeroLimits'] {
  const told = f?.zeroLimits?.(values)
  if (!told || unit === undefined) return null
  const least = convertRangeEnd(told.least, told.unit, unit)
  const most = told.most === null ? null : convertRangeEnd(told.most, told.unit, unit)
  if (least.kind !== 'value') return null
  return { least: least.value, most: most?.kind === 'value' ? most.value : null }
}

function allowedOf(d: FactsOf): AllowedError | null {
  const transmitter = stageOf(d.path, 'transmitter')
  const { tolerance } = d
  if (!transmitter || !tolerance) return null
  const { low, high } = transmitter.range
  const span = Math.abs(high - low)
  const at = (value: number) => toleranceAt(tolerance, span, value)
  const top_pct = (100 * at(high)) / span
  return { at, top_pct, top_mA: 0.16 * top_pct }
}

/** Whether anybody has entered anything of a set-up. */
export const isBegun = (d: Pick<LoopDocument, 'setUp' | 'unconfirmed'>): boolean =>
  Object.keys(d.setUp?.values ?? {}).some((name) => !d.unconfirmed.includes(entryPath(name)))

/** Worked out when it is first asked for, and once. */
function lazily<T>(work: () => T): () => T {
  let done: { readonly value: T } | null = null
  return () => (done ??= { value: work() }).value
}

/** By the contact that somebody named, or the plant’s list; a default says nothing. */
const sensesOf = (values: Typed): Senses | null =>
  values['contact'] === 'nc' ? 'breaks' : values['contact'] === 'no' ? 'makes' : null

/** A controller's relay is told by the distance that it acts on; its loop has no range of its own. */
const CONTROLLER_UNIT = 'm'
const USUAL_MOUNTING_M = 4
function relayPlaceOf(d: FactsOf, values: Typed): RelayPlace | null {
  const range = stageOf(d.path, 'transmitter')?.range
  if (range) return { unit: range.unit, range }
  if (d.family !== 'switch' || values['kind'] !== 'trip') return null
  const mounting = typeof values['mounting_m'] === 'number' ? values['mounting_m'] : USUAL_MOUNTING_M
  return {
    unit: CONTROLLER_UNIT,
    range: { low: 0, high: mounting },
    level: (distance) => mounting - distance,
  }
}
const relaysOf = (d: FactsOf, place: RelayPlace | null): Relays | null =>
  place && { plans: d.trips, at4: place.range.low, at20: place.range.high, unit: place.unit }

/**
 * What a loop is, whatever the signal path stands at just now. What needs physics (fluid, zero, vessel) is worked
 * out when somebody asks for it.
 */
export function factsOf(d: FactsOf): LoopFacts {
  const family = familyOf(d.family)
  const values = d.setUp?.values ?? {}
  const entries = entryStates(d, family)
  const transmitter = stageOf(d.path, 'transmitter')
  const needsRoot = family ? family.needsRoot === true : null
  const takers = rootTakers(d.path)
  const range = transmitter?.range ?? null
  const relayPlace = relayPlaceOf(d, values)
  const limits = lazily(() => limitsOf(d, family, entries))
  const zeroInput = lazily(() => family?.zeroInput?.(values) ?? null)
  const zeroLimits = lazily(() => zeroLimitsOf(values, family, range?.unit))
  const fluid = lazily(() => family?.fluid?.(values) ?? null)
  const vessel = lazily(() => family?.vessel?.(values) ?? null)
  return {
    family,
    values,
    entries,
    sheetUnits: sheetUnitsOf(range?.unit ?? null, d.setUp?.units ?? {}),
    setUpBegun: isBegun(d),
    range,
    shows: transmitter ? (transmitter.shows ?? transmitter.range) : null,
    ranges: d.path.flatMap((s): StageRange[] => ('range' in s ? [{ stage: s.kind, range: s.range }] : [])),
    get limits() {
      return limits()
    },
    needsRoot,
    root: d.path.length > 0 ? { takers, finding: judgeRoot(takers, needsRoot) } : null,
    pressureKind: family?.pressureKind?.(values) ?? 'gauge',
    manifold: family?.manifold?.(values) ?? null,
    damping_s: family?.damping_s?.(values) ?? USUAL_DAMPING_S,
    input: family?.input?.(values) ?? null,
    senses: sensesOf(values),
    lit: family?.lit?.(values) ?? false,
    pulses: pulsesOf(values, family, entries),
    frequency: stageOf(d.path, 'frequency') ?? null,
    relays: relaysOf(d, relayPlace),
    relayPlace,
    get zeroInput() {
      return zeroInput()
    },
    get zeroLimits() {
      return zeroLimits()
    },
    get fluid() {
      return fluid()
    },
    get vessel() {
      return vessel()
    },
    allowed: allowedOf(d),
  }
}
