import { z } from 'zod'
import { defineKind } from './kind.ts'

const seconds = z.number().min(0).max(1e10)
const bit = z.union([z.literal(0), z.literal(1)])

/** What was looked at of an input; what is null was not. */
export const LookedAtInput = z.strictObject({
  revision: z.int().min(1),
  equipment: z.array(z.uuid()).max(10).default([]),
  forced: z.strictObject({ whileSensing: bit, whileNot: bit, contact: z.enum(['no', 'nc']) }).nullable(),
  counted: z
    .strictObject({
      from_s: seconds,
      to_s: seconds,
      filter_ms: z.number().min(0).max(10_000),
      ideal_s: z.number().positive('Above 0 s.').max(86_400),
      least_s: z.number().min(0).max(86_400),
      most_s: z.number().min(0).max(86_400),
      planned_s: z.number().positive('Above 0 s.').max(1e6).nullable(),
      good: z.int().min(0).nullable(),
    })
    .refine((c) => c.to_s > c.from_s && c.to_s - c.from_s <= 4 * 3600, {
      path: ['to_s'],
      message: 'Count over some time, at most four hours.',
    })
    .nullable(),
  points: z
    .strictObject({
      setpoint: z.number(),
      unit: z.string().max(20),
      rate: z.number(),
      latency_s: z.number().min(0).max(3600),
      trips: z.array(z.number()).min(1, 'At least one trip.').max(20),
      resets: z.array(z.number()).max(20),
      T: z.number().positive('Above 0.'),
      deadbandLimits: z.tuple([z.number().min(0), z.number().min(0)]),
    })
    .nullable(),
})

/** It was judged and kept: what was looked at and what came out. */
export const inputVerified = defineKind({
  type: 'input.verified',
  of: 'loop',
  payload: z.strictObject({
    ...LookedAtInput.shape,
    count: z.int().nullable(),
    passes: z.boolean(),
    says: z.array(z.string()),
  }),
  title: 'Input verified',
  says: (p) => p.says.join('\n'),
})
