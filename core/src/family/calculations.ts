import type { Calculation } from '../calculation.ts'
import { clampOnCalculations } from './clamp-on/calculations.ts'
import { coriolisCalculations } from './coriolis/calculations.ts'
import { levelCalculations } from './level-from-above/calculations.ts'
import { flowCalculations } from './orifice/calculations.ts'
import { phCalculations } from './ph/calculations.ts'
import { pressureCalculations } from './pressure/calculations.ts'
import { temperatureCalculations } from './temperature/calculations.ts'
import { thermalCalculations } from './thermal/calculations.ts'

/** What each family adds to the catalogue. Apart from the families: who looks at a meter loads no quick sum. */
export const FAMILY_CALCULATIONS: readonly (readonly Calculation[])[] = [
  clampOnCalculations,
  coriolisCalculations,
  thermalCalculations,
  flowCalculations,
  levelCalculations,
  pressureCalculations,
  temperatureCalculations,
  phCalculations,
]
