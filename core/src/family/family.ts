import type { Chart, Table } from '../chart.ts'
import type { DeviceBehaviour } from '../device/behaviour.ts'
import type { Finding } from '../finding.ts'
import type { ManifoldKind } from '../manifold/manifold.ts'
import type { FluidState } from '../media/fluid.ts'
import type { Wiring } from '../part/wiring.ts'
import type { AppliedBy, ProcedureContext } from '../procedure/step.ts'
import type { Setting, Typed, ValuesOf } from '../quantity/setting.ts'
import type { RootTaker } from '../signal/root.ts'
import type { Range } from '../signal/stage.ts'
import type { ScaleDrawing } from './scale-drawing.ts'

/** A line of the result: a quantity that follows from what was entered. */
export interface ResultRow {
  readonly label: string
  readonly value: number | string
  readonly unit?: string
  readonly decimals?: number
  /** A value that is only typical; the screen says so. */
  readonly typical?: boolean
}
/** A line of the settings sheet, in the order a technician keys it in. */
export interface SheetLine {
  readonly says: string
  readonly value: string
  /** Lines of one menu or one errand stand together under it. */
  readonly part?: string
  /** What people get wrong just here. */
  readonly trap?: string
  /** A constant of a plate: digit by digit, no decimal less. */
  readonly exact?: boolean
  /** A line that tells the units themselves: by their symbols, they follow what the sheet is said in. */
  readonly units?: readonly string[]
  /** Done or needed with the device, not kept in it: nothing that could be read back. */
  readonly act?: true
}

/** What follows from a set-up: numbers, judgements, the sheet and a picture; or why there is nothing. */
export interface SetUpResult {
  readonly rows: readonly ResultRow[]
  readonly findings: readonly Finding[]
  readonly sheet: readonly SheetLine[]
  readonly drawing: ScaleDrawing | null
  readonly charts?: readonly Chart[]
  readonly tables?: readonly Table[]
}

export interface SettingGroup<L extends readonly Setting[] = readonly Setting[]> {
  readonly title: string
  readonly settings: L
  /** Entries that belong side by side: so many in a row. */
  readonly columns?: 3 | 4
}
export const group = <const L extends readonly Setting[]>(
  title: string,
  settings: L,
  columns?: 3 | 4,
): SettingGroup<L> => ({ title, settings, ...(columns ? { columns } : {}) })

/** The values of a family's entries, by name and with their types: `s.tubePeriodLow_us`, no strings. */
export type EntriesOf<G extends readonly SettingGroup[]> = ValuesOf<G[number]['settings']>

/** What the loop says besides the family's own entries. */
export interface AtWork {
  /** What the signal path stands at while the set-up is looked at. */
  readonly current_mA: number | null
  /** Who takes the square root, and the one judgement of it; null where the loop has no signal path. */
  readonly root: { readonly takers: readonly RootTaker[]; readonly finding: Finding | null } | null
}
export const NOT_AT_WORK: AtWork = { current_mA: null, root: null }

/** Volume over the level between the 0 % and the 100 % point, and how many rows the transmitter's table has. */
export interface Vessel {
  readonly volume_m3: (levelFraction: number) => number
  readonly span_m: number
  readonly rows: number
}

/** An entry that is known only so well. */
export interface UncertainInput {
  /** The entry's name where there is one, so that the form can point to it. */
  readonly name: string
  readonly title: string
  readonly unit: string
  readonly value: number
  /** How far it may be off, half width of a rectangle; what is usual, until somebody says better. */
  readonly usual: number
}
/** How the reading follows from entries that are known only so well. */
export interface WhatIf<S> {
  /** Which reading. */
  readonly title: string
  readonly inputs: (s: S) => readonly UncertainInput[]
  /** Change of the reading in percent, from the inputs in their order; null where there is no reading. */
  readonly model: (s: S) => ((x: ArrayLike<number>) => number) | null
}

/** What the cell feels against what it is compared with; decides how zero is made and what a vent does. */
export type PressureKind = 'gauge' | 'absolute' | 'differential'

/**
 * What stands at the sensor when no standard and no process is applied.
 * `input` is in `unit`; null where nothing can be told.
 */
export interface ZeroInput {
  readonly input: number | null
  readonly unit: string
  readonly says: string
}

/** What a sensor measures at all, and the entries that this rests on. */
export interface SensorLimits {
  readonly low: number
  readonly high: number
  readonly unit: string
  readonly rests: readonly string[]
}

/** Whether a loop’s signal is 1 while it senses, or while it does not. */
export type Senses = 'makes' | 'breaks'

/** A discrete input by its set-up: the contact, what delays it, and the cycle it counts. */
export interface DiscreteInput {
  /** Its tag in the controller; empty where nobody entered one. */
  readonly tag: string
  readonly contact: 'no' | 'nc'
  readonly filter_ms: number
  readonly scan_ms: number
  readonly counts: boolean
  /** The ideal cycle, and the shortest and longest that are allowed; s. */
  readonly cycle: { readonly ideal_s: number; readonly least_s: number; readonly most_s: number }
}

/** What a loop is held against in service, besides a verification with a standard. */
export type Reference = 'portable meter' | 'timed catch' | 'tank draw-down' | 'gauge glass' | 'second meter'

/** The loop as far as a new set-up can start from it. */
export interface LoopStart {
  /** Range of the transmitter, and what it shows where that is another quantity. */
  readonly range: Range | null
  readonly shows: Range | null
}

