import type { Branch } from './branch.ts'

export type ParamValue = number | boolean | string

/** Parameters of one element with its defaults filled in, read by kind. */
export interface Params {
  readonly num: (name: string) => number
  readonly maybe: (name: string) => number | undefined
  readonly flag: (name: string) => boolean
  readonly word: (name: string) => string
}

/** What an element remembers from one solution to the next. */
export interface Memory {
  readonly on: boolean
  readonly powered: boolean
  /** Names of what has blown: 'fuse', or the meter's jack. */
  readonly blown: readonly string[]
  /** Current that a repeater passes on, A. */
  readonly repeated_A: number
  /** Last valid state of an input. */
  readonly bit: 0 | 1
}

export const FRESH: Memory = { on: false, powered: false, blown: [], repeated_A: 0, bit: 0 }

export interface Situation {
  readonly p: Params
  readonly m: Memory
  /** Whether an optional terminal is there. */
  readonly has: (terminal: string) => boolean
}

/** One kind of element. A new kind is one entry in its family's list. */
export interface ElementKind {
  readonly type: string
  readonly terminals: readonly string[]
  readonly optional?: readonly string[]
  /** Defaults; a name with null has none and must be given, with undefined may stay away. */
  readonly params: Readonly<Record<string, ParamValue | null | undefined>>
  /** Names whose value must be above zero, and those that may be zero as well. */
  readonly positive?: readonly string[]
  readonly notNegative?: readonly string[]
  readonly choices?: Readonly<Record<string, readonly ParamValue[]>>
  readonly branches: (s: Situation) => Branch[]
  /** Pairs of terminals that carry current when the element is as it is now: for finding islands. */
  readonly conducts: (s: Situation) => readonly (readonly [string, string])[]
}
