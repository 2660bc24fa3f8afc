import type { Chart, Table } from '../chart.ts'
import type { Finding } from '../finding.ts'
import type { Setting, Settings } from '../quantity/setting.ts'
import type { Range } from '../signal/stage.ts'
import type { ManifoldKind } from './pressure/manifold.ts'

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
}

/** What a shape of a scale drawing stands for; the web decides how it is drawn. */
export type Ink =
  | 'wall'
  | 'liner'
  | 'fluid'
  | 'beam'
  | 'beam2'
  | 'sensor'
  | 'axis'
  | 'stem'
  | 'plate'
  | 'flow'
  /** What fills a tank; a region in which nothing can be measured; the 4 and 20 mA marks. */
  | 'liquid'
  | 'dead'
  | 'mark'
export type Shape =
  | { readonly kind: 'area'; readonly ink: Ink; readonly points: readonly (readonly [number, number])[] }
  | {
      readonly kind: 'rect'
      readonly ink: Ink
      readonly x: number
      readonly y: number
      readonly w: number
      readonly h: number
    }
  | {
      readonly kind: 'ring'
      readonly ink: Ink
      readonly x: number
      readonly y: number
      readonly r: number
      readonly inner: number
    }
  | { readonly kind: 'line'; readonly ink: Ink; readonly points: readonly (readonly [number, number])[] }
  | {
      readonly kind: 'dimension'
      readonly from: readonly [number, number]
      readonly to: readonly [number, number]
      readonly text: string
    }
  | {
      readonly kind: 'label'
      readonly at: readonly [number, number]
      readonly text: string
      readonly anchor: 'start' | 'middle' | 'end'
    }
/** Lengths in mm; drawn to one scale. */
export interface ScaleDrawing {
  readonly says: string
  readonly left: number
  readonly top: number
  readonly width: number
  readonly height: number
  readonly shapes: readonly Shape[]
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

export interface SettingGroup {
  readonly title: string
  readonly settings: readonly Setting[]
  /** Entries that belong side by side: so many in a row. */
  readonly columns?: 3
}

/** What the signal path stands at while the set-up is looked at. */
export interface Live {
  readonly current_mA: number | null
}
export const NOT_LIVE: Live = { current_mA: null }

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
export interface WhatIf {
  /** Which reading. */
  readonly title: string
  readonly inputs: (s: Settings) => readonly UncertainInput[]
  /** Change of the reading in percent, from the inputs in their order; null where there is no reading. */
  readonly model: (s: Settings) => ((x: ArrayLike<number>) => number) | null
}

/**
 * One family of meters: what has to be entered, what follows from it, and what goes to the field.
 * A new family is a new folder and its line in the index; nothing else knows it.
 */
export interface Family {
  readonly id: string
  readonly title: string
  /** Whether a loop of these words is usually of this family. */
  readonly fits: (words: string) => boolean
  readonly groups: readonly SettingGroup[]
  readonly compute: (s: Settings, live: Live) => SetUpResult
  /** The ranges that this set-up gives the loop; several ways to say one thing, any of them is right. */
  readonly ranges?: (s: Settings) => readonly Range[]
  /** The vessel, where the family has one: its table for the transmitter is made from it. */
  readonly vessel?: (s: Settings) => Vessel | null
  /** The manifold that has to be worked, where there is one. */
  readonly manifold?: (s: Settings) => ManifoldKind | null
  readonly whatIf?: WhatIf
  readonly kit: readonly string[]
  readonly cautions: readonly string[]
}

export const settingsOfFamily = (f: Family): Setting[] => f.groups.flatMap((g) => g.settings)

/** What an entry outside its possible range or out of its physics gives: no number, a sentence. */
export const nothing = (code: string, where: string, says: string): SetUpResult => ({
  rows: [],
  sheet: [],
  drawing: null,
  findings: [{ code, severity: 'stop', where: [where], says }],
})
