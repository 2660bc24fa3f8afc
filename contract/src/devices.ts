import { z } from 'zod'

const text = z.string().max(60)
const Adjustment = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('zeroTrim') }),
  z.strictObject({ kind: z.literal('lowerTrim'), applied: z.number() }),
  z.strictObject({ kind: z.literal('upperTrim'), applied: z.number() }),
  z.strictObject({ kind: z.literal('range'), LRV: z.number(), URV: z.number() }),
  z.strictObject({ kind: z.literal('rangeLowByInput') }),
  z.strictObject({ kind: z.literal('rangeHighByInput') }),
  z.strictObject({ kind: z.literal('outputTrim4'), measured_mA: z.number() }),
  z.strictObject({ kind: z.literal('outputTrim20'), measured_mA: z.number() }),
  z.strictObject({ kind: z.literal('fixCurrent'), mA: z.number().min(0).max(24).nullable() }),
  z.strictObject({ kind: z.literal('restoreSensorTrim') }),
  z.strictObject({ kind: z.literal('restoreOutputTrim') }),
])
const Settings = z.strictObject({
  damping_s: z.number().min(0).max(100).optional(),
  alarm: z.enum(['low', 'high']).optional(),
  descriptor: text.optional(),
  characterization: text.optional(),
})

/** What a device can be asked for; the identifier makes a second send harmless. */
export const DeviceOrder = z.strictObject({
  id: z.uuid(),
  command: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('connect'), port: text }),
    z.strictObject({ kind: z.literal('disconnect') }),
    z.strictObject({ kind: z.literal('unlock'), passcode: text }),
    z.strictObject({ kind: z.literal('lock') }),
    z.strictObject({ kind: z.literal('apply'), value: z.number().nullable() }),
    z.strictObject({ kind: z.literal('adjust'), adjustment: Adjustment }),
    z.strictObject({ kind: z.literal('write'), settings: Settings }),
    z.strictObject({ kind: z.literal('applySettings') }),
    z.strictObject({ kind: z.literal('store') }),
    z.strictObject({ kind: z.literal('power'), on: z.boolean() }),
    z.strictObject({ kind: z.literal('readAll') }),
    z.strictObject({ kind: z.literal('replug'), port: text }),
    z.strictObject({ kind: z.literal('loopResistance'), ohm: z.number().min(0).max(5000) }),
  ]),
})
export type DeviceOrder = z.output<typeof DeviceOrder>

const Reading = z.object({ t_s: z.number(), PV: z.number(), percent: z.number(), mA: z.number() })
/** What a window sees of a device: never its hidden errors. */
export const DeviceView = z.object({
  t_s: z.number(),
  speed: z.number(),
  powered: z.boolean(),
  connected: z.boolean(),
  unlocked: z.boolean(),
  port: text,
  standard: z.number().nullable(),
  /** Device time at which the input was moved last: older samples tell nothing of the present one. */
  movedAt_s: z.number(),
  fixed_mA: z.number().nullable(),
  stored: z.boolean(),
  settingsWait: z.enum(['none', 'apply', 'store']),
  range: z.object({ LRV: z.number(), URV: z.number() }).nullable(),
  settings: Settings.nullable(),
  progress: z.number().nullable(),
  samples: z.array(Reading),
  audit: z.array(z.object({ at_s: z.number(), says: z.string() })),
})
export type DeviceView = z.output<typeof DeviceView>
export const DeviceAnswer = z.object({ ok: z.boolean(), says: z.string(), device: DeviceView })
export type DeviceAnswer = z.output<typeof DeviceAnswer>

export const DeviceBackup = z.strictObject({
  kind: z.enum(['backup', 'copy']).describe('a copy leaves the characterization out'),
  LRV: z.number(),
  URV: z.number(),
  settings: Settings,
})
export type DeviceBackup = z.output<typeof DeviceBackup>
