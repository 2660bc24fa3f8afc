import { sumKept } from '@calm/core/record/kinds/sum-kept'
import { z } from 'zod'

const { calculation, input, note } = sumKept.payload.shape

/** A quick sum as a page puts it on a loop; the server does the sum itself and keeps what it finds. */
export const KeepSum = z.strictObject({ id: z.uuid(), at: z.iso.datetime(), calculation, input, note })
export type KeepSum = z.output<typeof KeepSum>
