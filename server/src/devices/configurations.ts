import type { ConfigurationDifferences, KeepConfiguration, KeptConfiguration } from '@calm/contract/devices'
import { configurationKept } from '@calm/core/record/kinds/configuration-kept'
import type { Person } from '@calm/contract/people'
import { configurationChanges } from '@calm/core/device/configuration'
import { comparable, documentedConfiguration } from '@calm/core/record/configuration-compare'
import { and, desc, eq, inArray } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { conflict, notFound } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'
import { authorsOf } from '../record/authors.ts'
import { eventsOfKind } from '../record/events.ts'
import { events, runs } from '../record/schema.ts'
import type { DeviceLink } from './link.ts'
import { sayValue } from './say-value.ts'

/** Reads the device's configuration and keeps it in the loop's record. */
export async function keepConfiguration(
  db: Database,
  link: DeviceLink,
  loopId: string,
  { id, at, note }: KeepConfiguration,
  person: Person,
  now: number,
): Promise<boolean> {
  const [here] = await db.select({ type: events.type }).from(events).where(eq(events.id, id))
  // Sent again: what was read the first time stands.
  if (here?.type === configurationKept.type) return false
  const configuration = await link.configuration(loopId, now)
  if (!configuration) throw conflict('No link to the device: connect first, then keep its configuration.')
  const payload = { note, configuration }
  return appendOnce(db, loopId, { id, at, type: configurationKept.type, payload }, person, new Date(now))
}

/** Configurations in the record, newest first. */
export async function keptConfigurations(db: Database, loopId: string): Promise<KeptConfiguration[]> {
  const rows = (await eventsOfKind(db, loopId, configurationKept.type)).reverse()
  const { author, name } = await authorsOf(db, loopId)
  return rows.map((r) => ({
    id: r.id,
    at: r.at,
    byName: name(author(r.seq, r.by)),
    ...configurationKept.payload.parse(r.payload),
  }))
}

const inWords = (list: readonly { key: string; from: unknown; to: unknown }[]) =>
  list.map((c) => ({ key: c.key, from: sayValue(c.from), to: sayValue(c.to) }))

/** When the newest signed verification of a loop was begun; null without one. */
async function lastVerification(db: Database, loopId: string): Promise<string | null> {
  const [row] = await db
    .select({ at: runs.startedAt })
    .from(runs)
    .where(
      and(
        eq(runs.loopId, loopId),
        eq(runs.kind, 'verification'),
        inArray(runs.state, ['signed', 'countersigned']),
      ),
    )
    .orderBy(desc(runs.startedAt))
    .limit(1)
  return row ? isoInstant(row.at) : null
}

/** A kept configuration against the device, the documents, and what stood at the last verification. */
export async function configurationDifferences(
  db: Database,
  link: DeviceLink,
  loopId: string,
  id: string,
  now: number,
): Promise<ConfigurationDifferences> {
  const all = await keptConfigurations(db, loopId)
  const one = all.find((k) => k.id === id)
  if (!one) throw notFound('configuration')
  const device = await link.configuration(loopId, now)
  const documented = documentedConfiguration((await loopDetail(db, loopId)).document)
  const verifiedAt = await lastVerification(db, loopId)
  const then = verifiedAt === null ? undefined : all.find((k) => k.at <= verifiedAt)
  const told = then && comparable(then.configuration, one.configuration)
  return {
    device: device ? inWords(configurationChanges(one.configuration, device)) : null,
    record: documented ? inWords(configurationChanges(one.configuration, documented)) : [],
    verification:
      then && told
        ? {
            at: verifiedAt ?? then.at,
            verdict: told.verdict,
            changed: told.changed.map((c) => ({
              key: c.key,
              class: c.class,
              from: sayValue(c.before),
              to: sayValue(c.after),
            })),
          }
        : null,
  }
}
