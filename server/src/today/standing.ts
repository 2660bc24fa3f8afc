import { dayAfter } from '@calm/core/today/from-loop'
import type { KeptPlacing } from '@calm/core/today/day-problem'
import type { Executor } from '../db/connection.ts'
import { plansAround, type Kept } from './entries.ts'

/** The longest stretch that is planned at once, days. */
const LONGEST = 7
const LAST_DAY = '2199-12-31'

/** What stands for some days: each day by the newest plan that covers it. */
export interface Standing {
  readonly placings: readonly KeptPlacing[]
  readonly locked: readonly string[]
  /** The newest plan that has to do with these days; null: none was made. */
  readonly plan: Kept<'plan'> | null
}

const covers = (p: Kept<'plan'>, day: string) =>
  p.day !== null && p.day <= day && day < dayAfter(p.day, p.payload.days)

/** @param plans - the newest first */
export function standingOf(plans: readonly Kept<'plan'>[], day: string, days: number): Standing {
  const all = Array.from({ length: days }, (_, i) => dayAfter(day, i))
  const byDay = all.map((d) => [d, plans.find((p) => covers(p, d))] as const)
  const placings = byDay.flatMap(([d, p]) => p?.payload.placings.filter((x) => x.day === d) ?? [])
  const used = new Set(byDay.flatMap(([, p]) => (p ? [p] : [])))
  const locked = [...used].flatMap((p) => p.payload.locked)
  return {
    placings,
    locked: placings.map((p) => p.job).filter((key) => locked.includes(key)),
    plan: plans.find((p) => all.some((d) => covers(p, d))) ?? null,
  }
}

export const plansFor = (db: Executor, day: string, days: number): Promise<Kept<'plan'>[]> =>
  plansAround(db, dayAfter(day, -LONGEST), dayAfter(day, days - 1 + LONGEST))

/** Plans of these days and of every day from another one on. */
export const plansSince = (db: Executor, day: string, today: string): Promise<Kept<'plan'>[]> =>
  plansAround(db, dayAfter(day < today ? day : today, -LONGEST), LAST_DAY)

/** Every day from one on that some plan has to do with. */
export const plannedDays = (plans: readonly Kept<'plan'>[], from: string): string[] =>
  [
    ...new Set(
      plans.flatMap((p) => Array.from({ length: p.payload.days }, (_, i) => dayAfter(p.day ?? from, i))),
    ),
  ].filter((d) => d >= from)

/** What an undo of a plan goes back to: plans older than the one that it undoes. Null: there is nothing before. */
export function beforePlan(
  plans: readonly Kept<'plan'>[],
  plan: Kept<'plan'>,
): readonly Kept<'plan'>[] | null {
  // A plan that came of an undo stands for the one it went back to: another undo goes on from there.
  const of = plan.payload.how === 'undone' ? plan.payload.before : plan.id
  if (of === null) return null
  const at = plans.findIndex((p) => p.id === of)
  return at < 0 ? null : plans.slice(at + 1)
}
