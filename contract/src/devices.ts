import { METER_IDS, type MeterId } from '@calm/core/device/tools/meter'
import {
  ConfigurationSchema,
  configurationKept,
  DeviceSettingsSchema,
} from '@calm/core/record/kinds/configuration-kept'
import { z } from 'zod'

const text = z.string().max(60)
const Adjustment = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('zeroTrim') }),
  z.strictObject({ kind: z.literal('lowerTrim'), applied: z.number() }),
  z.strictObject({ kind: z.literal('upperTrim'), applied: z.number() }),
  z.strictObject({
    kind: z.literal('points'),
    points: z
      .array(z.strictObject({ applied: z.number(), pv: z.number() }))
      .min(1)
      .max(10)
      .readonly(),
  }),
  z.strictObject({ kind: z.literal('range'), LRV: z.number(), URV: z.number() }),
  z.strictObject({ kind: z.literal('rangeLowByInput') }),
  z.strictObject({ kind: z.literal('rangeHighByInput') }),
  z.strictObject({ kind: z.literal('outputTrim4'), measured_mA: z.number() }),
  z.strictObject({ kind: z.literal('outputTrim20'), measured_mA: z.number() }),
  z.strictObject({ kind: z.literal('fixCurrent'), mA: z.number().min(0).max(24).nullable() }),
  z.strictObject({ kind: z.literal('restoreSensorTrim') }),
  z.strictObject({ kind: z.literal('restoreOutputTrim') }),
])
/** What a device can be asked for; the identifier makes a second send harmless. */
export const DeviceOrder = z.strictObject({
  id: z.uuid(),
  command: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('connect'), port: text }),
    z.strictObject({ kind: z.literal('disconnect') }),
    z.strictObject({ kind: z.literal('unlock'), passcode: text }),
    z.strictObject({ kind: z.literal('lock') }),
    z.strictObject({
      kind: z.literal('apply'),
      value: z.number().nullable(),
      over_s: z.number().min(1).max(3600).optional(),
    }),
    z.strictObject({ kind: z.literal('adjust'), adjustment: Adjustment }),
    z.strictObject({ kind: z.literal('write'), settings: DeviceSettingsSchema.omit({ keyed: true }) }),
    z.strictObject({
      kind: z.literal('keyIn'),
      lines: z.record(z.string().min(1).max(120), z.string().max(200)),
    }),
    z.strictObject({ kind: z.literal('applySettings') }),
    z.strictObject({ kind: z.literal('store') }),
    z.strictObject({ kind: z.literal('markAsFound') }),
    z.strictObject({ kind: z.literal('revert') }),
    z.strictObject({ kind: z.literal('healthCheck'), output: z.enum(['held', 'alarm']) }),
    z.strictObject({ kind: z.literal('cancel') }),
    z.strictObject({ kind: z.literal('meter'), meter: z.enum(METER_IDS as [MeterId, ...MeterId[]]) }),
    z.strictObject({ kind: z.literal('speed'), factor: z.number().min(1).max(60) }),
    z.strictObject({ kind: z.literal('power'), on: z.boolean() }),
    z.strictObject({ kind: z.literal('readAll') }),
    z.strictObject({ kind: z.literal('place'), off_mm: z.number().min(-1000).max(1000) }),
    z.strictObject({ kind: z.literal('start') }),
    z.strictObject({
      kind: z.literal('history'),
      every_s: z.number().positive().max(86_400),
      hours: z.number().positive().max(10_000),
    }),
    z.strictObject({ kind: z.literal('resume') }),
    z.strictObject({ kind: z.literal('resetTotal'), which: z.union([z.literal(1), z.literal(2)]) }),
    z.strictObject({ kind: z.literal('source'), mA: z.number().min(0).max(24).nullable() }),
    z.strictObject({ kind: z.literal('replug'), port: text }),
    z.strictObject({ kind: z.literal('loopResistance'), ohm: z.number().min(0).max(5000) }),
  ]),
})
export type DeviceOrder = z.output<typeof DeviceOrder>

