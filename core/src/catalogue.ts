import type { Calculation } from './calculation.ts'
import { circuitCalculations } from './circuit/calculations.ts'
import { FAMILY_CALCULATIONS } from './family/calculations.ts'
import { logCalculations } from './logs/calculations.ts'
import { mediaCalculations } from './media/calculations.ts'
import { quantityCalculations } from './quantity/calculations.ts'
import { diagnosisCalculations } from './scale/diagnosis/calculations.ts'
import { scaleCalculations } from './scale/calculations.ts'
import { signalCalculations } from './signal/calculations.ts'
import { tankCalculations } from './tank/calculations.ts'
import { planCalculations } from './plan/calculations.ts'
import { procedureCalculations } from './procedure/calculations.ts'
import { statisticsCalculations } from './statistics/calculations.ts'
import { trimCalculations } from './trim/calculations.ts'
import { judgementCalculations } from './verify/judgement-calculations.ts'
import { flowCheckCalculations } from './verify/flow-check-calculations.ts'
import { verifyCalculations } from './verify/calculations.ts'
import { wireCalculations } from './wire/calculations.ts'
import { proofCalculations } from './wire/proof/calculations.ts'

/** Every calculation of the product. The HTTP calculator, its documentation and Quick sums come from here. */
export const CATALOGUE: readonly Calculation[] = [
  ...quantityCalculations,
  ...signalCalculations,
  ...circuitCalculations,
  ...wireCalculations,
  ...proofCalculations,
  ...mediaCalculations,
  ...flowCheckCalculations,
  ...FAMILY_CALCULATIONS.flat(),
  ...tankCalculations,
  ...scaleCalculations,
  ...diagnosisCalculations,
  ...trimCalculations,
  ...procedureCalculations,
  ...verifyCalculations,
  ...judgementCalculations,
  ...statisticsCalculations,
  ...logCalculations,
  ...planCalculations,
]

export const calculationNamed = (name: string): Calculation | null =>
  CATALOGUE.find((c) => c.name === name) ?? null
