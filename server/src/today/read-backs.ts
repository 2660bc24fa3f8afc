import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import type { SheetLine } from '@calm/core/family/family'
import { factsOf } from '@calm/core/loop/facts'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { settingsReadBack } from '@calm/core/record/kinds/settings-read-back'
import { sheetWaits } from '@calm/core/today/sheet-waits'
import { sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'

interface Row extends Record<string, unknown> {
  readonly id: string
  readonly document: SavedLoopDocument
  readonly before: SavedLoopDocument
  readonly changed_on: string
  readonly seen: readonly { readonly on: string; readonly payload: unknown }[]
}
const sheetOf = (document: SavedLoopDocument): readonly SheetLine[] =>
  judgeSetUp(factsOf(currentLoopDocument(document)))?.sheet ?? []

/**
 * Loops whose device has to be read back again, with why: only those whose set-up changed since it was, or whose device
 * showed something else, are looked at.
 */
export async function readBacksWaiting(
  db: Executor,
  zone: string,
): Promise<Map<string, { readonly why: string; readonly since: string }>> {
  const { rows } = await db.execute<Row>(sql`
    select l.id, now.document, was.document as before, to_char(now.at at time zone ${zone}, 'YYYY-MM-DD') as changed_on,
      seen.times as seen
    from loops l
    join lateral (
      select jsonb_agg(jsonb_build_object('on', to_char(e.at at time zone ${zone}, 'YYYY-MM-DD'), 'payload', e.payload)
        order by e.seq) as times
      from events e where e.loop_id = l.id and e.type = ${settingsReadBack.type}) seen on seen.times is not null
    join loop_revisions now on now.loop_id = l.id and now.number = l.revision
    join loop_revisions was on was.loop_id = l.id and was.number = (seen.times -> 0 -> 'payload' ->> 'revision')::int
    where l.archived_at is null and (jsonb_path_exists(seen.times, '$[*].payload.lines[*] ? (@.same == false)')
        or ${sql.join(
          // What the sheet is worked out from.
          ['setUp', 'path', 'trips', 'family'].map(
            (part) => sql`now.document -> ${part}::text is distinct from was.document -> ${part}::text`,
          ),
          sql` or `,
        )})`)
  return new Map(
    rows.flatMap((r) => {
      const waits = sheetWaits({
        lines: sheetOf(r.document),
        before: sheetOf(r.before),
        readBacks: r.seen.flatMap(({ on, payload }) => {
          const told = settingsReadBack.payload.safeParse(payload)
          return told.success ? [{ on, lines: told.data.lines }] : []
        }),
        changedOn: r.changed_on,
      })
      return waits ? [[r.id, waits] as const] : []
    }),
  )
}
