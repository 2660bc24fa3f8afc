import { FAMILIES } from '@calm/core/family/index'
import { procedureName } from '@calm/core/today/usual-work'
import { usualTime, type UsualTime } from '@calm/core/plan/usual-time'
import { sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'

/** A longer pause between two events is a stop: somebody went elsewhere. */
const STOP_MIN = 30
/** So many of the newest runs are learnt from. */
const MOST_RUNS = 600

interface Took {
  readonly procedure: string
  readonly by: string
  readonly minutes: number
}

/**
 * How long verifications and procedures took here, from the times of their events: stops taken out, what took less than a minute is no
 * measure.
 */
async function tookOf(db: Executor): Promise<Took[]> {
  const { rows } = await db.execute<{
    kind: string | null
    ran: string | null
    by: string
    minutes: number
  }>(sql`
    with newest as (
      select r.id, r.started_by, r.started_at, l.summary ->> 'kind' as kind, r.procedure as ran
      from runs r join loops l on l.id = r.loop_id
      where r.state in ('ready', 'signed', 'countersigned') or (r.kind = 'procedure' and r.state = 'done')
      order by r.started_at desc limit ${MOST_RUNS}),
    steps as (
      select e.run_id, extract(epoch from e.at - lag(e.at) over (partition by e.run_id order by e.seq)) / 60 as gap
      from events e where e.run_id in (select id from newest) and e.type not in ('signed', 'returned', 'procedure.signed'))
    select n.kind, n.ran, n.started_by as by, round(sum(s.gap) filter (where s.gap between 0 and ${STOP_MIN}))::int as minutes
    from newest n join steps s on s.run_id = n.id group by n.id, n.kind, n.ran, n.started_by, n.started_at
    order by n.started_at`)
  const idOf = new Map<string | null, string>(FAMILIES.map((f) => [f.title, f.id]))
  return rows.flatMap(({ kind, ran, by, minutes }) => {
    const procedure = ran === null ? `verify ${idOf.get(kind) ?? 'loop'}` : procedureName(ran)
    return minutes >= 1 ? [{ procedure, by, minutes }] : []
  })
}

/** Usual time of a procedure for a person, or for anybody. */
export type Times = (
  procedure: string,
  standard_min: number,
  person: string | null,
) => UsualTime & { readonly runs: number }

/** The same as the plant's own runs tell it. */
export async function usualTimes(db: Executor): Promise<Times> {
  const all = await tookOf(db)
  return (procedure, standard, person) => {
    const these = all.filter((t) => t.procedure === procedure)
    const of = (own: boolean) => these.filter((t) => (t.by === person) === own).map((t) => t.minutes)
    return { ...usualTime(standard, of(false), of(true)), runs: these.length }
  }
}
