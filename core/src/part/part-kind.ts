import type { NetElement } from '../circuit/netlist.ts'
import type { Relays } from '../signal/relay-plan.ts'
import type { Setting, SettingValue, ValuesOf } from '../quantity/setting.ts'

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
  | 'bar'
  | 'feed'
  | 'inLoop'
  | 'switching'
  | 'load'
  | 'controller'
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

/** Label data by name, defaults filled in; a kind of part reads its own with their types. */
export type LabelData = Readonly<Record<string, SettingValue>>

/** A part as it stands in a wiring, for what it becomes in the circuit. */
export interface PlacedPart<S = LabelData> {
  readonly id: string
  readonly s: S
  readonly live: LivePart
  /** Whether sources are switched on. */
  readonly power: boolean
  /** What acts on the loop's value; null where nobody planned it. */
  readonly relays: Relays | null
  /** What a serial sensor tells now, as the current that it would send, mA; null where none with power is there. */
  readonly sent_mA: number | null
  readonly node: (terminal: string) => string
  readonly wired: (terminal: string) => boolean
}

/** Readings of the last solution, for parts that react to them. */
export interface SolvedPart<S = LabelData> extends PlacedPart<S> {
  readonly volts: (plus: string, minus: string) => number
  readonly value: (name: string) => number | string | null
}

/** A conductor as the resistance of a wire is worked out from. */
export interface Conductor {
  readonly length: number
  readonly tempC: number
  readonly mm2?: number
  readonly awg?: number
  readonly iecClass?: 5
}
/** What a part takes of the loop's voltage: a drop, and ohms beside it. */
export interface LoopLoad {
  readonly volts: number
  readonly ohm: number
}
/** What feeds a loop: its voltage as on the label, from the lowest to the highest, behind so many ohms. */
export interface LoopFeed {
  readonly nominal_V: number
  readonly min_V: number
  readonly max_V: number
  readonly ohm: number
}
/** How an output switches, as a card has to know it. */
export type Switching = 'pnp' | 'npn' | 'pp' | 'contact'
/** An output by its label: how it switches, what it may carry, lets through when open, and needs to work; A. */
export interface OutputLabel {
  readonly switching: Switching
  readonly most_A: number
  readonly leak_A: number
  readonly least_A: number
}

/** One kind of part, as its file writes it. A new kind is one new file and its line in the index. */
export interface PartDefinition<S> {
  readonly kind: string
  readonly title: string
  readonly place: Place
  readonly duty: Duty
  /** Letters a new part's name begins with. */
  readonly prefix: string
  readonly terminals: (s: S) => readonly Terminal[]
  /** Ways through the part, field side first. */
  readonly lanes?: (s: S) => readonly (readonly [string, string])[]
  /** What the bench lets move, in words; null when nothing does. */
  readonly actuate?: (s: S) => { readonly on: string; readonly off: string } | null
  /** The label in one line. */
  readonly label: (s: S) => string
  readonly elements: (p: PlacedPart<S>) => readonly NetElement[]
  /** What changes in the part after a solution; undefined or the same leaves it. */
  readonly react?: (p: SolvedPart<S>) => Partial<LivePart>
  /** Pairs of terminals worth a voltage reading, with their name. */
  readonly testPoints?: (s: S) => readonly (readonly [plus: string, minus: string, says: string])[]
  /** Tools and material besides the part itself. */
  readonly kit?: readonly string[]
  readonly caution?: (s: S) => string | null
  /** What should be seen first when power comes. */
  readonly firstSign?: (s: S) => string | null
  /** Where it stands when that depends on its label. */
  readonly placeOf?: (s: S) => Place
  /** What it takes of a loop's voltage; null where it is not in the way. @param lit - a display's backlight is wanted */
  readonly loopLoad?: (s: S, lit: boolean) => LoopLoad | null
  /** What it can feed a loop with; null where it does not. */
  readonly loopFeed?: (s: S) => LoopFeed | null
  /** Lowest and highest volts on its label; null where it does not say. */
  readonly supplyLabel?: (s: S) => { readonly min_V: number; readonly max_V: number | null } | null
  /** Volts and current that it takes as the load of an output; whether it is a coil. */
  readonly switchedLoad?: (s: S) => { readonly volts: number; readonly amps: number; readonly coil: boolean }
  readonly output?: (s: S) => OutputLabel
  /** Of a transmitter that lives on the loop: the volts it needs, and the most it stands. @param lit - its display too */
  readonly loopDevice?: (s: S, lit: boolean) => { readonly lift_V: number; readonly max_V: number }
  /** Whether it can drive its own passive output, and whether that is set. */
  readonly ownFeed?: (s: S) => 'jumpered' | 'possible' | 'none'
  /** Where a loop's current goes in and out of a receiver, and the name of the channel in use. */
  readonly receives?: (s: S) => {
    readonly into: string
    readonly out: string
    readonly channel: string | null
  } | null
  /** Of a discrete input: which way the current flows, and its type. */
  readonly input?: (s: S) => { readonly mode: 'sink' | 'source' | 'bidir'; readonly type: 1 | 2 | 3 }
  /** Of a meter: the jack the red lead is in, and the dial. */
  readonly meter?: (s: S) => { readonly jack: string; readonly dial: string }
  /** How a transmitter's output is wired, and the terminal its current leaves at where that is not plus. */
  readonly wiredAs?: 'twoWire' | 'threeWire' | 'active' | 'passive' | 'serial'
  readonly sendsAt?: string
  /** Its end of a serial line. */
  readonly line?: 'station' | 'master'
  /** Contacts that it moves by the loop's plan, the first plan's first. */
  readonly relays?: (s: S) => readonly {
    /** Suffix of the element that is the relay. */
    readonly element: string
    readonly com: string
    readonly no: string
    readonly nc: string
  }[]
  /** Which way it moves the loop's value while it runs, and how fast, share of span a second. */
  readonly moves?: (s: S) => { readonly up: boolean; readonly perSecond: number } | null
  /** The kind of part that alone can read it. */
  readonly readBy?: string
  /** Loose parts: pulls an input up or down; takes a coil's kick. */
  readonly looseUse?: 'pulls' | 'suppresses'
  /** Stands behind the cabinet's terminals and keeps energy out of the field. */
  readonly guards?: boolean
  /** The conductor of a cable. */
  readonly conductor?: (s: S) => Conductor
}
/** A kind of part as the rest of the program sees it. */
export interface PartKind extends PartDefinition<LabelData> {
  readonly settings: readonly Setting[]
}

/** A kind of part from its file: its functions read typed label data. */
export const definePart = <const L extends readonly Setting[]>(
  d: PartDefinition<ValuesOf<L>> & { readonly settings: L },
): PartKind =>
  // Label data is held against the settings when it is saved; here the compiler cannot see it.
  d as unknown as PartKind

/** One element of the part, its terminals landed on the part's own. */
export const element = (
  p: Pick<PlacedPart, 'id' | 'node'>,
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
