import { HandJob } from '@calm/core/today/entries'
import { PlantAtWork } from '@calm/core/today/plant-at-work'
import { NewComparison } from '@calm/contract/comparisons'
import { LIST_COLUMN_IDS } from '@calm/core/loop-list/columns'
import { SiteFound } from '@calm/core/survey/site'
import { PLAN_NAMES } from '@calm/core/verify/plan'
import { Role } from '@calm/contract/people'
import { SensorDescription } from '@calm/core/sensor/sensor'
import { z } from 'zod'

const Errors = z.strictObject({
  zero_pct: z.number(),
  span_pct: z.number(),
  bow_pct: z.number(),
  hysteresis_pct: z.number(),
  output_pct: z.number(),
})
export type DemoErrors = z.output<typeof Errors>

export const DemoPeople = z.array(
  z.strictObject({ name: z.string(), shownName: z.string(), role: Role, password: z.string() }),
)

export const DemoEquipment = z.array(
  z.strictObject({
    name: z.string(),
    serial: z.string(),
    range: z.string(),
    uncertainty: z.string(),
    drift: z.string(),
    resolution: z.string(),
    certificate: z.string(),
    certifiedOn: z.iso.date(),
    dueOn: z.iso.date(),
  }),
)

export const DemoComparisons = z.array(
  z.strictObject({
    ...NewComparison.omit({ id: true, revision: true, runs: true }).shape,
    tag: z.string(),
    by: z.string(),
    /** Reference and reading. */
    runs: z.array(z.tuple([z.number(), z.number()])),
  }),
)

/** How the plant works day by day, and two jobs that somebody entered. */
export const DemoAtWork = z.strictObject({
  plant: PlantAtWork,
  jobs: z.array(
    z.strictObject({
      ...HandJob.omit({ due: true }).shape,
      by: z.string(),
      order: z.string(),
      agreed: z.string(),
    }),
  ),
})

/** A day with a portable meter. */
export const DemoSurvey = z.strictObject({
  title: z.string(),
  on: z.iso.date(),
  by: z.string(),
  sites: z.array(z.strictObject({ tag: z.string(), at: z.iso.datetime(), found: SiteFound })),
})

export const DemoDetails = z.strictObject({
  mended: z.array(
    z.strictObject({ tag: z.string(), cells: z.partialRecord(z.enum(LIST_COLUMN_IDS), z.string()) }),
  ),
  fields: z.array(z.strictObject({ tag: z.string(), path: z.string(), value: z.unknown() })),
})

/** What the plant's devices were told. */
export const DemoSetUp = z.array(
  z.strictObject({
    tag: z.string(),
    family: z.string(),
    /** Name of the plant’s sensor that it has: what its plate says goes before the values here. */
    sensor: z.string().optional(),
    values: z.record(z.string(), z.union([z.number(), z.string(), z.boolean()])),
  }),
)

export const DemoSensors = z.array(SensorDescription)

const Ends = z.tuple([z.string(), z.string()])
/** Parts of a loop; they are wired as they should be, and then some as they were found. */
export const DemoWiring = z.array(
  z.strictObject({
    tag: z.string(),
    parts: z.record(
      z.string(),
      z.union([
        z.tuple([z.string()]),
        z.tuple([z.string(), z.record(z.string(), z.union([z.number(), z.string(), z.boolean()]))]),
      ]),
    ),
    mistake: z
      .strictObject({
        says: z.string(),
        remove: z.array(z.string()).optional(),
        cut: z.array(Ends).optional(),
        add: z.array(Ends).optional(),
        wires: z.array(Ends).optional(),
      })
      .optional(),
  }),
)
export type DemoWiring = z.output<typeof DemoWiring>[number]

/** A past verification by the errors the device had; its readings are computed from them. */
export const DemoHistory = z.array(
  z.strictObject({
    tag: z.string(),
    at: z.iso.datetime(),
    by: z.string(),
    reviewer: z.string(),
    equipment: z.array(z.string()),
    plan: z.enum(PLAN_NAMES),
    asFound: Errors,
    adjusted: z.string().nullable(),
    asLeft: Errors.nullable(),
  }),
)
export type DemoVerification = z.output<typeof DemoHistory>[number]
