import { z } from 'zod'
import { DeviceView } from './devices.ts'

const pH = z.number('Type the buffer on the bottle.').min(0, 'At least pH 0.').max(14, 'At most pH 14.')
/** A reading in a bottle, taken over the link. */
export const TakenBeaker = z.object({ buffer: z.number(), mV: z.number(), t: z.number(), pv: z.number() })

/** A sensor on the link of the workshop: the device, the bottles that were taken, and whether they are written into it. */
export const Workshop = z.object({
  device: DeviceView,
  beakers: z.array(TakenBeaker),
  written: z.boolean(),
})
export type Workshop = z.output<typeof Workshop>

/** One act at the bench; the identifier makes a second send harmless. */
export const WorkshopAct = z.strictObject({
  id: z.uuid(),
  act: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('take'), buffer: pH }),
    z.strictObject({ kind: z.literal('write') }),
    z.strictObject({ kind: z.literal('check'), buffer: pH }),
    z.strictObject({ kind: z.literal('again') }),
  ]),
})
export type WorkshopAct = z.output<typeof WorkshopAct>
export const WorkshopAnswer = z.object({ ok: z.boolean(), says: z.string(), workshop: Workshop })
export type WorkshopAnswer = z.output<typeof WorkshopAnswer>
