import { FIELD_ZERO } from '../procedure/general/field-zero.ts'
import { FLOW_ZERO } from '../procedure/general/flow-zero.ts'
import { GENERAL, TRIMS } from '../procedure/general/index.ts'
import { SENSOR_TRIM, ZERO_TRIM } from '../procedure/general/trims.ts'
import { CLAMP_ON_START_UP } from './clamp-on/start-up.ts'
import { MEMORY_LOST } from './coriolis/memory-procedure.ts'
import { GUIDED_WAVE_SET_UP } from './guided-wave/quick-set-up.ts'
import { LEVEL_ECHO } from './level-from-above/echo-look.ts'
import { PH_BUFFERS } from './ph/buffer-calibration.ts'
import { DISCRETE_INPUT } from './switch/input-procedure.ts'
import { TEMPERATURE_TRIM } from './temperature/sensor-trim.ts'
import { GAS_VERIFICATION } from './thermal/gas-verification.ts'
import { INSERT, RETRACT } from './thermal/insert-retract.ts'
import type { Procedure } from '../procedure/step.ts'

/** What can be done at a loop of which nobody has said what it is: a range and a current, and nothing more. */
const UNTOLD: readonly Procedure[] = [ZERO_TRIM, SENSOR_TRIM, ...TRIMS, ...GENERAL]

/** What can be done at a loop of each family, by its id. Apart from the families: who draws a circuit loads no steps. */
const FAMILY_PROCEDURES: Readonly<Record<string, readonly Procedure[]>> = {
  'clamp-on': [CLAMP_ON_START_UP, FLOW_ZERO, ...TRIMS, ...GENERAL],
  coriolis: [FLOW_ZERO, MEMORY_LOST, ...TRIMS, ...GENERAL],
  thermal: [INSERT, RETRACT, GAS_VERIFICATION, FLOW_ZERO, ...TRIMS, ...GENERAL],
  orifice: [FIELD_ZERO, ZERO_TRIM, SENSOR_TRIM, ...TRIMS, ...GENERAL],
  'level-from-above': [LEVEL_ECHO, SENSOR_TRIM, ...TRIMS, ...GENERAL],
  'guided-wave': [GUIDED_WAVE_SET_UP, SENSOR_TRIM, ...TRIMS, ...GENERAL],
  pressure: [FIELD_ZERO, ZERO_TRIM, SENSOR_TRIM, ...TRIMS, ...GENERAL],
  temperature: [TEMPERATURE_TRIM, ...TRIMS, ...GENERAL],
  ph: [PH_BUFFERS, ...GENERAL],
  switch: [DISCRETE_INPUT],
}

/** The procedures of a family, or those of a loop that nobody has told of. */
export const proceduresOf = (family: string | null): readonly Procedure[] =>
  family === null ? UNTOLD : (FAMILY_PROCEDURES[family] ?? UNTOLD)

/** Every procedure there is, each once. */
export const allProcedures = (): readonly Procedure[] => [
  ...new Set([UNTOLD, ...Object.values(FAMILY_PROCEDURES)].flat()),
]