const Change = z.object({ key: z.string(), from: z.string(), to: z.string() })
const Reading = z.object({
  t_s: z.number(),
  PV: z.number(),
  percent: z.number(),
  mA: z.number(),
  measures: z.literal(false).optional().describe('it measures nothing: PV is no reading'),
})
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
  settings: DeviceSettingsSchema.nullable(),
  /** What takes its time now, and the share of it that is done. */
  task: z
    .object({
      kind: z.enum(['readAll', 'healthCheck', 'history', 'start']),
      progress: z.number(),
      left_s: z.number(),
    })
    .nullable(),
  family: z.string(),
  tool: z.string(),
  /** What the tool's own display shows. */
  standardShows: z.number().nullable(),
  meter: z.string(),
  signals: z.array(
    z.object({
      name: text,
      title: z.string(),
      value: z.number(),
      unit: text,
      figure: z.boolean().optional(),
      low: z.number().optional(),
      high: z.number().optional(),
      /** Of the last and the first health check; null before there were any. */
      checked: z.number().nullable(),
      reference: z.number().nullable(),
      /** Mean and scatter of the last seconds, never from before it was moved or started. */
      trend: z
        .object({
          value: z.number(),
          scatter: z.number(),
          slope: z.number(),
          n: z.int(),
          over_s: z.number(),
        })
        .optional(),
    }),
  ),
  checks: z.int(),
  /** What it was told otherwise since its last check; null where it was never checked. */
  changedSinceCheck: z.array(Change).nullable(),
  alerts: z.array(z.string()),
  /** Its alarm list, newest last: when each came, and when it was gone. */
  alarms: z.array(z.object({ says: z.string(), at_s: z.number(), gone_s: z.number().nullable() })),
  /** Two totalizers; none where its reading is no rate. */
  totals: z.array(z.object({ value: z.number(), unit: text })),
  /** A sensor that is clamped on: where it stands, and whether the meter was started; null where nothing is. */
  clamped: z
    .object({ moves: z.string(), off_mm: z.number(), most_mm: z.number(), started: z.boolean() })
    .nullable(),
  /** Current that a calibrator gives in its place. */
  sourced_mA: z.number().nullable(),
  /** Readings fetched from its memory so far. */
  download: z.object({ every_s: z.number(), rows: z.int(), got: z.int() }).nullable(),
  /** Numbers in a row of its memory, for an estimate. */
  remembers: z.int(),
  relays: z.array(z.object({ says: z.string(), energised: z.boolean() })),
  history: z.object({
    lowest: z.number(),
    highest: z.number(),
    powerCycles: z.int(),
    trims: z.int(),
  }),
  samples: z.array(Reading),
  audit: z.array(z.object({ at_s: z.number(), says: z.string() })),
})
export type DeviceView = z.output<typeof DeviceView>
export const DeviceAnswer = z.object({ ok: z.boolean(), says: z.string(), device: DeviceView })
export type DeviceAnswer = z.output<typeof DeviceAnswer>

/** The way from a port to the device, part by part; null where nothing was asked of one. */
export const LinkTest = z.array(
  z.object({ part: z.string(), answers: z.boolean().nullable(), says: z.string() }),
)
export type LinkTest = z.output<typeof LinkTest>
/** Ports of the computer, and those that an adaptor is plugged into. */
export const Ports = z.array(z.object({ name: z.string(), adaptor: z.boolean() }))
export type Ports = z.output<typeof Ports>
/** The settings sheet against what the device holds, line by line. */
export const DeviceMemory = z.array(
  z.object({
    says: z.string(),
    part: z.string(),
    /** As the saved sheet says; null where nobody knows it. */
    sheet: z.string().nullable(),
    /** As the device holds it; null where it holds nothing. */
    holds: z.string().nullable(),
    same: z.boolean(),
    /** Without it the device measures nothing. */
    vital: z.boolean(),
  }),
)
export type DeviceMemory = z.output<typeof DeviceMemory>

/** What the device holds, to be read and kept in the record. */
export const KeepMemory = z.strictObject({ id: z.uuid(), at: z.iso.datetime() })
export type KeepMemory = z.output<typeof KeepMemory>

export const DeviceBackup = ConfigurationSchema
export type DeviceBackup = z.output<typeof DeviceBackup>

/** A configuration kept in the loop's record. */
export const KeepConfiguration = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  note: configurationKept.payload.shape.note,
})
export type KeepConfiguration = z.output<typeof KeepConfiguration>
export const KeptConfiguration = z.object({
  id: z.uuid(),
  at: z.string(),
  byName: z.string(),
  ...configurationKept.payload.shape,
})
export type KeptConfiguration = z.output<typeof KeptConfiguration>

/** What loading a configuration would overwrite; what characterizes a sensor is not another sensor's. */
export const LoadDifferences = z.object({ changed: z.array(Change), otherSensor: z.boolean() })
export type LoadDifferences = z.output<typeof LoadDifferences>
/** A kept configuration against everything it can be held against. */
export const ConfigurationDifferences = z.object({
  /** Against the device as it is now; null where it cannot be read. */
  device: z.array(Change).nullable(),
  record: z.array(Change),
  /** Against the newest one kept at or before the last verification; null without one. */
  verification: z
    .object({
      at: z.string(),
      verdict: z.enum(['COMPARABLE', 'REVIEW', 'NOT_COMPARABLE']),
      changed: z.array(z.object({ ...Change.shape, class: z.string() })),
    })
    .nullable(),
})
export type ConfigurationDifferences = z.output<typeof ConfigurationDifferences>
