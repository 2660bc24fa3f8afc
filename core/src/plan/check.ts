import { occupationsOf, turnPlans, type Occupation } from './occupations.ts'
import type { Day, Interval, Placed } from './problem.ts'

/** The hard rules, in the order in which they are told. */
export const RULES = [
  'UNKNOWN',
  'PLACED_TWICE',
  'NOT_ABLE',
  'HELPER_MISSING',
  'HELPER_NOT_NEEDED',
  'HELPER_SAME',
  'HELPER_NOT_ABLE',
  'OUT_OF_SHIFT',
  'IN_BREAK',
  'PERSON_BUSY',
  'NO_TIME_TO_GET_THERE',
  'NO_WAY_BACK',
  'TOO_EARLY',
  'TOO_LATE',
  'NO_WINDOW',
  'HOLD_NOT_THERE',
  'INSTRUMENT_MISSING',
  'INSTRUMENT_WRONG',
  'RATIO_LOW',
  'CERTIFICATE_ENDED',
  'INSTRUMENT_AWAY',
  'INSTRUMENT_BUSY',
  'INSTRUMENT_NOT_HERE',
  'BEFORE_AFTER',
  'LOCK_MOVED',
  'STOCK_SHORT',
] as const
export type Rule = (typeof RULES)[number]

/** A rule that is broken, by which job, and what else has to do with it. */
export interface Broken {
  readonly code: Rule
  readonly job: string | null
  readonly other: string | null
}

const overlaps = (a: Interval, b: Interval) => a.from < b.to && b.from < a.to
const lacks = (d: Day, person: number, abilities: readonly string[]) =>
  abilities.some((a) => !d.people[person]?.abilities.has(a))
/** Whether an instrument is of the kind and range that is needed. */
export const reaches = (
  x: { kind: string; unit: string; lo: number; hi: number },
  n: { kind: string; unit: string; lo: number; hi: number },
): boolean => x.kind === n.kind && x.unit === n.unit && x.lo <= n.lo && x.hi >= n.hi

/** A sighting of a placing by the names on the wire: what is not known stays as it was said. */
export interface Sighted extends Placed {
  readonly says: { readonly job: string; readonly unknown: readonly string[] }
}

/**
 * Which hard rules a plan breaks: in the order of jobs, then of the rules; the stock last. None: it can be done.
 * @param sighted - placings; of a job that stands twice only the first counts
 */
export function brokenRules(d: Day, sighted: readonly Sighted[]): readonly Broken[] {
  const found = new Map<string, Broken & { readonly at: number }>()
  const tell = (code: Rule, at: number, other: string | null = null, job = d.jobs[at]?.id ?? null) => {
    const key = `${job ?? ''}\u0000${code}\u0000${other ?? ''}`
    if (!found.has(key)) found.set(key, { code, job, other, at })
  }
  const placed: Placed[] = []
  for (const p of sighted) {
    if (p.says.unknown.length > 0) {
      for (const name of p.says.unknown) tell('UNKNOWN', p.job < 0 ? d.jobs.length : p.job, name, p.says.job)
      continue
    }
    if (placed.some((x) => x.job === p.job)) tell('PLACED_TWICE', p.job)
    else placed.push(p)
  }
  const byJob = new Map(placed.map((p) => [p.job, p]))
  for (const p of placed) ofOnePlacing(d, p, tell)
  ofPeople(d, placed, tell)
  ofInstruments(d, placed, tell)
  for (const p of placed) {
    const j = d.jobs[p.job]
    for (const a of j?.after ?? []) {
      const before = byJob.get(a)
      const end = before ? before.start + (d.jobs[a]?.minutes ?? 0) : Infinity
      if (end > p.start) tell('BEFORE_AFTER', p.job, d.jobs[a]?.id ?? null)
    }
  }
  d.jobs.forEach((j, i) => {
    if (!j.lock) return
    const p = byJob.get(i)
    const isKept =
      p?.start === j.lock.start &&
      p.person === j.lock.person &&
      (j.lock.helper === null || p.helper === j.lock.helper)
    if (!isKept) tell('LOCK_MOVED', i)
  })
  const used = new Map<string, number>()
  for (const p of placed)
    for (const [item, amount] of Object.entries(d.jobs[p.job]?.uses ?? {}))
      used.set(item, (used.get(item) ?? 0) + amount)
  const last = d.jobs.length + 1
  for (const [item, amount] of used) if (amount > (d.stock[item] ?? 0)) tell('STOCK_SHORT', last, item, null)
  return [...found.values()]
    .sort((a, b) => a.at - b.at || RULES.indexOf(a.code) - RULES.indexOf(b.code))
    .map(({ code, job, other }) => ({ code, job, other }))
}

type Tell = (code: Rule, job: number, other?: string | null) => void

