import { z } from 'zod'
import { refused, type Refused } from '../refused.ts'

/** An instant on the wire: ISO 8601 to the whole minute, with Z or an offset. Inside: minutes since 1970. */
const MINUTE = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}(?::00(?:\.0+)?)?(?:Z|[+-]\d{2}:\d{2})$/
const Instant = z
  .string()
  .regex(MINUTE, 'An instant to the whole minute, with Z or an offset, as 2026-11-24T06:00Z.')
  .refine((t) => !Number.isNaN(Date.parse(t)), { message: 'There is no such day or time.' })
const Span = z
  .strictObject({ from: Instant, to: Instant })
  .refine((s) => Date.parse(s.from) < Date.parse(s.to), {
    path: ['to'],
    message: 'It must end after it begins.',
  })
const Minutes = z.int().positive('At least a minute.').max(100_000)
const NotNegative = z.int().min(0, 'Not below 0.').max(100_000)
const Word = z.string().trim().min(1).max(120)
const Words = z.array(Word).max(60).default([])
const Ratio = z.number().min(0).max(1000)
const Uses = z.record(z.string().max(60), z.number().min(0).max(1e9)).default({})

const Need = z.strictObject({
  kind: Word,
  unit: z.string().max(40),
  lo: z.number(),
  hi: z.number(),
  tolerance: z.number().min(0),
  ratio: Ratio,
})
const Helper = z.discriminatedUnion('how', [
  z.strictObject({ how: z.literal('throughout'), abilities: Words }),
  z.strictObject({ how: z.literal('radio'), abilities: Words, begin: NotNegative, end: NotNegative }),
])
const Weight = z.int().min(0, 'Not below 0.').max(1_000_000)
const Weights = z.strictObject({
  walk: Weight.default(4),
  setup: Weight.default(3),
  wait: Weight.default(1),
  spread: Weight.default(2),
  otherPerson: Weight.default(60),
  reversed: Weight.default(30),
  later: Weight.default(1),
  dropped: Weight.default(120),
})
export type Weights = z.output<typeof Weights>

/** A day to be planned. No local time enters here: whoever asks has made instants of clock times. */
export const PlanProblem = z.strictObject({
  now: Instant,
  areas: z.array(Word).min(1).max(60),
  walk: z.array(z.array(NotNegative)).max(60),
  people: z
    .array(
      z.strictObject({
        id: Word,
        abilities: Words,
        turns: z
          .array(
            z
              .strictObject({
                from: Instant,
                to: Instant,
                area: Word,
                breaks: z.array(Span).max(12).default([]),
              })
              .refine((t) => Date.parse(t.from) < Date.parse(t.to), {
                path: ['to'],
                message: 'It must end after it begins.',
              }),
          )
          .max(20),
      }),
    )
    .max(60),
  holders: z
    .array(z.strictObject({ id: Word, role: z.string().max(120).default(''), there: z.array(Span).max(40) }))
    .max(60)
    .default([]),
  instruments: z
    .array(
      z.strictObject({
        id: Word,
        kind: Word,
        unit: z.string().max(40),
        lo: z.number(),
        hi: z.number(),
        u: z.number().min(0),
        certificateEnds: Instant.nullable().default(null),
        area: Word,
        away: z.array(Span).max(40).default([]),
      }),
    )
    .max(200)
    .default([]),
  stock: Uses,
  jobs: z
    .array(
      z.strictObject({
        id: Word,
        minutes: Minutes,
        area: Word,
        importance: z.int().min(1).max(5),
        due: Instant,
        earliest: Instant.nullish(),
        latest: Instant.nullish(),
        windows: z.array(Span).max(40).nullish(),
        abilities: Words,
        helper: Helper.nullish(),
        instruments: z.array(Need).max(8).default([]),
        uses: Uses,
        kit: Word.nullable().default(null),
        setup: NotNegative.default(0),
        after: Words,
        holds: z
          .array(z.strictObject({ at: NotNegative, minutes: Minutes, person: Word }))
          .max(20)
          .default([]),
      }),
    )
    .max(400),
  locked: z
    .array(z.strictObject({ job: Word, person: Word, helper: Word.nullish(), start: Instant }))
    .max(400)
    .default([]),
  told: z
    .array(z.strictObject({ job: Word, person: Word, start: Instant }))
    .max(400)
    .default([]),
  weights: Weights.default(Weights.parse({})),
})
export type PlanProblem = z.output<typeof PlanProblem>

