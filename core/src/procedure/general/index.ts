import type { Procedure } from '../step.ts'
import { CONFIGURATION } from './configuration.ts'
import { HEALTH_CHECK } from './health-check.ts'
import { LOOP_CHECK } from './loop-check.ts'
import { RELAY_TRIP } from './relay-trip.ts'
import { OUTPUT_TRIM } from './output-trim.ts'
import { RE_RANGE } from './re-range.ts'

/** What changes the current and the range of any transmitter. */
export const TRIMS: readonly Procedure[] = [OUTPUT_TRIM, RE_RANGE]
/** What can be done at any loop with a current. */
export const GENERAL: readonly Procedure[] = [LOOP_CHECK, RELAY_TRIP, HEALTH_CHECK, CONFIGURATION]
