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

/** One kind of element. A new kind is one entry in its family's list. */
interface ElementDefinition<D extends Defaults, P> {
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

/** A number of an element that is known only by its type. @throws Error where it has none: a programming error */
export function numberOf(p: Params, name: string): number {
  const v = p[name]
  if (typeof v !== 'number') throw new Error(`there is no number ${name}`)
  return v
}