export const PlacingSchema = z.strictObject({
  job: z.string().max(120),
  person: z.string().max(120),
  helper: z.string().max(120).nullable().default(null),
  instruments: z.array(z.string().max(120)).max(20).default([]),
  start: Instant,
})
export type Placing = z.output<typeof PlacingSchema>

/** From..to in minutes, half open. */
export interface Interval {
  readonly from: number
  readonly to: number
}
export interface Turn extends Interval {
  readonly person: number
  /** From when anything can be done in it. */
  readonly start: number
  readonly area: number
  readonly breaks: readonly Interval[]
  /** Where work can lie: from `start` on, without the breaks. */
  readonly pieces: readonly Interval[]
}
export interface NeedOf {
  readonly kind: string
  readonly unit: string
  readonly lo: number
  readonly hi: number
  readonly tolerance: number
  readonly ratio: number
}
export interface InstrumentOf {
  readonly id: string
  readonly kind: string
  readonly unit: string
  readonly lo: number
  readonly hi: number
  readonly u: number
  /** Minutes; Infinity: no end. */
  readonly certificateEnds: number
  readonly area: number
  readonly away: readonly Interval[]
  /** Where it can be used: not away, its certificate not ended. */
  readonly free: readonly Interval[]
}
export interface JobOf {
  readonly id: string
  readonly minutes: number
  readonly area: number
  readonly due: number
  readonly value: number
  readonly earliest: number
  readonly latest: number
  /** null: any time. */
  readonly windows: readonly Interval[] | null
  readonly abilities: readonly string[]
  readonly helper:
    | { readonly how: 'throughout'; readonly abilities: readonly string[] }
    | {
        readonly how: 'radio'
        readonly abilities: readonly string[]
        readonly begin: number
        readonly end: number
      }
    | null
  readonly needs: readonly NeedOf[]
  readonly uses: Readonly<Record<string, number>>
  readonly kit: string | null
  readonly setup: number
  readonly after: readonly number[]
  readonly holds: readonly { readonly at: number; readonly minutes: number; readonly holder: number }[]
  readonly lock: { readonly person: number; readonly helper: number | null; readonly start: number } | null
  readonly told: { readonly person: number; readonly start: number } | null
}

/** A problem with names made numbers and ways closed under shortest paths. */
export interface Day {
  readonly now: number
  readonly areas: readonly string[]
  readonly walk: readonly (readonly number[])[]
  readonly people: readonly {
    readonly id: string
    readonly abilities: ReadonlySet<string>
    readonly capacity: number
  }[]
  readonly turns: readonly Turn[]
  readonly holders: readonly {
    readonly id: string
    readonly role: string
    readonly there: readonly Interval[]
  }[]
  readonly instruments: readonly InstrumentOf[]
  readonly stock: Readonly<Record<string, number>>
  readonly jobs: readonly JobOf[]
  readonly weights: Weights
}

export const minuteOf = (iso: string): number => Date.parse(iso) / 60_000
export const isoOf = (minute: number): string =>
  new Date(minute * 60_000).toISOString().replace(':00.000Z', 'Z')
const interval = (s: { from: string; to: string }): Interval => ({
  from: minuteOf(s.from),
  to: minuteOf(s.to),
})

/** An interval without some others. */
export function without(whole: Interval, holes: readonly Interval[]): Interval[] {
  let left: Interval[] = whole.from < whole.to ? [whole] : []
  for (const h of holes)
    left = left.flatMap((p) =>
      h.to <= p.from || h.from >= p.to
        ? [p]
        : [
            { from: p.from, to: h.from },
            { from: h.to, to: p.to },
          ].filter((x) => x.from < x.to),
    )
  return left.sort((a, b) => a.from - b.from)
}

