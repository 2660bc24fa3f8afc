import { z } from 'zod'

/** A number in a unit, as the input of a calculation. */
export const some = (unit: string) => z.number().describe(unit)
/** The same, above 0. */
export const positive = (unit: string) => z.number().positive(`Above 0 ${unit}.`).describe(unit)
