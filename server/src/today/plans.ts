import { randomInt } from 'node:crypto'
import type { MakePlan, Place } from '@calm/contract/today'
import type { Person } from '@calm/contract/people'
import { isRefused } from '@calm/core/refused'
import { MOST_EXACT } from '@calm/core/plan/solve'
import { isLess } from '@calm/core/plan/cost'
import { moveInPlan, putWhereRoomIs, soundCost } from '@calm/core/plan/weigh'
import { planKept } from '@calm/core/record/plant-log/kinds/days'
import { dayOfStart, dayProblem, keptOf, placingsOf, type KeptPlacing } from '@calm/core/today/day-problem'
import type { PlanMade } from '@calm/core/today/entries'
import { dayAfter } from '@calm/core/today/from-loop'
import { instantOf, minuteIso, wallOf } from '@calm/core/today/wall-time'
import { sql } from 'drizzle-orm'
import type { z } from 'zod'
import type { Database, Executor } from '../db/connection.ts'
import { conflict, notFound, wrongValues } from '../http/problems.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { elsewhere, factsFor, situationOf, type Situation } from './day.ts'
import { keepEntry } from './entries.ts'
import { beforePlan, plansFor, standingOf } from './standing.ts'
import { solveDay } from './work.ts'

const EXACT_MS = 4_000
/** A later try begins elsewhere: it may find what the first one missed. */
const OTHER_SEEDS = 1_000_000

/** One at a time: of two who plan the same days at once the second is told. */
const hold = (tx: Executor) => tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm days'))`)

interface Stretch {
  readonly id: string
  readonly day: string
  readonly days: number
  readonly base: string | null
}
/** Keeps a plan over what it was made from. @throws HttpProblem 409 where somebody planned in between */
async function keepPlan(
  db: Database,
  { id, day, days, base }: Stretch,
  plan: Omit<PlanMade, 'before' | 'days'> & { readonly before?: string | null },
  person: Pick<Person, 'id'>,
  now: Date,
): Promise<void> {
  await db.transaction(async (tx) => {
    await hold(tx)
    const newest = standingOf(await plansFor(tx, day, days), day, days).plan
    if (newest?.id === id) return
    if ((newest?.id ?? null) !== base)
      throw conflict(
        `${newest?.byName ?? 'Somebody'} planned these days in the meantime. Look at that plan, then do it again.`,
      )
    const before = plan.before === undefined ? base : plan.before
    const noted = {
      kind: planKept,
      payload: { day, days, how: plan.how, jobs: plan.placings.length },
    }
    const payload = { ...plan, days, before }
    await keepEntry(tx, { id, kind: 'plan', day, subject: day, payload, noted }, person, now)
  })
}

/** Plans some days, or what is left of them. @throws HttpProblem 409, 503 */
export async function makePlan(
  db: Database,
  pool: Pool,
  m: z.output<typeof MakePlan>,
  person: Person,
  now: Date,
  gone: AbortSignal,
): Promise<void> {
  const s = await situationOf(db, m.day, m.days, now)
  if (dayAfter(m.day, m.days - 1) < wallOf(now.getTime(), s.zone).day)
    throw conflict('These days are over: nothing is planned into the past.')
  if (s.people.every((p) => !isThere(s, p.id)))
    throw conflict('Nobody is there on these days. Say who is there, then plan.')
  const facts = factsFor(s, m.how)
  const named = dayProblem(facts)
  const method = facts.jobs.length <= MOST_EXACT ? 'exact' : 'search'
  const milliseconds = method === 'exact' ? Math.max(EXACT_MS, m.milliseconds) : m.milliseconds
  const seed = s.standing.plan?.payload.worked ? randomInt(OTHER_SEEDS) : m.seed
  const told = resultOf(
    await pool.run(solveDay, { problem: named.problem, seed, method, milliseconds }, { signal: gone }),
  )
  if (!told) throw conflict('These days take too long to plan: plan fewer at once.')
  if (isRefused(told)) throw conflict(told.says)
  // Looked at again the plan that stands is taken back only for a better one.
  const stands = m.how === 'planned' ? soundCost(named.problem, placingsOf(named, s.standing.placings)) : null
  if (s.standing.plan?.payload.worked && stands && !isLess(told.cost, stands)) return
  // What is done, under way or stopped stays where it was: it happened.
  const open = new Set(facts.jobs.map((j) => j.key))
  const happened = s.standing.placings.filter(
    (p) => !open.has(p.job) && (s.progress.get(p.job)?.state ?? 'open') !== 'open',
  )
  const placings = [...happened, ...keptOf(named, told.placings)]
  const { unplaced, points } = told.cost
  await keepPlan(
    db,
    m,
    {
      how: m.how,
      placings,
      locked: s.standing.locked.filter((key) => placings.some((p) => p.job === key)),
      worked: { unplaced, points, bound: told.bound, proved: told.proved, seed, steps: told.steps },
    },
    person,
    now,
  )
}
const isThere = (s: Situation, person: string): boolean => {
  const i = s.people.findIndex((p) => p.id === person)
  return (dayProblem(factsFor(s, 'as it stands')).problem.people[i]?.turns ?? []).length > 0
}