/** Ways closed under shortest paths: nobody walks round where there is a nearer way. */
function closed(walk: readonly (readonly number[])[]): number[][] {
  const d = walk.map((row, i) => row.map((x, j) => (i === j ? 0 : x)))
  const n = d.length
  for (let k = 0; k < n; k++)
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) {
        const round = (d[i]?.[k] ?? 0) + (d[k]?.[j] ?? 0)
        const row = d[i]
        if (row && round < (row[j] ?? 0)) row[j] = round
      }
  return d
}

const IMPORTANCE = [1, 2, 4, 8, 16]
const DAY = 1440

/** A job's worth: its importance, more for each day that it is late already. */
export const valueOf = (importance: number, due: number, now: number): number =>
  (IMPORTANCE[importance - 1] ?? 0) * (10 + Math.min(30, Math.max(0, Math.floor((now - due) / DAY))))

/** Makes a problem ready to be worked with. @returns what is wrong with it, with its path */
export function dayOf(p: PlanProblem): Day | Refused {
  const no = (says: string, where: string) => refused(says, where, 'PLAN')
  const now = minuteOf(p.now)
  if (p.walk.length !== p.areas.length || p.walk.some((r) => r.length !== p.areas.length))
    return no(`The ways between ${p.areas.length} areas are a table of as many rows and columns.`, 'walk')
  const index = (list: readonly { readonly id: string }[]) => new Map(list.map((x, i) => [x.id, i]))
  const [areaAt, personAt, holderAt, jobAt] = [
    new Map(p.areas.map((a, i) => [a, i])),
    index(p.people),
    index(p.holders),
    index(p.jobs),
  ]
  for (const [list, at, path] of [
    [p.areas, areaAt, 'areas'],
    [p.people, personAt, 'people'],
    [p.holders, holderAt, 'holders'],
    [p.jobs, jobAt, 'jobs'],
    [p.instruments, index(p.instruments), 'instruments'],
  ] as const)
    if (at.size !== list.length) return no('Each name may stand once.', path)
  const turns: Turn[] = []
  for (const [i, person] of p.people.entries()) {
    const own: Turn[] = []
    for (const [k, t] of person.turns.entries()) {
      const area = areaAt.get(t.area)
      if (area === undefined) return no(`There is no area ${t.area}.`, `people.${i}.turns.${k}.area`)
      const { from, to } = interval(t)
      if (own.some((o) => from < o.to && o.from < to))
        return no('Turns of one person overlap.', `people.${i}.turns.${k}`)
      const [start, breaks] = [Math.max(from, now), t.breaks.map(interval)]
      own.push({ person: i, from, to, start, area, breaks, pieces: without({ from: start, to }, breaks) })
    }
    turns.push(...own)
  }
  const instruments: InstrumentOf[] = []
  for (const [i, x] of p.instruments.entries()) {
    const area = areaAt.get(x.area)
    if (area === undefined) return no(`There is no area ${x.area}.`, `instruments.${i}.area`)
    const certificateEnds = x.certificateEnds === null ? Infinity : minuteOf(x.certificateEnds)
    const away = x.away.map(interval)
    const free = without({ from: -Infinity, to: certificateEnds }, away)
    instruments.push({ ...x, certificateEnds, area, away, free })
  }
  const locks = new Map<string, NonNullable<JobOf['lock']>>()
  for (const [i, l] of p.locked.entries()) {
    const person = personAt.get(l.person)
    const helper = l.helper === null || l.helper === undefined ? null : personAt.get(l.helper)
    if (!jobAt.has(l.job)) return no(`There is no job ${l.job}.`, `locked.${i}.job`)
    if (person === undefined) return no(`There is no person ${l.person}.`, `locked.${i}.person`)
    if (helper === undefined) return no(`There is no person ${l.helper ?? ''}.`, `locked.${i}.helper`)
    if (locks.has(l.job)) return no(`${l.job} is locked twice.`, `locked.${i}.job`)
    locks.set(l.job, { person, helper, start: minuteOf(l.start) })
  }
  const told = new Map<string, NonNullable<JobOf['told']>>()
  for (const [i, t] of p.told.entries()) {
    const person = personAt.get(t.person)
    if (!jobAt.has(t.job)) return no(`There is no job ${t.job}.`, `told.${i}.job`)
    if (person === undefined) return no(`There is no person ${t.person}.`, `told.${i}.person`)
    told.set(t.job, { person, start: minuteOf(t.start) })
  }
  const jobs: JobOf[] = []
  for (const [i, j] of p.jobs.entries()) {
    const at = (path: string) => `jobs.${i}.${path}`
    const area = areaAt.get(j.area)
    if (area === undefined) return no(`There is no area ${j.area}.`, at('area'))
    const after: number[] = []
    for (const [k, a] of j.after.entries()) {
      const before = jobAt.get(a)
      if (before === undefined) return no(`There is no job ${a}.`, at(`after.${k}`))
      after.push(before)
    }
    const holds: JobOf['holds'][number][] = []
    for (const [k, h] of j.holds.entries()) {
      const holder = holderAt.get(h.person)
      if (holder === undefined)
        return no(`There is nobody ${h.person} who releases hold points.`, at(`holds.${k}.person`))
      holds.push({ at: h.at, minutes: h.minutes, holder })
    }
    const h = j.helper ?? null
    if (h?.how === 'radio' && (h.begin + h.end > j.minutes || h.begin + h.end === 0))
      return no('The helper’s parts must fit into the job, and one of them must last.', at('helper'))
    const windows = j.windows && j.windows.length > 0 ? j.windows.map(interval) : null
    const due = minuteOf(j.due)
    jobs.push({
      id: j.id,
      minutes: j.minutes,
      area,
      due,
      value: valueOf(j.importance, due, now),
      earliest: j.earliest ? minuteOf(j.earliest) : -Infinity,
      latest: j.latest ? minuteOf(j.latest) : Infinity,
      windows: windows ? [...windows].sort((a, b) => a.from - b.from) : null,
      abilities: j.abilities,
      helper: h,
      needs: j.instruments,
      uses: j.uses,
      kit: j.kit,
      setup: j.setup,
      after,
      holds,
      lock: locks.get(j.id) ?? null,
      told: told.get(j.id) ?? null,
    })
  }
  const circle = circleIn(jobs)
  if (circle >= 0) return no('These jobs wait for each other in a circle.', `jobs.${circle}.after`)
  return {
    now,
    areas: p.areas,
    walk: closed(p.walk),
    people: p.people.map((x, i) => ({
      id: x.id,
      abilities: new Set(x.abilities),
      capacity: turns
        .filter((t) => t.person === i)
        .flatMap((t) => t.pieces)
        .reduce((n, s) => n + s.to - s.from, 0),
    })),
    turns,
    holders: p.holders.map((x) => ({
      id: x.id,
      role: x.role,
      there: x.there.map(interval).sort((a, b) => a.from - b.from),
    })),
    instruments,
    stock: p.stock,
    jobs,
    weights: p.weights,
  }
}

