import { z } from 'zod'
import { About } from '../about.ts'
import { Health } from '../health.ts'
import { system } from './addresses.ts'
import { EVERYONE, type Endpoint } from './endpoint.ts'

export const systemApi = {
  [system.health]: {
    says: 'Whether database, writing, disk, backups and calculations are well',
    allow: 'anyone',
    answer: Health,
    also: 503,
  },
  [system.about]: { says: 'Which version runs here, and on what', allow: EVERYONE, answer: About },
  [system.description]: {
    says: 'This description',
    allow: 'anyone',
    answer: z.record(z.string(), z.unknown()),
  },
  [system.live]: {
    says: 'Tells what changed as it changes',
    allow: EVERYONE,
    answer: 'text/event-stream',
  },
} as const satisfies Readonly<Record<string, Endpoint>>
