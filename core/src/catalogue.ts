import type { Calculation } from './calculation.ts'
import { circuitCalculations } from './circuit/calculations.ts'
import { quantityCalculations } from './quantity/calculations.ts'
import { scaleCalculations } from './scale/calculations.ts'
import { signalCalculations } from './signal/calculations.ts'
import { verifyCalculations } from './verify/calculations.ts'
import { wireCalculations } from './wire/calculations.ts'

/** Every calculation of the product. The HTTP calculator, its documentation and Quick sums come from here. */
export const CATALOGUE: readonly Calculation[] = [
  ...quantityCalculations,
  ...signalCalculations,
  ...circuitCalculations,
  ...wireCalculations,
  ...scaleCalculations,
  ...verifyCalculations,
]

export const calculationNamed = (name: string): Calculation | null =>
  CATALOGUE.find((c) => c.name === name) ?? null
