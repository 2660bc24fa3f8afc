import { SensorDescription } from '@calm/core/sensor/sensor'
import { z } from 'zod'

/** A new sensor; or, of one that is here, a new description on top of the one it was made from. */
export const SaveSensor = z.strictObject({
  /** Revision that was changed; 0 for a new sensor. */
  base: z.int('A whole number.').min(0, 'At least 0.'),
  description: SensorDescription,
  reason: z.string().trim().max(200, 'At most 200 characters.'),
})
export type SaveSensor = z.output<typeof SaveSensor>

export const SensorRevision = z.object({
  revision: z.int(),
  description: SensorDescription,
  at: z.iso.datetime(),
  by: z.string(),
  reason: z.string(),
})
export type SensorRevision = z.output<typeof SensorRevision>

/** A sensor as it is now: its newest description, and the loops whose set-up has it. */
export const Sensor = z.object({
  ...SensorRevision.shape,
  id: z.uuid(),
  name: z.string(),
  /** Tags; more than one is a mistake somebody made. */
  on: z.array(z.string()),
  /** Whether its certificate counts today; null where it has no end. */
  valid: z.boolean().nullable(),
  /** A stand-in of it hangs on the link of the workshop: it belongs to the demo plant. */
  linked: z.boolean(),
})
export type Sensor = z.output<typeof Sensor>