/** A job that waits for itself, whatever lies between; −1: none does. */
function circleIn(jobs: readonly JobOf[]): number {
  const state = new Uint8Array(jobs.length)
  const visit = (i: number): boolean => {
    if (state[i] === 2) return false
    if (state[i] === 1) return true
    state[i] = 1
    const found = (jobs[i]?.after ?? []).some(visit)
    state[i] = 2
    return found
  }
  return jobs.findIndex((_, i) => visit(i))
}

/** A placing in numbers. */
export interface Placed {
  readonly job: number
  readonly person: number
  /** −1: none. */
  readonly helper: number
  readonly instruments: readonly number[]
  readonly start: number
}

export const placingOf = (d: Day, p: Placed): Placing => ({
  job: d.jobs[p.job]?.id ?? '',
  person: d.people[p.person]?.id ?? '',
  helper: d.people[p.helper]?.id ?? null,
  instruments: p.instruments.map((i) => d.instruments[i]?.id ?? ''),
  start: isoOf(p.start),
})
/** In numbers what a placing says; −1 for a name that nobody knows. */
export const placedOf = (d: Day, p: Placing): Placed => ({
  job: d.jobs.findIndex((j) => j.id === p.job),
  person: d.people.findIndex((x) => x.id === p.person),
  helper: p.helper === null ? -1 : d.people.findIndex((x) => x.id === p.helper),
  instruments: p.instruments.map((i) => d.instruments.findIndex((x) => x.id === i)),
  start: minuteOf(p.start),
})