const START = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}Z$/
/** Where a job is to be, and what that does to the others. @throws HttpProblem 409, 422 */
function placed(
  s: Situation,
  key: string,
  to: NonNullable<z.output<typeof Place>['to']>,
): readonly KeptPlacing[] {
  const was = s.standing.placings.find((p) => p.job === key)
  const others = s.standing.placings.filter((p) => p.job !== key)
  if ('room' in to) {
    const named = dayProblem(factsFor(s, 'as it stands'))
    const title = [...named.keyOf].find(([, k]) => k === key)?.[0] ?? ''
    const put = putWhereRoomIs(named.problem, placingsOf(named, others), title)
    if (!put) throw conflict('There is no room for it where all others are. Move one, or plan anew.')
    return keptOf(named, put)
  }
  const now = was ?? served(s, key, to.person)
  if ('start' in to) {
    if (!START.test(to.start) || Number.isNaN(Date.parse(to.start)))
      throw wrongValues([{ path: 'to.start', says: 'An instant to the whole minute, as 2026-11-24T06:00Z.' }])
    const name = s.people.find((p) => p.id === to.person)?.name ?? ''
    const day = dayOfStart(dayProblem(factsFor(s, 'as it stands')), name, to.start)
    if (day < s.day || day > dayAfter(s.day, s.days - 1))
      throw wrongValues([
        { path: 'to.start', says: 'It lies on another day than those that are planned here.' },
      ])
    return [...others, { ...now, person: to.person, start: to.start, day }]
  }
  const named = dayProblem(factsFor(s, 'as it stands'))
  const [moved] = placingsOf(named, [{ ...now, person: to.person }])
  const nameOf = (k: string | null) =>
    k === null ? null : ([...named.keyOf].find(([, x]) => x === k)?.[0] ?? null)
  if (!moved) throw notFound('job')
  const told = moveInPlan(named.problem, placingsOf(named, others), moved, {
    person: moved.person,
    after: nameOf(to.after),
    from: minuteIso(instantOf(to.day, '00:00', s.zone)),
  })
  if (isRefused(told)) throw wrongValues([{ path: told.where, says: told.says }])
  return keptOf(named, told)
}

/** Moves a job, takes it off, or fixes it where it is. @throws HttpProblem 404, 409, 422 */
export async function place(
  db: Database,
  m: z.output<typeof Place>,
  person: Person,
  now: Date,
): Promise<void> {
  const s = await situationOf(db, m.day, m.days, now)
  if (![...s.jobs, ...s.gone].some((j) => j.key === m.job)) throw notFound('job')
  const whose = m.to && 'person' in m.to ? m.to.person : null
  if (whose !== null && !s.people.some((p) => p.id === whose))
    throw wrongValues([{ path: 'to.person', says: 'Nobody of this name is planned on these days.' }])
  const other = elsewhere(s).get(m.job)
  if (m.to && other !== undefined) throw conflict(`It is planned on ${other}. Take it off there first.`)
  const was = s.standing.placings.find((p) => p.job === m.job)
  const placings = m.to ? placed(s, m.job, m.to) : s.standing.placings.filter((p) => p.job !== m.job)
  const is = placings.find((p) => p.job === m.job)
  const isLocked = m.locked ?? s.standing.locked.includes(m.job)
  const locked = [...s.standing.locked.filter((key) => key !== m.job), ...(isLocked && is ? [m.job] : [])]
  const isMoved = was?.start !== is?.start || was?.person !== is?.person
  await keepPlan(db, m, { how: isMoved ? 'moved' : 'agreed', placings, locked, worked: null }, person, now)
}

/** A placing of a job that had none: with the first instruments that serve, and the first other person as its helper. */
function served(s: Situation, key: string, person: string): KeptPlacing {
  const named = dayProblem(factsFor(s, 'as it stands'))
  const start = minuteIso(s.now.getTime())
  const bare = { job: key, person, helper: null, instruments: [], start, day: s.day }
  const told = placingsOf(named, [bare])
  const title = [...named.keyOf].find(([, k]) => k === key)?.[0]
  const needsHelp = named.problem.jobs.find((j) => j.id === title)?.helper != null
  const helper = needsHelp ? (s.people.find((p) => p.id !== person)?.id ?? null) : null
  return { ...(keptOf(named, told)[0] ?? bare), helper }
}

/** The plan before. @throws HttpProblem 409 */
export async function undoPlan(db: Database, m: Stretch, person: Person, now: Date): Promise<void> {
  const s = await situationOf(db, m.day, m.days, now)
  const { plan } = s.standing
  if (plan?.id === m.id) return
  if (!plan || plan.id !== m.base)
    throw conflict('These days were planned anew in the meantime. Look at that plan first.')
  const older = beforePlan(s.plans, plan)
  if (!older || plan.day === null) throw conflict('There is no plan before this one.')
  const { days } = plan.payload
  const back = standingOf(older, plan.day, days)
  await keepPlan(
    db,
    { id: m.id, day: plan.day, days, base: plan.id },
    {
      how: 'undone',
      placings: back.placings,
      locked: back.locked,
      worked: back.plan?.payload.worked ?? null,
      before: back.plan?.id ?? null,
    },
    person,
    now,
  )
}