function ofOnePlacing(d: Day, p: Placed, tell: Tell): void {
  const j = d.jobs[p.job]
  if (!j) return
  const name = (i: number) => d.people[i]?.id ?? null
  if (lacks(d, p.person, j.abilities)) tell('NOT_ABLE', p.job, name(p.person))
  if (j.helper && p.helper < 0) tell('HELPER_MISSING', p.job)
  if (!j.helper && p.helper >= 0) tell('HELPER_NOT_NEEDED', p.job)
  if (j.helper && p.helper >= 0) {
    if (p.helper === p.person) tell('HELPER_SAME', p.job)
    if (lacks(d, p.helper, j.helper.abilities)) tell('HELPER_NOT_ABLE', p.job, name(p.helper))
  }
  const [s, e] = [p.start, p.start + j.minutes]
  if (s < j.earliest) tell('TOO_EARLY', p.job)
  if (e > j.latest) tell('TOO_LATE', p.job)
  if (j.windows && !j.windows.some((w) => w.from <= s && e <= w.to)) tell('NO_WINDOW', p.job)
  for (const h of j.holds) {
    const holder = d.holders[h.holder]
    const from = s + h.at
    if (!holder?.there.some((t) => t.from <= from && from + h.minutes <= t.to))
      tell('HOLD_NOT_THERE', p.job, holder?.id ?? null)
  }
  const given = p.instruments.slice(0, j.needs.length)
  if (given.length < j.needs.length || new Set(p.instruments).size !== p.instruments.length)
    tell('INSTRUMENT_MISSING', p.job)
  for (const [k, need] of j.needs.entries()) {
    const x = d.instruments[given[k] ?? -1]
    if (!x) continue
    if (!reaches(x, need)) tell('INSTRUMENT_WRONG', p.job, x.id)
    else if (need.tolerance < need.ratio * x.u) tell('RATIO_LOW', p.job, x.id)
  }
  for (const i of p.instruments) {
    const x = d.instruments[i]
    if (!x) continue
    if (e > x.certificateEnds) tell('CERTIFICATE_ENDED', p.job, x.id)
    if (x.away.some((a) => overlaps(a, { from: s, to: e }))) tell('INSTRUMENT_AWAY', p.job, x.id)
  }
}

function ofPeople(d: Day, placed: readonly Placed[], tell: Tell): void {
  const all = placed.flatMap((p) => occupationsOf(d, p))
  const nameOf = (o: Occupation) => d.people[o.person]?.id ?? null
  for (const o of all) {
    const turn = d.turns[o.turn]
    if (!turn || o.to > turn.to) tell('OUT_OF_SHIFT', o.job, nameOf(o))
    if (o.kind === 'radio' && turn?.breaks.some((b) => overlaps(b, o))) tell('IN_BREAK', o.job, nameOf(o))
  }
  const busy = new Set<string>()
  d.people.forEach((_, person) => {
    const own = all.filter((o) => o.person === person)
    const firstOf = (job: number) => Math.min(...own.filter((o) => o.job === job).map((o) => o.from))
    own.forEach((a, i) => {
      for (const b of own.slice(i + 1)) {
        if (a.job === b.job || !overlaps(a, b)) continue
        const [fa, fb] = [firstOf(a.job), firstOf(b.job)]
        const [before, later] = fa < fb || (fa === fb && a.job < b.job) ? [a, b] : [b, a]
        tell('PERSON_BUSY', later.job, d.jobs[before.job]?.id ?? null)
        busy.add(`${person} ${a.job}`).add(`${person} ${b.job}`)
      }
    })
  })
  for (const t of turnPlans(d, placed)) {
    for (const b of t.blocks) {
      const prep = { from: b.from - b.walk - b.setup, to: b.from }
      const name = nameOf(b)
      if (t.turn.breaks.some((x) => overlaps(x, { from: prep.from, to: b.to }))) tell('IN_BREAK', b.job, name)
      if (busy.has(`${b.person} ${b.job}`)) continue
      const isCrossed = t.occupations.some((o) => o.job !== b.job && overlaps(o, prep))
      if (prep.from < t.turn.start || isCrossed) tell('NO_TIME_TO_GET_THERE', b.job, name)
    }
    const last = t.blocks.at(-1)
    if (last && last.to <= t.turn.to && last.to + t.back > t.turn.to)
      tell('NO_WAY_BACK', last.job, nameOf(last))
  }
}

function ofInstruments(d: Day, placed: readonly Placed[], tell: Tell): void {
  d.instruments.forEach((x, i) => {
    const uses = placed
      .filter((p) => p.instruments.includes(i))
      .sort((a, b) => a.start - b.start || a.job - b.job)
    uses.forEach((p, k) => {
      const [j, before] = [d.jobs[p.job], uses[k - 1]]
      if (!j) return
      if (!before) {
        if (p.start < d.now + (d.walk[x.area]?.[j.area] ?? 0)) tell('INSTRUMENT_NOT_HERE', p.job, x.id)
        return
      }
      const was = d.jobs[before.job]
      const end = before.start + (was?.minutes ?? 0)
      if (p.start < end) tell('INSTRUMENT_BUSY', p.job, was?.id ?? null)
      if (before.person !== p.person && p.start < end + (d.walk[was?.area ?? 0]?.[j.area] ?? 0))
        tell('INSTRUMENT_NOT_HERE', p.job, x.id)
    })
  })
}
