import { LoopPackage } from '@calm/contract/loop-package'
import type { PayloadOf } from '@calm/core/record/kinds/kind'
import { packageTaken } from '@calm/core/record/kinds/package-taken'
import { eq, inArray } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { equipmentByIds, particulars } from '../equipment/store.ts'
import { loopRevisions, loops } from '../record/schema.ts'
import { people, personKeys } from '../people/schema.ts'
import { eventsOfLoop } from '../record/events.ts'
import { runs } from '../record/schema.ts'
import { newestDescriptions } from '../sensors/store.ts'
import { notFound } from '../http/problems.ts'

/** Identifiers of the instruments that a record names. */
const instrumentsOf = (payloads: readonly unknown[]): string[] => [
  ...new Set(
    payloads.flatMap((p) => {
      const told = (p as { equipment?: unknown } | null)?.equipment
      return Array.isArray(told) ? told.filter((x): x is string => typeof x === 'string') : []
    }),
  ),
]

/** The sensor that a set-up has. */
function sensorsOf(document: unknown): string[] {
  const id = (document as { setUp?: { sensor?: unknown } | null } | undefined)?.setUp?.sensor
  return typeof id === 'string' ? [id] : []
}

/** Everything a loop is made of, from the database. */
export async function contentsOf(db: Executor, loopId: string): Promise<LoopPackage> {
  const [loop] = await db.select({ id: loops.id, tag: loops.tag }).from(loops).where(eq(loops.id, loopId))
  if (!loop) throw notFound('loop')
  const revisions = await db
    .select()
    .from(loopRevisions)
    .where(eq(loopRevisions.loopId, loopId))
    .orderBy(loopRevisions.number)
  const events = await eventsOfLoop(db, loopId)
  const begun = await db.select().from(runs).where(eq(runs.loopId, loopId)).orderBy(runs.startedAt)
  const who = [...new Set([...events.map((e) => e.by), ...revisions.map((r) => r.by)])]
  const known = await db
    .select({ id: people.id, name: people.name, shownName: people.shownName, role: people.role })
    .from(people)
    .where(inArray(people.id, who))
  const keys = await db.select().from(personKeys).where(inArray(personKeys.personId, who))
  // Who came with a package and is nobody here goes on as that package told them.
  const foreign = events
    .flatMap((e) =>
      e.type === packageTaken.type ? (e.payload as PayloadOf<typeof packageTaken>).people : [],
    )
    .filter((p, i, all) => who.includes(p.id) && all.findIndex((x) => x.id === p.id) === i)
    .filter((p) => !known.some((k) => k.id === p.id))
  const sensors = await newestDescriptions(db, sensorsOf(revisions.at(-1)?.document))
  return LoopPackage.parse({
    loop,
    revisions: revisions.map((r) => ({
      number: r.number,
      document: r.document,
      by: r.by,
      at: isoInstant(r.at),
      reason: r.reason,
    })),
    runs: begun.map((r) => ({
      id: r.id,
      kind: r.kind,
      procedure: r.procedure,
      revision: r.revision,
      startedAt: isoInstant(r.startedAt),
      startedBy: r.startedBy,
    })),
    events: events.map(({ id, runId, seq, type, at, recordedAt, form, by, payload, previous, hash }) => ({
      id,
      loopId,
      runId,
      seq,
      type,
      at,
      recordedAt,
      form,
      by,
      payload,
      previous,
      hash,
    })),
    people: [...known, ...foreign],
    keys: keys.map((k) => ({
      fingerprint: k.fingerprint,
      personId: k.personId,
      publicKey: k.publicKey,
      from: isoInstant(k.from),
      until: k.until && isoInstant(k.until),
    })),
    ...(sensors.length > 0 && { sensors }),
    equipment: (await equipmentByIds(db, instrumentsOf(events.map((e) => e.payload)))).map(particulars),
  })
}
