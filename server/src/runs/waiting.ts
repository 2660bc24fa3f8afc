import type { WaitingRecord } from '@calm/contract/signatures'
import type { Person } from '@calm/contract/people'
import { FAMILIES } from '@calm/core/family/index'
import { procedureOf } from '@calm/core/procedure/catalogue'
import { signaturesAsked } from '@calm/core/record/signing/asked'
import { canGive, waitsFor } from '@calm/core/record/signing/waits'
import type { Signature } from '@calm/core/signing/signature'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { people } from '../people/schema.ts'
import { loops, runs } from '../record/schema.ts'
import { plantRules } from '../settings/store.ts'

/** More than anybody signs in a day. */
const MOST = 500

/**
 * Verifications and procedures that wait for a signature, the newest first; first those that this person can give.
 * Archived loops wait for nothing.
 */
export async function waitingRecords(db: Database, person: Person): Promise<WaitingRecord[]> {
  const rules = await plantRules(db)
  const signatures = sql<readonly Signature[] | null>`${runs.folded} -> 'run' -> 'signatures'`
  const rows = await db
    .select({
      run: runs.id,
      kind: runs.kind,
      procedure: runs.procedure,
      state: runs.state,
      verdict: runs.verdict,
      startedAt: runs.startedAt,
      byName: people.shownName,
      signatures,
      loop: loops.tag,
      service: loops.service,
      area: loops.area,
      kindOfMeter: sql<string | null>`${loops.summary} ->> 'kind'`,
    })
    .from(runs)
    .innerJoin(loops, and(eq(loops.id, runs.loopId), isNull(loops.archivedAt)))
    .leftJoin(people, eq(people.id, runs.startedBy))
    .where(
      sql`(${runs.kind} = 'verification' and ${runs.state} in ('ready', 'signed', 'countersigned'))
        or (${runs.kind} = 'procedure' and jsonb_array_length(coalesce(${signatures}, '[]'::jsonb)) > 0)`,
    )
    .orderBy(desc(runs.startedAt))
  const waiting = rows.flatMap((r): WaitingRecord[] => {
    const kind = r.kind === 'procedure' ? 'procedure' : 'verification'
    const there = r.signatures ?? []
    const asked = signaturesAsked(rules, FAMILIES.find((f) => f.title === r.kindOfMeter)?.id ?? null)
    const waits = waitsFor({ kind, state: r.state }, there.length, asked)
    if (waits === null) return []
    return [
      {
        run: r.run,
        kind,
        title: kind === 'procedure' ? (procedureOf(r.procedure ?? '')?.title ?? 'Procedure') : 'Verification',
        verdict: r.verdict,
        loop: r.loop,
        service: r.service,
        area: r.area,
        startedAt: isoInstant(r.startedAt),
        byName: r.byName ?? 'somebody of another plant',
        there: there.length,
        asked,
        waitsFor: waits,
        mine: canGive(
          waits,
          person,
          r.area,
          there.map((s) => s.by),
        ),
      },
    ]
  })
  return [...waiting.filter((w) => w.mine), ...waiting.filter((w) => !w.mine)].slice(0, MOST)
}
