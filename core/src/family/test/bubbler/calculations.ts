import { z } from 'zod'
import { calculation } from '../../../calculation.ts'

export const bubblerCalculations = [
  calculation({
    name: 'level.bubbler',
    title: 'Level of a bubble tube',
    source: 'hydrostatics',
    input: z.strictObject({ kPa: z.number() }),
    output: z.object({ level: z.number() }),
    run: ({ kPa }) => ({ level: kPa / 9.80665 }),
    example: { kPa: 9.80665 },
  }),
]
