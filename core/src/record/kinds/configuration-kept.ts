import { z } from 'zod'
import { defineKind } from './kind.ts'

const text = z.string().max(60)

/** The settings of a device that can be written to it. */
export const DeviceSettingsSchema = z.strictObject({
  damping_s: z.number().min(0).max(100).optional(),
  alarm: z.enum(['low', 'high']).optional(),
  descriptor: text.optional(),
  address: z.int().min(0).max(63).optional(),
  characterization: text.optional(),
  keyed: z
    .record(z.string().min(1).max(120), z.string().max(200))
    .optional()
    .describe('the settings sheet as it was keyed in, line by line'),
})

/** A configuration as it is saved to a file and kept in a record. */
export const ConfigurationSchema = z.strictObject({
  kind: z.enum(['backup', 'copy']).describe('a copy leaves the characterization out'),
  LRV: z.number(),
  URV: z.number(),
  settings: DeviceSettingsSchema,
  trims: z
    .strictObject({ sensor: z.array(z.number()).length(2), output: z.array(z.number()).length(2) })
    .optional()
    .describe('told, never written: trims are made with a standard'),
})

/** The configuration of a device was read and kept. */
export const configurationKept = defineKind({
  type: 'configuration.kept',
  of: 'loop',
  payload: z.strictObject({
    note: z.string().trim().max(300).default(''),
    configuration: ConfigurationSchema,
  }),
  title: 'Configuration kept',
  says: (p) => (p.note === '' ? 'The configuration of the device was read and kept.' : p.note),
})
