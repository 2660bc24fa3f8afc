import { roleIn, worksAs, type Roled } from '../signing/roles.ts'
import { PlanProblem, type Placing } from '../plan/problem.ts'
import { dayAfter } from './from-loop.ts'
import { instrumentsForPlan, needForPlan, unitClasses, type PlantInstrument } from './instruments.ts'
import type { HelperNeed, Job } from './job.ts'
import { shiftOn, weekdayOf, type PlantAtWork, type Presence } from './plant-at-work.ts'
import { sayPlace, waysOf, type Place } from './place.ts'
import { minuteIso, spanOf, wallOf } from './wall-time.ts'

/** What was agreed or entered about a job, over what the record says. */
export interface JobWish {
  readonly minutes?: number | undefined
  readonly importance?: number | undefined
  /** In which the process can be taken out; instants. */
  readonly windows?: readonly { readonly from: string; readonly to: string }[] | undefined
  readonly helper?: HelperNeed | undefined
  /** Only these may do it. */
  readonly abilities?: readonly string[] | undefined
  readonly holds?:
    readonly { readonly at: number; readonly minutes: number; readonly role: string }[] | undefined
  readonly after?: readonly string[] | undefined
  /** Instruments come from elsewhere: the plant's own are not asked for. */
  readonly borrowed?: boolean | undefined
}
export interface PlannedJob extends Job {
  readonly wish: JobWish
  /** Usual minutes of it. */
  readonly minutes: number
}
export interface PlannedPerson extends Roled {
  readonly id: string
  readonly name: string
}

export interface DayFacts {
  readonly now: number
  readonly day: string
  readonly days: number
  readonly zone: string
  readonly plant: PlantAtWork
  readonly presences: readonly Presence[]
  readonly people: readonly PlannedPerson[]
  readonly jobs: readonly PlannedJob[]
  readonly instruments: readonly PlantInstrument[]
  readonly locked: readonly { readonly job: string; readonly person: string; readonly start: string }[]
  readonly told: readonly { readonly job: string; readonly person: string; readonly start: string }[]
  /** Who is at something until an instant, ms: nothing begins before. */
  readonly busy: readonly { readonly person: string; readonly until: number }[]
}

/** Who works only in some areas may do a job there; who works everywhere may do it in each. */
const inArea = (area: string) => `works in ${area}`
const RADIO_MIN = 5
const MINUTE_MS = 60_000

interface RoleHolder {
  readonly id: string
  readonly role: string
  readonly there: { from: string; to: string }[]
}
/**
 * Who releases hold points, by role: any of those who have it, on working days. A role that somebody asks for and nobody
 * has is there never: what waits for it is not planned, and says so.
 */
function holdersOf({ plant, jobs, zone }: DayFacts, days: readonly string[]): RoleHolder[] {
  const asked = jobs.flatMap((j) => (j.wish.holds ?? []).map((h) => h.role))
  return [...new Set([...plant.holders.map((h) => h.role), ...asked])].map((role) => {
    const own = plant.holders.filter((h) => h.role === role)
    const spans = days
      .filter((day) => plant.weekdays.includes(weekdayOf(day)))
      .flatMap((day) => own.map((h) => spanOf(day, h, zone)))
      .sort((a, b) => a.from - b.from)
    const there: { from: number; to: number }[] = []
    for (const span of spans) {
      const last = there.at(-1)
      if (last && span.from <= last.to) last.to = Math.max(last.to, span.to)
      else there.push({ ...span })
    }
    return {
      id: own.length === 0 ? role : own.map((h) => h.name).join(' or '),
      role,
      there: there.map((s) => ({ from: minuteIso(s.from), to: minuteIso(s.to) })),
    }
  })
}

/**
 * The planner's problem out of what a plant knows of its days. Names in it are those that people read: reasons and
 * broken rules are told in them.
 */