/** Parts a loop of this family usually has, besides the receiver and what feeds it. */
export interface UsualParts {
  readonly sender: { readonly kind: string; readonly settings?: Wiring['parts'][string]['settings'] }
  readonly cores: number
  readonly feed: 'supply' | 'mains'
  /** Where its signal goes: a 4-20 mA input, or a discrete one of that type behind what stands in between. */
  readonly into: 'analogue' | { readonly discrete: '1' | '3'; readonly behind?: string }
}

/** What a device's frequency or pulse output is told: so many hertz at so much flow. */
export interface PulseOutput {
  readonly atRate: number
  /** Symbol of the unit of that flow. */
  readonly unit: string
  readonly frequency_Hz: number
  readonly width_ms: number
  readonly limit_Hz: number
  /** The entries that it rests on. */
  readonly rests: readonly string[]
}

/** Whether a sensor of the plant suits what was entered, and what speaks against it. */
export interface SensorFit {
  /** What makes it impossible; empty where it can be used. */
  readonly impossible: readonly string[]
  /** What makes it second choice. */
  readonly but: readonly string[]
}
/** The sensor that a family's loop has as a thing of its own: which kind, and what its plate tells of the entries. */
export interface SensorUse<S> {
  /** Id of the kind of sensor. */
  readonly kind: string
  /** @param sensor - values of its plate, with defaults filled in */
  readonly entries: (sensor: Typed) => Partial<S>
  readonly fits?: (s: S, sensor: Typed) => SensorFit
}

/** The words a loop's type may have, and what they tell of the entries. */
export type UsualWords<S> = readonly (readonly [phrase: string, tells?: Partial<S>])[]

interface Shared {
  readonly id: string
  readonly title: string
  /** A differential pressure that stands for a flow: exactly one square root belongs on the path. */
  readonly needsRoot?: boolean
  readonly references: readonly Reference[]
  /** What has to be there before the work begins. */
  readonly needs: { readonly kit: readonly string[]; readonly cautions: readonly string[] }
}
interface Asked<S> {
  readonly compute: (s: S, at: AtWork) => SetUpResult
  /** The ranges that this set-up gives the loop; several ways to say one thing, any of them is right. */
  readonly ranges?: (s: S) => readonly Range[]
  /** What a new set-up takes from the loop, instead of a default nobody typed. */
  readonly start?: (loop: LoopStart) => Partial<S>
  /** The vessel, where the family has one: its table for the transmitter is made from it. */
  readonly vessel?: (s: S) => Vessel | null
  /** The manifold that has to be worked, where there is one. */
  readonly manifold?: (s: S) => ManifoldKind | null
  readonly pressureKind?: (s: S) => PressureKind
  /** What flows, at working conditions. */
  readonly fluid?: (s: S) => FluidState
  readonly zeroInput?: (s: S) => ZeroInput
  /** From where a residual with the flow stopped is worth a new zero, and above which it is no zero. */
  readonly zeroLimits?: (s: S) => {
    readonly least: number
    readonly most: number | null
    readonly unit: string
  }
  /** What the sensor measures at all, where the set-up tells it. */
  readonly sensorLimits?: (s: S) => SensorLimits
  readonly input?: (s: S) => DiscreteInput
  /** What is put in where the process was, in a trim; nothing where there is nothing to put. */
  readonly appliedBy?: (s: S) => AppliedBy
  /** Time constant that the device is told, s. */
  readonly damping_s?: (s: S) => number
  /** Whether its display is lit: where the loop feeds it, that takes about a volt more. */
  readonly lit?: (s: S) => boolean
  /** The frequency or pulse output, as the device is told; null where it has none. */
  readonly pulses?: (s: S) => PulseOutput | null
  readonly parts: (s: S) => UsualParts
}
/** A family as its folder writes it: everything reads typed entries. */
export interface FamilyDefinition<G extends readonly SettingGroup[]> extends Shared, Asked<EntriesOf<G>> {
  readonly groups: G
  readonly usualWords: UsualWords<EntriesOf<G>>
  /** The entries that `ranges` rests on: only where they were typed may a range be set from them. */
  readonly rangeEntries?: (s: EntriesOf<G>) => readonly (keyof EntriesOf<G>)[]
  readonly whatIf?: WhatIf<EntriesOf<G>>
  /** Numbers of the set-up for the family's own procedures; only what somebody typed is anybody's word. */
  readonly told?: (
    s: EntriesOf<G>,
    isTyped: (name: keyof EntriesOf<G>) => boolean,
  ) => NonNullable<ProcedureContext['told']>
  readonly sensor?: SensorUse<EntriesOf<G>>
  readonly device: DeviceBehaviour<EntriesOf<G>>
}

/** A family as the rest of the program sees it: it takes what was typed, and fills in the defaults itself. */
export interface Family extends Shared, Asked<Typed> {
  readonly groups: readonly SettingGroup[]
  readonly settings: readonly Setting[]
  readonly usualWords: UsualWords<Typed>
  readonly rangeEntries?: (s: Typed) => readonly string[]
  readonly whatIf?: WhatIf<Typed>
  readonly told?: (s: Typed, isTyped: (name: string) => boolean) => NonNullable<ProcedureContext['told']>
  readonly sensor?: Pick<SensorUse<Typed>, 'kind' | 'fits'> & {
    readonly entries: (sensor: Typed) => Typed
  }
  readonly device: DeviceBehaviour<Typed>
}

/** What an entry outside its possible range or out of its physics gives: no number, a sentence. */
export const nothing = (code: string, where: string, says: string): SetUpResult => ({
  rows: [],
  sheet: [],
  drawing: null,
  findings: [{ code, severity: 'stop', where: [where], says }],
})
