import { TagSchema } from '@calm/core/loop/document'
import { SensorDescription } from '@calm/core/sensor/sensor'
import { z } from 'zod'
import { NewEquipment } from './equipment.ts'
import { Role } from './people.ts'
import { PlaceInTree, SignedHead } from './plant-log.ts'

export const PACKAGE_FORMAT = 'calm-loop-package'
/** 3: signed by its plant, each event with its place in the plant's tree. Older ones are still read, as nobody's word. */
export const PACKAGE_VERSION = 3

const hash = z.string().regex(/^[0-9a-f]{64}$/)

/** What a package says about itself: each of its files with its SHA-256. */
export const PackageManifest = z.strictObject({
  format: z.literal(PACKAGE_FORMAT, 'This is not a package of a loop.'),
  version: z.union(
    [z.literal(1), z.literal(2), z.literal(PACKAGE_VERSION)],
    'This package was made by a newer version.',
  ),
  /** Version of the program that made it: another one may draw otherwise. */
  program: z.string().max(40).optional(),
  madeAt: z.iso.datetime(),
  tag: TagSchema,
  files: z.record(z.string().max(200), hash),
  /** Where the record ends: what was cut off shows. From version 3 on. */
  last: z.strictObject({ seq: z.int().min(1), hash }).optional(),
  plant: z.strictObject({ id: z.uuid(), publicKey: hash }).optional(),
  /** By the plant's key, over everything else in this file. */
  signature: z
    .string()
    .regex(/^[0-9a-f]{128}$/)
    .optional(),
})
export type PackageManifest = z.output<typeof PackageManifest>

/** Where the events of a package stand in the plant's tree. */
export const PackageProof = z.strictObject({
  head: SignedHead,
  /** Of each event its place, and the nodes beside its way to the root. */
  leaves: z.array(PlaceInTree),
})
export type PackageProof = z.output<typeof PackageProof>

/** Everything a loop is made of: enough to make it again elsewhere, and to prove it. */
export const LoopPackage = z.strictObject({
  loop: z.strictObject({ id: z.uuid(), tag: TagSchema }),
  revisions: z
    .array(
      z.strictObject({
        number: z.int().min(1),
        /** As it was saved, whatever version of the document that was. */
        document: z.record(z.string(), z.unknown()),
        by: z.uuid(),
        at: z.iso.datetime(),
        reason: z.string().max(300),
      }),
    )
    .min(1),
  runs: z.array(
    z.strictObject({
      id: z.uuid(),
      kind: z.enum(['verification', 'procedure']),
      procedure: z.string().nullable(),
      revision: z.int().min(1),
      startedAt: z.iso.datetime(),
      startedBy: z.uuid(),
    }),
  ),
  /** The record, each event tied to the one before it by its hash. */
  events: z
    .array(
      z.strictObject({
        id: z.uuid(),
        loopId: z.uuid(),
        runId: z.uuid().nullable(),
        seq: z.int().min(1),
        type: z.string().max(60),
        at: z.iso.datetime(),
        /** Absent in packages of version 1. */
        recordedAt: z.iso.datetime().optional(),
        form: z.union([z.literal(1), z.literal(2)]).default(1),
        by: z.uuid(),
        payload: z.unknown(),
        previous: hash,
        hash,
      }),
    )
    .min(1),
  /** As the package tells them: nobody elsewhere vouches for these names. */
  people: z.array(
    z.strictObject({
      id: z.uuid(),
      name: z.string().min(1).max(60),
      shownName: z.string().min(1).max(120),
      role: Role,
    }),
  ),
  equipment: z.array(NewEquipment),
  /** The sensor that its set-up has, as it was described when the package was made. */
  sensors: z.array(z.strictObject({ id: z.uuid(), description: SensorDescription })).optional(),
  /** Keys that signatures in the record were made with, as the plant's register has them. From version 3 on. */
  keys: z
    .array(
      z.strictObject({
        fingerprint: hash,
        personId: z.uuid(),
        publicKey: hash,
        from: z.iso.datetime(),
        until: z.iso.datetime().nullable(),
      }),
    )
    .default([]),
})
export type LoopPackage = z.output<typeof LoopPackage>

export const PackageTaken = z.object({
  id: z.uuid(),
  tag: z.string(),
  events: z.int(),
  /** How many stand under the name of who took it in: to be looked at, since a file can claim anything. */
  own: z.int(),
  stored: z.boolean(),
  /** Which plant signed it, by the fingerprint of its key; null where none did. */
  plantKey: z.string().nullable(),
  /** What it derives was made again from its record and is the same; false for one from before packages were signed. */
  compared: z.boolean(),
  /** Certificates in it that were not printed again and compared: another version made them. */
  notPrinted: z.int(),
})
export type PackageTaken = z.output<typeof PackageTaken>
