import type { Alone } from './choices.ts'
import type { Day } from './problem.ts'

/** The job's start is at least another's start and so much. */
export interface Inequality {
  readonly job: number
  readonly before: number
  readonly by: number
}
/** Where a turn stands in a list of tokens: its newest occupation, area, kit, and what it took so far. */
export interface TurnState {
  /** −1: nothing yet. */
  readonly last: number
  /** When that ends, behind the start of its job. */
  readonly ends: number
  readonly area: number
  readonly hasBlock: boolean
  readonly kit: string | null
  readonly walk: number
  readonly setup: number
  readonly taken: number
}
/** A list of tokens (a job begins; a radio helper's second part begins) with the least layout of it. */
export interface State {
  /** −1: not placed. */
  readonly start: readonly number[]
  readonly choice: readonly (Alone | null)[]
  readonly prep: readonly number[]
  readonly helperPrep: readonly number[]
  readonly rules: readonly Inequality[]
  readonly turns: readonly TurnState[]
  /** The newest user of each instrument, −1: nobody. */
  readonly uses: readonly number[]
  /**
   * Jobs whose helper does something else between his parts, and has not begun the second one: with the minutes that
   * his turn had taken when the gap began.
   */
  readonly open: readonly { readonly job: number; readonly turn: number; readonly taken: number }[]
  /** Tokens in their order: a job, and where behind its start it stands. */
  readonly tokens: readonly { readonly job: number; readonly at: number }[]
  readonly stock: Readonly<Record<string, number>>
  /** A bit for each job. */
  readonly placed: number
}

export const nothingPlaced = (d: Day): State => ({
  start: d.jobs.map(() => -1),
  choice: d.jobs.map(() => null),
  prep: d.jobs.map(() => 0),
  helperPrep: d.jobs.map(() => 0),
  rules: [],
  turns: d.turns.map((t) => ({
    ...{ last: -1, ends: 0, area: t.area, hasBlock: false, kit: null, walk: 0, setup: 0, taken: 0 },
  })),
  uses: d.instruments.map(() => -1),
  open: [],
  tokens: [],
  stock: d.stock,
  placed: 0,
})

/** When a turn's newest occupation ends; −Infinity: it has none. */
export const endOf = (s: State, t: TurnState): number =>
  t.last < 0 ? -Infinity : (s.start[t.last] ?? 0) + t.ends

/** Minutes that a turn has taken: work, ways and setting up. */
export const takenOf = (t: TurnState | undefined): number => (t ? t.walk + t.setup + t.taken : 0)

/**
 * What is appended begins no earlier than this: in the list of an optimum by time all tokens stand in their order, and
 * those that stand already can only be pushed.
 */
export const latestToken = (s: State): number =>
  s.tokens.reduce((n, t) => Math.max(n, (s.start[t.job] ?? 0) + t.at), -Infinity)
