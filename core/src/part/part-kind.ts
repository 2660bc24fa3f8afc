import type { NetElement } from '../circuit/netlist.ts'
import type { Setting, Settings } from '../quantity/setting.ts'

/**
 * What a terminal is for: it decides the colour of a wire and what may be joined to it.
 * L, N, PE carry mains; the others are extra-low voltage.
 */
export type TerminalRole =
  | 'L'
  | 'N'
  | 'PE'
  | 'dc+'
  | 'dc-'
  | 'loop+'
  | 'loop-'
  | 'signal'
  | 'bn'
  | 'bu'
  | 'bk'
  | 'wh'
  | 'A'
  | 'B'
  | 'contact'
  | 'through'
  | 'lead+'
  | 'lead-'

export interface Terminal {
  readonly id: string
  /** As printed at the terminal. */
  readonly label: string
  readonly role: TerminalRole
  /** Which side of the box it stands on: the field is left, the controller right. */
  readonly side: 'left' | 'right'
}

/**
 * Where a part stands along the signal path: the field, its junction box, the run of cable, the marshalling
 * cabinet, the rack with receivers and sources; a tool only visits.
 */
export const PLACES = ['field', 'box', 'run', 'cabinet', 'rack', 'tool'] as const
export type Place = (typeof PLACES)[number]

/** What a part is in its circuit: decides how correct wiring uses it. */
export type Duty =
  | 'source'
  | 'mains'
  | 'transmitter'
  | 'sensor'
  | 'receiver'
  | 'input'
  | 'repeater'
  | 'through'
  | 'feed'
  | 'inLoop'
  | 'switching'
  | 'load'
  | 'link'
  | 'loose'
  | 'meter'

/** What moves on the bench while it runs. */
export interface LivePart {
  /** Current that a transmitter is asked for, mA. */
  readonly current_mA: number
  /** Target in front of a sensor, float up, contact actuated. */
  readonly actuated: boolean
  readonly powered: boolean
  /** A contact that the part itself moves. */
  readonly closed: boolean
}

/** A part as it stands in a wiring, for what it becomes in the circuit. */
export interface PlacedPart {
  readonly id: string
  readonly s: Settings
  readonly live: LivePart
  /** Whether sources are switched on. */
  readonly power: boolean
  readonly node: (terminal: string) => string
  readonly wired: (terminal: string) => boolean
}

/** Readings of the last solution, for parts that react to them. */
export interface SolvedPart extends PlacedPart {
  readonly volts: (plus: string, minus: string) => number
  readonly value: (name: string) => number | string | null
}

/** One kind of part. A new kind is one new file and its line in the index. */
export interface PartKind {
  readonly kind: string
  readonly title: string
  readonly place: Place
  readonly duty: Duty
  /** Letters a new part's name begins with. */
  readonly prefix: string
  readonly settings: readonly Setting[]
  readonly terminals: (s: Settings) => readonly Terminal[]
  /** Ways through the part, field side first. */
  readonly lanes?: (s: Settings) => readonly (readonly [string, string])[]
  /** What the bench lets move, in words; null when nothing does. */
  readonly actuate?: (s: Settings) => { readonly on: string; readonly off: string } | null
  /** The label in one line. */
  readonly label: (s: Settings) => string
  readonly elements: (p: PlacedPart) => readonly NetElement[]
  /** What changes in the part after a solution; undefined or the same leaves it. */
  readonly react?: (p: SolvedPart) => Partial<LivePart>
  /** Pairs of terminals worth a voltage reading, with their name. */
  readonly testPoints?: (s: Settings) => readonly (readonly [plus: string, minus: string, says: string])[]
  /** Tools and material besides the part itself. */
  readonly kit?: readonly string[]
  readonly caution?: (s: Settings) => string | null
  /** What should be seen first when power comes. */
  readonly firstSign?: (s: Settings) => string | null
}

/** One element of the part, its terminals landed on the part's own. */
export const element = (
  p: PlacedPart,
  type: string,
  landed: Readonly<Record<string, string>>,
  params: NetElement['params'] = {},
  suffix = '',
): NetElement => ({
  id: p.id + suffix,
  type,
  nodes: Object.fromEntries(Object.entries(landed).map(([t, terminal]) => [t, p.node(terminal)])),
  params,
})

export const term = (id: string, label: string, role: TerminalRole, side: Terminal['side']): Terminal => ({
  id,
  label,
  role,
  side,
})
