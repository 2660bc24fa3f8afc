import type { Transfer } from './transfer.ts'

/** A measuring range in one unit. `high` below `low` is reverse action and legal. */
export interface Range {
  readonly low: number
  readonly high: number
  readonly unit: string
}

/** The value at the process or applied by a standard. Read against the transmitter's range. */
export interface ProcessStage {
  readonly kind: 'process'
}
/** The transmitter's digital reading after sensor trim. Read against the transmitter's range. */
export interface SensorStage {
  readonly kind: 'sensor'
  /** What the sensor can measure at all (LSL to USL), in the unit of the transmitter's range. */
  readonly limits?: { readonly low: number; readonly high: number } | undefined
}
/** Percent of range after transfer function and action; holds the range the transmitter was told. */
export interface TransmitterStage {
  readonly kind: 'transmitter'
  readonly range: Range
  readonly transfer: Transfer
  /** Reverse action by setting: 1 - G(u). */
  readonly reverse?: boolean | undefined
  /** What 0..100 % of output means where that is not the input range (flow behind a dp transmitter). */
  readonly shows?: Range | undefined
}
/** The loop current leaving the output. */
export interface OutputStage {
  readonly kind: 'output'
  readonly signal: '4-20' | '0-20'
  readonly satLow_mA: number
  readonly satHigh_mA: number
  readonly failTo: 'low' | 'high'
}
/** An isolator or signal converter in the loop, with its own scaling. */
export interface IsolatorStage {
  readonly kind: 'isolator'
  readonly inLow_mA: number
  readonly inHigh_mA: number
  readonly outLow_mA: number
  readonly outHigh_mA: number
}
/** The frequency or pulse output beside the current: so many hertz at so much flow. */
export interface FrequencyStage {
  readonly kind: 'frequency'
  readonly atRate: number
  readonly frequency_Hz: number
  readonly limit_Hz: number
  readonly width_ms: number
}
/** What counts the pulses; a flow per hour again. */
export interface TotalizerStage {
  readonly kind: 'totalizer'
  readonly unitsPerPulse: number
  readonly limit_Hz: number
}
/** One channel of a digital converter that sits in the loop and makes a number of the current. */
export interface ConverterStage {
  readonly kind: 'converter'
  readonly channel: 1 | 2
  /** Values at 4 and at 20 mA. */
  readonly range: Range
  readonly decimals: number
}
/** The receiver's resistor that makes volts of the current. */
export interface ShuntStage {
  readonly kind: 'shunt'
  readonly resistance_ohm: number
}
/** The analogue input card: what code stands for 4 and for 20 mA, and where codes end. */
export interface InputStage {
  readonly kind: 'input'
  readonly signal: '4-20' | '0-20'
  readonly n4: number
  readonly n20: number
  readonly nmin: number
  readonly nmax: number
  /** Volts that the card takes for 20 mA; the shunt's own where not told. */
  readonly volts20?: number | undefined
}
/** The controller's scaling to engineering units. */
export interface ControllerStage {
  readonly kind: 'controller'
  readonly range: Range
  readonly transfer: Transfer
  /** Codes that the scaling block was told for 4 and 20 mA; the card's own where not told. */
  readonly m4?: number | undefined
  readonly m20?: number | undefined
}
/** A panel display in the loop (from the current) or a digital one (from the controller). */
export interface DisplayStage {
  readonly kind: 'display'
  readonly range: Range
  readonly from: 'current' | 'controller' | 'converter'
  readonly decimals: number
  readonly transfer: Transfer
}

export type Stage =
  | ProcessStage
  | SensorStage
  | TransmitterStage
  | OutputStage
  | FrequencyStage
  | TotalizerStage
  | IsolatorStage
  | ConverterStage
  | ShuntStage
  | InputStage
  | ControllerStage
  | DisplayStage

export type StageKind = Stage['kind']
export type StageOf<K extends StageKind> = Extract<Stage, { kind: K }>

/** The short identifiers that tables, records and calculations use for the stations. */
export const STATION_IDS = {
  process: 'IN',
  sensor: 'PV',
  transmitter: 'PCT',
  frequency: 'HZ',
  totalizer: 'TOT',
  output: 'MA',
  isolator: 'ISO',
  converter: 'CNV',
  shunt: 'V',
  input: 'CNT',
  controller: 'EU',
  display: 'DSP',
} as const satisfies Record<StageKind, string>

export type StationId = (typeof STATION_IDS)[StageKind]

/**
 * Usual order along the line; a path may leave some out, never the process or the transmitter. What sits in
 * the loop may stand on either side of an isolator: the order in the path says on which.
 */
export const STAGE_ORDER = Object.keys(STATION_IDS) as readonly StageKind[]

/** The stage of a kind, or undefined when the path has none. */
export function stageOf<K extends StageKind>(stages: readonly Stage[], kind: K): StageOf<K> | undefined {
  return stages.find((s): s is StageOf<K> => s.kind === kind)
}