export function dayProblem(f: DayFacts): NamedProblem {
  const { plant, zone } = f
  const home: Place = { area: plant.home, floor: 0 }
  const places = [...new Map([home, ...f.jobs].map((x) => [sayPlace(x), x])).entries()]
  const areas = [...new Set([plant.home, ...f.jobs.map((j) => j.area)])]
  const days = Array.from({ length: f.days }, (_, i) => dayAfter(f.day, i))
  const endOf = (day: string) => minuteIso(spanOf(day, { from: '00:00', to: '23:59' }, zone).to)
  const needs = f.jobs.flatMap((j) => j.work.needs)
  const classes = unitClasses(needs)
  const highest = new Map<string, number>()
  for (const n of needs) {
    const told = needForPlan(classes, n)
    if (told) highest.set(told.unit, Math.max(highest.get(told.unit) ?? 0, told.hi))
  }
  const instruments = instrumentsForPlan(f.instruments, classes, highest)
  const titleOf = new Map(f.jobs.map((j) => [j.key, j.title]))
  const nameOf = new Map(f.people.map((p) => [p.id, p.name]))
  const asTold = (list: DayFacts['told']) =>
    list.flatMap((t) => {
      const [job, person] = [titleOf.get(t.job), nameOf.get(t.person)]
      return job !== undefined && person !== undefined ? [{ job, person, start: t.start }] : []
    })
  const holders = holdersOf(f, days)
  const problem = PlanProblem.parse({
    now: minuteIso(Math.ceil(f.now / MINUTE_MS) * MINUTE_MS),
    areas: places.map(([name]) => name),
    walk: waysOf(
      plant,
      places.map(([, x]) => x),
    ),
    people: f.people.map((p) => ({
      id: p.name,
      abilities: [
        ...(plant.abilities[p.id] ?? []),
        ...areas.filter((a) => a === plant.home || worksAs(roleIn(p, a))).map(inArea),
      ],
      turns: days.flatMap((day) => {
        const shift = shiftOn(plant, f.presences, p.id, day)
        if (!shift) return []
        const turn = spanOf(day, shift, zone)
        const until = Math.max(turn.from, ...f.busy.filter((b) => b.person === p.id).map((b) => b.until))
        const whole = { from: Math.ceil(until / MINUTE_MS) * MINUTE_MS, to: turn.to }
        if (whole.from >= whole.to) return []
        const breaks = shift.breaks
          .map((b) => {
            const s = spanOf(day, b, zone)
            // A break after midnight of a night turn is of the day after.
            return s.from < turn.from ? spanOf(dayAfter(day, 1), b, zone) : s
          })
          .filter((b) => b.from < whole.to && b.to > whole.from)
        return [
          {
            from: minuteIso(whole.from),
            to: minuteIso(whole.to),
            area: plant.home,
            breaks: breaks.map((b) => ({ from: minuteIso(b.from), to: minuteIso(b.to) })),
          },
        ]
      }),
    })),
    holders: holders.map(({ id, role, there }) => ({ id, role, there })),
    instruments: instruments.map((x) => ({
      id: x.id,
      kind: x.kind,
      unit: x.unit,
      lo: x.lo,
      hi: x.hi,
      u: x.u,
      certificateEnds: endOf(x.dueOn),
      area: plant.home,
    })),
    stock: plant.stock,
    jobs: f.jobs.map((j) => {
      const helper = j.wish.helper ?? j.work.helper
      const here = [inArea(j.area), ...(j.wish.abilities ?? [])]
      const half = Math.max(1, Math.min(RADIO_MIN, Math.floor(j.minutes / 2)))
      return {
        id: j.title,
        minutes: j.minutes,
        area: sayPlace(j),
        importance: j.wish.importance ?? j.importance,
        due: endOf(j.due),
        windows: j.wish.windows,
        abilities: here,
        helper:
          helper === 'none'
            ? null
            : helper === 'radio'
              ? { how: 'radio', abilities: [], begin: half, end: Math.min(half, j.minutes - half) }
              : { how: 'throughout', abilities: [inArea(j.area)] },
        instruments: (j.wish.borrowed === true ? [] : j.work.needs).flatMap(
          (n) => needForPlan(classes, n) ?? [],
        ),
        // What nobody counts is not held against the plan.
        uses: Object.fromEntries(Object.entries(j.work.uses).filter(([item]) => item in plant.stock)),
        kit: j.work.kit,
        setup: j.work.setup_min,
        after: [...j.after, ...(j.wish.after ?? [])].flatMap((key) => titleOf.get(key) ?? []),
        holds: (j.wish.holds ?? []).map((h) => ({
          at: h.at,
          minutes: h.minutes,
          person: holders.find((x) => x.role === h.role)?.id ?? h.role,
        })),
      }
    }),
    locked: asTold(f.locked),
    told: asTold(f.told),
  })
  return {
    problem,
    keyOf: new Map(f.jobs.map((j) => [j.title, j.key])),
    personOf: new Map(f.people.map((p) => [p.name, p.id])),
    registerOf: new Map(instruments.map((x) => [x.id, x.of])),
    zone,
  }
}

