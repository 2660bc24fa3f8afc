import type { Branch } from './branch.ts'

export type ParamValue = number | boolean | string

/** Parameters of one element by name, its defaults filled in. */
export type Params = Readonly<Record<string, ParamValue | undefined>>
/** Defaults of a kind: null has none and must be given, undefined may stay away; both are numbers. */
type Defaults = Readonly<Record<string, ParamValue | null | undefined>>
type ParamOf<D> = D extends null
  ? number
  : D extends undefined
    ? number | undefined
    : D extends number
      ? number
      : D extends boolean
        ? boolean
        : string
/** The parameters of a kind, each with its type: inferred from its defaults. */
export type ParamsOf<D extends Defaults> = { readonly [K in keyof D]: ParamOf<D[K]> }

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

export interface Situation<P = Params> {
  readonly p: P
  readonly m: Memory
  /** Whether an optional terminal is there. */
  readonly has: (terminal: string) => boolean
}

/** An element in a solved circuit: what stands across it and what flows into it. */
export interface Solved<P = Params> extends Situation<P> {
  readonly id: string
  /** From one terminal to another, V. */
  readonly v: (a: string, b: string) => number
  /** Into a terminal, A. */
  readonly i: (terminal: string) => number
}

type Pair = readonly [string, string]
export type BitState = 0 | 1 | 'undefined'
/** The fuse in the way of the current now, and the factor of its rating it blows at. */
export interface Fuse {
  readonly name: string
  readonly rating_A: number
  readonly blow: number
  /** What is told once it has blown. */
  readonly says: string
}
/** What a transmitter does to its loop. */
export interface Sending {
  /** Terminal at which the current is told. */
  readonly at: string
  readonly sets_A: number
  readonly needs_V?: number
  readonly most_V?: number
  /** So many sources in its loop are one too many; null where that cannot be told from its terminals. */
  readonly sources: number | null
}

/**
 * What an element is to whoever solves and judges a circuit: nobody else knows its type. Each of these is only there
 * where it applies.
 */
interface Judged<P> {
  /** Terminals that its loop's current must pass or come from. */
  readonly ends?: Pair
  /** Works only with the first of these above the second, unless a bridge inside turns it round. */
  readonly oneWay?: Pair
  readonly bridged?: (p: P) => boolean
  readonly sends?: (p: P) => Sending
  /** Drives its own current: its main branches are a source. */
  readonly active?: boolean
  /** Whether it can drive a loop; two that are joined at both of these terminals are one. */
  readonly drives?: (s: Situation<P>) => boolean
  readonly joined?: Pair
  /** Between these it holds its voltage whatever flows. */
  readonly stiff?: Pair
  /** Terminals that a feed comes from. */
  readonly feeds?: readonly string[]
  /** What its feed gives at the most, A. */
  readonly limit_A?: (s: Situation<P>) => number | null
  /** Where and by how many volts it must be supplied to work. */
  readonly supplied?: {
    readonly at: Pair
    readonly least_V: (p: P) => number
    readonly most_V?: (p: P) => number
  }
  readonly fuse?: (s: Situation<P>) => Fuse | null
  /** Whether its coil holds now. */
  readonly pulled?: (s: Solved<P>) => boolean
  /** Current that it passes on, A. */
  readonly repeats_A?: (s: Solved<P>) => number
  readonly bit?: (s: Solved<P>) => BitState
  /** Current that it takes its signal for, A. */
  readonly shows_A?: (s: Solved<P>) => number
  /** Its other readings by name. */
  readonly reads?: (s: Solved<P>) => Readonly<Record<string, number | string | null>>
  /** What is wrong with it as it is now. */
  readonly tells?: (s: Solved<P>) => readonly { readonly code: string; readonly says: string }[]
}

/** One kind of element. A new kind is one entry in its family's list. */
interface ElementDefinition<D extends Defaults, P> extends Judged<P> {
  readonly type: string
  readonly terminals: readonly string[]
  readonly optional?: readonly string[]
  readonly params: D
  /** Names whose value must be above zero, and those that may be zero as well. */
  readonly positive?: readonly (keyof D & string)[]
  readonly notNegative?: readonly (keyof D & string)[]
  readonly choices?: Readonly<Record<string, readonly ParamValue[]>>
  readonly branches: (s: Situation<P>) => Branch[]
  /** Pairs of terminals that carry current when the element is as it is now: for finding islands. */
  readonly conducts: (s: Situation<P>) => readonly (readonly [string, string])[]
}
export type ElementKind = ElementDefinition<Defaults, Params>

/** A kind of element whose functions read typed parameters. */
export const defineElement = <const D extends Defaults>(d: ElementDefinition<D, ParamsOf<D>>): ElementKind =>
  // Parameters are held against the kind before anything is solved; here the compiler cannot see it.
  d as unknown as ElementKind
