import type { Range } from '../signal/stage.ts'
import type { Keyed, LostMemory } from './keyed.ts'
import type { Tool } from './tools/tool.ts'

/** One thing a device says about itself besides its reading; healthy between `low` and `high`. */
export interface Signal {
  readonly name: string
  readonly title: string
  readonly value: number
  readonly unit: string
  /** A figure of the device’s own health: a check holds it against the first one. */
  readonly figure?: boolean
  /** What it was told and holds, not what it measures: it has no past. */
  readonly held?: boolean
  readonly low?: number
  readonly high?: number
}

/** What the device is in at a moment, as far as its insides depend on it. */
export interface Situation {
  /** True input in the unit of the range, and its share of the range. */
  readonly input: number
  readonly fraction: number
  readonly range: Range
  readonly temperature_C: number
  /** 0 as new, 1 worn out. */
  readonly wear: number
  /** Scatter of the moment for a signal, a standard normal number; the same however often it is asked for. */
  readonly scatter: (name: string) => number
  /** What the device holds, line by line, as it was keyed in. */
  readonly keyed: Keyed
  /** How far its sensor stands from the best place, mm; 0 where it has no place to be moved to. */
  readonly offPlace_mm: number
  /** It was started and has found its signal; always so where nothing has to be started. */
  readonly started: boolean
}

/** A meter that searches its frequency and makes itself ready before it measures. */
export interface StartUp {
  readonly search_s: number
  readonly ready_s: number
  /** What is moved to make the signal better. */
  readonly moves: string
  /** As far as it can be moved, to either side, mm. */
  readonly most_mm: number
}

/** So much too much, in a unit; and what 100 % is and has become, where the range may be one of percent. */
export interface Offset {
  readonly value: number
  readonly unit: string
  readonly span?: { readonly is: number; readonly became: number }
}

/** How the stand-in of a family behaves, from what it was told; what every stand-in shares is not here. */
export interface DeviceBehaviour<S> {
  readonly title: string
  /** What is applied with. */
  readonly tool: Tool
  /** The same, where that depends on what it was told. */
  readonly toolFor?: (s: S) => Tool
  readonly fullRead_s: number
  readonly healthCheck_s: number
  readonly damping_s: number
  /** Scatter of the reading and usual zero shift, as shares of the span. */
  readonly noise: number
  readonly zeroShare: number
  readonly signals: (at: Situation, s: S) => readonly Signal[]
  readonly startUp?: StartUp
  /** What is gone where its memory is lost; null where it is not. */
  readonly lost?: (s: S) => LostMemory | null
  /** What it shows of a true 1, by what was keyed in against what belongs there. */
  readonly gain?: (s: S, keyed: Keyed) => number
  /** What it shows too much of everything, likewise. */
  readonly offset?: (s: S, keyed: Keyed) => Offset
}