/** A placing as the plant keeps it: by keys, not by names. */
export interface KeptPlacing {
  readonly job: string
  readonly person: string
  readonly helper: string | null
  /** Instruments of the register. */
  readonly instruments: readonly string[]
  readonly start: string
  /** Whose day it is: that of the turn in which it begins, also after midnight. */
  readonly day: string
}

/** A problem with the way back from its names to the plant's keys. */
export interface NamedProblem {
  readonly problem: PlanProblem
  readonly keyOf: ReadonlyMap<string, string>
  readonly personOf: ReadonlyMap<string, string>
  /** Instruments of the register, by what the planner calls each of their uses. */
  readonly registerOf: ReadonlyMap<string, string>
  readonly zone: string
}

/** The day of the turn of somebody in which an instant lies; its own day where it lies in none. */
export function dayOfStart(n: Pick<NamedProblem, 'problem' | 'zone'>, person: string, start: string): string {
  const at = Date.parse(start)
  const turn = n.problem.people
    .find((p) => p.id === person)
    ?.turns.find((t) => Date.parse(t.from) <= at && at < Date.parse(t.to))
  return wallOf(turn ? Date.parse(turn.from) : at, n.zone).day
}

/** From names to keys. */
export function keptOf(n: NamedProblem, placings: readonly Placing[]): KeptPlacing[] {
  return placings.flatMap((p) => {
    const [job, person] = [n.keyOf.get(p.job), n.personOf.get(p.person)]
    if (job === undefined || person === undefined) return []
    const helper = p.helper === null ? null : (n.personOf.get(p.helper) ?? null)
    const instruments = [...new Set(p.instruments.flatMap((i) => n.registerOf.get(i) ?? []))]
    return [{ job, person, helper, instruments, start: p.start, day: dayOfStart(n, p.person, p.start) }]
  })
}

type JobOf = PlanProblem['jobs'][number]
type InstrumentOf = PlanProblem['instruments'][number]
/** What was taken for each need of a placing. */
export interface Taken {
  readonly need: JobOf['instruments'][number]
  /** Of those that were kept; null where it is gone. */
  readonly own: InstrumentOf | null
  /** The same, else any other that serves. */
  readonly used: InstrumentOf | null
}
/** Instruments for each need of a job, out of those that were kept for it. */
export function takenFor(n: NamedProblem, k: Pick<KeptPlacing, 'instruments'>, job: JobOf): Taken[] {
  const taken = new Set<string>()
  return job.instruments.map((need) => {
    const able = n.problem.instruments.filter((x) => x.kind === need.kind && !taken.has(x.id))
    const kept = able.filter((x) => k.instruments.includes(n.registerOf.get(x.id) ?? ''))
    const serves = (x: InstrumentOf) =>
      x.lo <= need.lo && x.hi >= need.hi && need.tolerance >= need.ratio * x.u
    const own = kept.find(serves) ?? kept[0] ?? null
    const used = own ?? able.find(serves) ?? null
    if (used) taken.add(used.id)
    return { need, own, used }
  })
}

/**
 * From keys to names; jobs and people that are no more are left out. Instruments are chosen for each need out of those
 * that were kept; where one is gone any other that serves.
 */
export function placingsOf(n: NamedProblem, kept: readonly KeptPlacing[]): Placing[] {
  const back = (m: ReadonlyMap<string, string>) => new Map([...m].map(([name, key]) => [key, name]))
  const [titles, names] = [back(n.keyOf), back(n.personOf)]
  return kept.flatMap((k) => {
    const [job, person] = [titles.get(k.job), names.get(k.person)]
    const told = n.problem.jobs.find((j) => j.id === job)
    if (job === undefined || person === undefined || !told) return []
    const instruments = takenFor(n, k, told).flatMap(({ used }) => (used ? [used.id] : []))
    const helper = k.helper === null ? null : (names.get(k.helper) ?? null)
    return [{ job, person, helper, instruments, start: k.start }]
  })
}

/** Whether a job would have to be done before itself, by whatever lies between. */
export function waitsForItself(
  jobs: readonly { readonly key: string; readonly after: readonly string[]; readonly wish: JobWish }[],
  key: string,
): boolean {
  const before = new Map(jobs.map((j) => [j.key, [...j.after, ...(j.wish.after ?? [])]]))
  const seen = new Set<string>()
  const open = [...(before.get(key) ?? [])]
  for (let k = open.pop(); k !== undefined; k = open.pop()) {
    if (k === key) return true
    if (seen.has(k)) continue
    seen.add(k)
    open.push(...(before.get(k) ?? []))
  }
  return false
}
