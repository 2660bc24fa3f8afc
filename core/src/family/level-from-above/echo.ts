import { currentOfFraction } from '../../signal/current-range.ts'

/** Distances downwards from the reference plane, m. */
export interface EchoSetUp {
  /** Distance at 0 % level. */
  readonly empty_m: number
  /** Distance at 100 % level. */
  readonly full_m: number
  /** Sensor face above the reference plane; negative when it hangs below. */
  readonly offset_m: number
  /** From the face: no echo is valid nearer than this. */
  readonly blocking_m: number
  /** Distances of the 4 mA and the 20 mA point; falling ones are a level, rising ones a distance output. */
  readonly at4_m: number
  readonly at20_m: number
}
export interface EchoReading {
  /** From the reference plane. */
  readonly distance_m: number
  /** Above the 0 % point; may be negative. */
  readonly level_m: number
  readonly percent: number
  readonly spaceToFull_m: number
  readonly current_mA: number
  readonly inBlocking: boolean
}

/** The usual 4 mA and 20 mA points of both schools. In distance mode a full tank gives 4 mA. */
export const pointsOfMode = (empty_m: number, full_m: number, mode: 'level' | 'distance') =>
  mode === 'level' ? { at4_m: empty_m, at20_m: full_m } : { at4_m: full_m, at20_m: empty_m }

/** What a sensor makes of the distance from its face. */
export function readEcho(s: EchoSetUp, face_m: number): EchoReading {
  const distance_m = face_m - s.offset_m
  const level_m = s.empty_m - distance_m
  return {
    distance_m,
    level_m,
    percent: (100 * level_m) / (s.empty_m - s.full_m),
    spaceToFull_m: distance_m - s.full_m,
    current_mA: currentOfFraction((distance_m - s.at4_m) / (s.at20_m - s.at4_m)),
    inBlocking: face_m < s.blocking_m,
  }
}
