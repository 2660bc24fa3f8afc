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
}
/** The controller's scaling to engineering units. */
export interface ControllerStage {
  readonly kind: 'controller'
  readonly range: Range
  readonly transfer: Transfer
}
/** A panel display in the loop (from the current) or a digital one (from the controller). */
export interface DisplayStage {
  readonly kind: 'display'
  readonly range: Range
  readonly from: 'current' | 'controller'
  readonly decimals: number
  readonly transfer: Transfer
}

export type Stage =
  | ProcessStage
  | SensorStage
  | TransmitterStage
  | OutputStage
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
  output: 'MA',
  shunt: 'V',
  input: 'CNT',
  controller: 'EU',
  display: 'DSP',
} as const satisfies Record<StageKind, string>

export type StationId = (typeof STATION_IDS)[StageKind]

/** Fixed order along the line; a path may leave some out, never the process or the transmitter. */
export const STAGE_ORDER = Object.keys(STATION_IDS) as readonly StageKind[]

/** The stage of a kind, or undefined when the path has none. */
export function stageOf<K extends StageKind>(stages: readonly Stage[], kind: K): StageOf<K> | undefined {
  return stages.find((s): s is StageOf<K> => s.kind === kind)
}
