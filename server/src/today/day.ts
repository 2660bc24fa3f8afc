import type { JobTold, PlanTold } from '@calm/contract/today'
import {
  dayProblem,
  placingsOf,
  type DayFacts,
  type KeptPlacing,
  type NamedProblem,
  type PlannedPerson,
} from '@calm/core/today/day-problem'
import { dayAfter } from '@calm/core/today/from-loop'
import { kitsOf, missingOf, substitutesOf } from '@calm/core/today/kit-list'
import type { Role } from '@calm/core/signing/roles'
import type { PlantInstrument } from '@calm/core/today/instruments'
import { shiftOn, type PlantAtWork, type Presence } from '@calm/core/today/plant-at-work'
import { toldApart } from '@calm/core/today/job'
import { foundBad, progressOf, speaksOf, type Progress } from '@calm/core/today/progress'
import { instantOf, minuteIso, wallOf } from '@calm/core/today/wall-time'
import { readEquipment } from '@calm/core/verify/equipment-spec'
import { asc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { allEquipment } from '../equipment/store.ts'
import { people as peopleTable } from '../people/schema.ts'
import { plantRules } from '../settings/store.ts'
import { marksOf, notesBetween, packed, packedBetween, presences, type Kept } from './entries.ts'
import { chanceTold, usualTold } from './chance.ts'
import { horizonOf, jobsGone, jobsUpTo } from './jobs.ts'
import { plantAtWork } from './plant.ts'
import { runsSince } from './runs-of-loops.ts'
import { plannedDays, plansSince, standingOf, type Standing } from './standing.ts'
import { usualTimes, type Times } from './usual-times.ts'
import type { Weigh } from './weigh.ts'

/** Notes of the shifts before are shown for so many days. */
const NOTES_DAYS = 3
/** More jobs are not planned at once: those of the least worth wait. */
export const MOST_JOBS = 300
const MINUTE_MS = 60_000

/** Everything that is known of some days before anything is planned. */
export interface Situation {
  readonly day: string
  readonly days: number
  readonly now: Date
  readonly zone: string
  readonly plant: PlantAtWork
  readonly presences: readonly Presence[]
  readonly people: readonly PlannedPerson[]
  readonly jobs: readonly JobTold[]
  /** In a plan, and asked for no more. */
  readonly gone: readonly JobTold[]
  readonly standing: Standing
  readonly plans: readonly Kept<'plan'>[]
  readonly instruments: readonly (PlantInstrument & { readonly serial: string })[]
  readonly progress: ReadonlyMap<string, Progress & { readonly bad: boolean }>
  readonly times: Times
  /** Of what is used up, so much is packed for these days, and out of the stock. */
  readonly packed: ReadonlyMap<string, number>
}

/** Technicians who are at work here, and whoever else was said to be there in these days. */
async function peopleFor(db: Executor, said: readonly Presence[]): Promise<PlannedPerson[]> {
  const rows = await db
    .select({
      id: peopleTable.id,
      name: peopleTable.shownName,
      areas: peopleTable.areas,
      areaRoles: peopleTable.areaRoles,
      role: peopleTable.role,
    })
    .from(peopleTable)
    .where(eq(peopleTable.state, 'active'))
    .orderBy(asc(peopleTable.shownName))
  const there = new Set(said.filter((p) => p.shift !== null).map((p) => p.person))
  const planned = rows
    .map((p) => ({ ...p, role: p.role as Role, areaRoles: p.areaRoles ?? {} }))
    .filter((p) => [p.role, ...Object.values(p.areaRoles)].includes('technician') || there.has(p.id))
    // Whoever is said to be there works, whatever the role; one by area stays as it is told.
    .map((p) => (Object.keys(p.areaRoles).length === 0 ? { ...p, role: 'technician' as const } : p))
  return toldApart(
    planned,
    (p) => p.name,
    (p, name) => ({ ...p, name }),
  )
}

async function instrumentsFor(db: Executor): Promise<Situation['instruments']> {
  const all = (await allEquipment(db)).filter((e) => !e.retired)
  const names = all.map((e) => e.name)
  const labelled = all.map((e) => {
    const isAlone = names.filter((n) => n === e.name).length === 1
    return { ...e, label: isAlone ? e.name : `${e.name}, ${e.serial}` }
  })
  return toldApart(
    labelled,
    (e) => e.label,
    (e, label) => ({ ...e, label }),
  ).map((e) => {
    const read = readEquipment(e)
    return {
      id: e.id,
      serial: e.serial,
      label: e.label,
      functions: read.kind === 'read' ? read.functions : [],
      dueOn: e.dueOn,
    }
  })
}

/** @param asked - the day; null: today by the plant's clock, or the next on which anybody is there */
export async function situationOf(
  db: Executor,
  asked: string | null,
  days: number,
  now: Date,
): Promise<Situation> {
  const { dates } = await plantRules(db)
  const zone = dates.timeZone
  const today = wallOf(now.getTime(), zone).day
  const plant = await plantAtWork(db)
  const said = [...(await presences(db, dayAfter(today, -1), dayAfter(asked ?? today, 21))).values()].flatMap(
    (e): Presence[] =>
      e.payload.usual || e.day === null ? [] : [{ person: e.subject, day: e.day, shift: e.payload.shift }],
  )
  const people = await peopleFor(db, said)
  const isAnyone = (d: string) => people.some((p) => shiftOn(plant, said, p.id, d) !== null)
  const next = Array.from({ length: 14 }, (_, i) => dayAfter(today, i)).find(isAnyone)
  const day = asked ?? next ?? today
  const lastDay = dayAfter(day, days - 1)
  const plans = await plansSince(db, day, today)
  const standing = standingOf(plans, day, days)
  const times = await usualTimes(db)
  const all = (await jobsUpTo(db, today, horizonOf(lastDay), { home: plant.home, zone }, times)).filter(
    (j) => (j.wish.notBefore ?? '') <= lastDay,
  )
  const keys = new Set(all.map((j) => j.key))
  const gone = await jobsGone(
    db,
    standing.placings.map((p) => p.job).filter((k) => !keys.has(k)),
    times,
  )
  const known = [...all, ...gone]
  const begins = new Date(instantOf(day, '00:00', zone))
  const ends = new Date(instantOf(dayAfter(lastDay, 1), '12:00', zone))
  const loopIds = known.flatMap((j) => j.loop?.id ?? [])
  const byLoop = await runsSince(db, [...new Set(loopIds)], begins, ends)
  const marks = await marksOf(db, [...known.map((j) => j.key)])
  const progress = new Map(
    known.map((j) => {
      const own = j.loop === null ? [] : (byLoop.get(j.loop.id) ?? []).filter((r) => speaksOf(r, j))
      const said = marks
        .filter((m) => m.subject === j.key && (m.day ?? '') >= day && (m.day ?? '') <= lastDay)
        .map((m) => ({ ...m.payload, at: m.at, byName: m.byName }))
      return [j.key, { ...progressOf(own, said, !keys.has(j.key), j), bad: own.some(foundBad) }] as const
    }),
  )
  return {
    ...{ day, days, now, zone, plant, people, plans, standing, gone, progress, times },
    packed: packedOf([...(await packedBetween(db, day, lastDay)).values()]),
    presences: said,
    jobs: all,
    instruments: await instrumentsFor(db),
  }
}

const takenOf = (tick: Kept<'packed'> | undefined): number =>
  tick?.payload.packed === true ? (tick.payload.takes ?? 0) : 0
/** A person's identifier and a blank go before what is packed. */
const BEFORE_WHAT = 37
function packedOf(ticks: readonly Kept<'packed'>[]): Map<string, number> {
  const out = new Map<string, number>()
  for (const t of ticks) {
    const item = t.subject.slice(BEFORE_WHAT)
    out.set(item, (out.get(item) ?? 0) + takenOf(t))
  }
  return out
}

/** What the jobs of some days may use up: what lies in stock, and what is packed for them and not used up yet. */
function stockFor(s: Situation, asItStands: boolean): PlantAtWork['stock'] {
  const byKey = new Map([...s.jobs, ...s.gone].map((j) => [j.key, j]))
  const over = asItStands
    ? []
    : s.standing.placings.flatMap((p) => (isOpen(s, p.job) ? [] : (byKey.get(p.job) ?? [])))
  const usedUp = (item: string) => over.reduce((n, j) => n + (j.work.uses[item] ?? 0), 0)
  return Object.fromEntries(
    Object.entries(s.plant.stock).map(([item, left]) => [
      item,
      left + Math.max(0, (s.packed.get(item) ?? 0) - usedUp(item)),
    ]),
  )
}

const VALUE = [1, 2, 4, 8, 16]
/** Jobs that wait to be planned: not done, not under way, and of the rest those of the greatest worth. */
function waiting(s: Situation): JobTold[] {
  const worth = (j: JobTold) => VALUE[(j.wish.importance ?? j.importance) - 1] ?? 0
  return s.jobs
    .filter((j) => ['open', 'begun'].includes(s.progress.get(j.key)?.state ?? 'open'))
    .sort((a, b) => worth(b) - worth(a) || a.due.localeCompare(b.due) || a.title.localeCompare(b.title))
    .slice(0, MOST_JOBS)
}

/** Jobs that other days have already are theirs. */
export function elsewhere(s: Situation): ReadonlyMap<string, string> {
  const today = wallOf(s.now.getTime(), s.zone).day
  const others = plannedDays(s.plans, today).filter((d) => d < s.day || d >= dayAfter(s.day, s.days))
  return new Map(others.flatMap((d) => standingOf(s.plans, d, 1).placings.map((p) => [p.job, d] as const)))
}

/** The days as the planner asks for them. */
export function factsFor(s: Situation, mode: 'as it stands' | 'planned' | 'from now'): DayFacts {
  const others = elsewhere(s)
  const stands = new Map(s.standing.placings.map((p) => [p.job, p]))
  const asItStands = mode === 'as it stands'
  const jobs = asItStands
    ? [...s.jobs.filter((j) => stands.has(j.key) || (!others.has(j.key) && isOpen(s, j.key))), ...s.gone]
    : waiting(s).filter((j) => !others.has(j.key) && s.progress.get(j.key)?.state !== 'begun')
  const keys = new Set(jobs.map((j) => j.key))
  const kept = s.standing.placings.filter((p) => keys.has(p.job))
  // What stands is judged as of when the first of it begins: its beginning is not too late because it is past.
  const begins = instantOf(s.day, '00:00', s.zone)
  const now = asItStands ? begins : Math.max(s.now.getTime(), begins)
  return {
    now,
    ...{ day: s.day, days: s.days, zone: s.zone, presences: s.presences },
    plant: { ...s.plant, stock: stockFor(s, asItStands) },
    people: s.people,
    jobs,
    instruments: s.instruments,
    locked: asItStands
      ? []
      : kept.filter((p) => s.standing.locked.includes(p.job) && Date.parse(p.start) >= now),
    told: mode === 'from now' ? kept : [],
    busy: mode === 'from now' ? busyOf(s) : [],
  }
}
const isOpen = (s: Situation, key: string) => (s.progress.get(key)?.state ?? 'open') === 'open'

/** Who is at a job that was begun and is not done: until it usually ends. */
function busyOf(s: Situation): DayFacts['busy'] {
  return s.standing.placings.flatMap((p) => {
    const progress = s.progress.get(p.job)
    const job = s.jobs.find((j) => j.key === p.job)
    if (progress?.state !== 'begun' || progress.at === null || !job) return []
    const until = Math.max(Date.parse(progress.at) + job.minutes * MINUTE_MS, s.now.getTime() + 5 * MINUTE_MS)
    return [p.person, ...(p.helper === null ? [] : [p.helper])].map((person) => ({ person, until }))
  })
}

/** The plan of some days as it is told: judged as it stands, with its kit, and how far it is. */
export async function planTold(
  db: Executor,
  weigh: Weigh,
  s: Situation,
  gone: AbortSignal,
): Promise<PlanTold> {
  const facts = factsFor(s, 'as it stands')
  const named = dayProblem(facts)
  const placings = placingsOf(named, s.standing.placings)
  const weighed = await weigh(named.problem, placings, s.zone, s.standing.plan !== null, gone)
  const keyOf = (title: string | null) => (title === null ? null : (named.keyOf.get(title) ?? null))
  const reasonOf = new Map(weighed.reasons.map((r) => [r.job, r]))
  const jobs = [...s.jobs, ...s.gone]
  const byKey = new Map(jobs.map((j) => [j.key, j]))
  const lastDay = dayAfter(s.day, s.days - 1)
  const ticks = await packed(db, s.day)
  const kits = kitsOf(s.standing.placings, jobs, s.instruments)
  const { plan } = s.standing
  return {
    day: s.day,
    days: s.days,
    now: s.now.toISOString(),
    zone: s.zone,
    people: s.people.map((p, i) => ({
      id: p.id,
      name: p.name,
      turns: turnsOf(named, i, s.zone).map((t) => ({
        ...t,
        chance: chanceTold(s, named, weighed.leaves, p.id, t),
      })),
      usual: usualTold(s, jobs, p.id),
    })),
    jobs,
    elsewhere: [...elsewhere(s)].map(([job, day]) => ({ job, day })),
    placings: s.standing.placings.flatMap((p) => {
      const job = byKey.get(p.job)
      return job ? [placingTold(p, job, s, weighed.leaves[job.title], reasonOf.get(job.title)?.says)] : []
    }),
    left: weighed.reasons.flatMap((r) => {
      const key = r.placed ? null : keyOf(r.job)
      return key !== null && isOpen(s, key) ? [{ job: key, says: r.says, lift: r.lift ?? null }] : []
    }),
    broken: weighed.broken.map((b) => ({ job: keyOf(b.job), says: b.says })),
    made: plan && {
      id: plan.id,
      at: plan.at,
      byName: plan.byName,
      how: plan.payload.how,
      worked: plan.payload.worked,
      mayUndo: plan.payload.how !== 'undone' || plan.payload.before !== null,
    },
    progress: jobs.map((j) => {
      const { state, says, at, byName, bad } = s.progress.get(j.key) ?? {
        ...{ state: 'open' as const, says: '', at: null, byName: '', bad: false },
      }
      return { job: j.key, state, says, at, byName, bad }
    }),
    kits: kits.map((k) => ({
      person: k.person,
      instruments: k.instruments.map((x) => ({ ...x, shared: [...x.shared] })),
      tools: k.tools.map((x) => ({ ...x, shared: [] })),
      uses: k.uses.map((u) => ({
        ...u,
        stock: s.plant.stock[u.item] ?? null,
        packed: takenOf(ticks.get(`${k.person} ${u.item}`)),
      })),
      packed: [...ticks.values()]
        .filter((t) => t.payload.packed && t.subject.startsWith(k.person))
        .map((t) => t.subject.slice(BEFORE_WHAT)),
    })),
    missing: [
      ...substitutesOf(
        named,
        s.standing.placings.filter((p) => isOpen(s, p.job)),
      ),
      ...missingOf(named, facts.jobs, minuteIso(instantOf(lastDay, '18:00', s.zone))),
    ],
    notes: (await notesBetween(db, dayAfter(s.day, -NOTES_DAYS), lastDay)).map((n) => ({
      id: n.id,
      area: n.payload.area,
      says: n.payload.says,
      at: n.at,
      byName: n.byName,
    })),
  }
}

function turnsOf(named: NamedProblem, person: number, zone: string) {
  return (named.problem.people[person]?.turns ?? []).map((t) => ({
    day: wallOf(Date.parse(t.from), zone).day,
    from: t.from,
    to: t.to,
    breaks: t.breaks.map((b) => ({ from: b.from, to: b.to })),
  }))
}

const placingTold = (
  p: KeptPlacing,
  job: JobTold,
  s: Situation,
  leaves: string | undefined,
  says: string | undefined,
): PlanTold['placings'][number] => ({
  job: p.job,
  person: p.person,
  helper: p.helper,
  instruments: p.instruments.map(
    (i) => s.instruments.find((x) => x.id === i)?.label ?? 'an instrument that is no more',
  ),
  start: p.start,
  day: p.day,
  end: minuteIso(Date.parse(p.start) + job.minutes * MINUTE_MS),
  leaves: leaves ?? p.start,
  locked: s.standing.locked.includes(p.job),
  says: says ?? '',
})
