import type { Range } from '../signal/stage.ts'
import type { Tool } from './tools/tool.ts'

/** One thing a device says about itself besides its reading; healthy between `low` and `high`. */
export interface Signal {
  readonly name: string
  readonly title: string
  readonly value: number
  readonly unit: string
  /** A figure of the device’s own health: a check holds it against the first one. */
  readonly figure?: boolean
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
}

/** How the stand-in of a family behaves, from what it was told; what every stand-in shares is not here. */
export interface DeviceBehaviour<S> {
  readonly title: string
  /** What is applied with. */
  readonly tool: Tool
  readonly fullRead_s: number
  readonly healthCheck_s: number
  readonly damping_s: number
  /** Scatter of the reading and usual zero shift, as shares of the span. */
  readonly noise: number
  readonly zeroShare: number
  readonly signals: (at: Situation, s: S) => readonly Signal[]
}
