import { z } from 'zod'
import { Sha256 } from './hash.ts'
import { defineKind } from './kind.ts'

/** Who works at a plant, as a package tells it. */
const Told = z.strictObject({
  id: z.uuid(),
  name: z.string(),
  shownName: z.string(),
  role: z.enum(['administrator', 'technician', 'reviewer', 'planner', 'viewer']),
})

/** Everything before this event came with a package; who took it in is this event's author. */
export const packageTaken = defineKind({
  type: 'package.taken',
  of: 'loop',
  payload: z.strictObject({
    /** How many events came, all of those before this one. */
    events: z.int().min(1),
    /** Hash of the last of them. */
    head: Sha256,
    /** SHA-256 of the file. */
    file: Sha256,
    madeAt: z.iso.datetime(),
    /** As the package told them: nobody here vouches for these names. */
    people: z.array(Told).max(500),
    /** Fingerprint of the key of the plant that signed the package; absent where none did. */
    plantKey: Sha256.optional(),
    /** Logs whose samples came along; those of large ones stay behind. */
    logs: z.array(z.uuid()).max(10_000).optional(),
  }),
  title: 'Package taken in',
  says: (p) =>
    `${p.events} events came with it, made ${p.madeAt.slice(0, 10)}${p.plantKey ? ` and signed by the plant with key ${p.plantKey.slice(0, 16)}` : ', signed by no plant'}. Names marked foreign are its word; nobody here vouches for them.`,
})
