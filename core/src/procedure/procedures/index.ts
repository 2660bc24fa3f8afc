import type { Procedure } from '../step.ts'
import { CLAMP_ON_START_UP } from './clamp-on-start-up.ts'
import { CONFIGURATION } from './configuration.ts'
import { FLOW_ZERO } from './flow-zero.ts'
import { GAS_VERIFICATION } from './gas-verification.ts'
import { GUIDED_WAVE_SET_UP } from './guided-wave-set-up.ts'
import { HEALTH_CHECK } from './health-check.ts'
import { LOOP_CHECK } from './loop-check.ts'
import { PH_BUFFERS } from './ph-buffers.ts'
import { RELAY_TRIP } from './relay-trip.ts'
import { OUTPUT_TRIM, RE_RANGE, SENSOR_TRIM, ZERO_TRIM } from './trims.ts'

/** Every guided procedure. Data only: the engine knows none of them. */
export const PROCEDURES: readonly Procedure[] = [
  ZERO_TRIM,
  SENSOR_TRIM,
  OUTPUT_TRIM,
  RE_RANGE,
  LOOP_CHECK,
  FLOW_ZERO,
  CLAMP_ON_START_UP,
  GAS_VERIFICATION,
  GUIDED_WAVE_SET_UP,
  PH_BUFFERS,
  RELAY_TRIP,
  HEALTH_CHECK,
  CONFIGURATION,
]

const byId = new Map(PROCEDURES.map((p) => [p.id, p]))
export const procedureOf = (id: string): Procedure | null => byId.get(id) ?? null
/** Those that make sense for a loop of these words. */
export const proceduresFor = (type: string): Procedure[] => PROCEDURES.filter((p) => p.fits(type))
