import { brokenRules, type Broken, RULES } from './check.ts'
import { leastEnd, type LowerBound } from './bound.ts'
import { nearestTo, type ShortCode } from './kit.ts'
import type { Day, JobOf, Placed } from './problem.ts'
import { clockUtc } from './say-broken.ts'
import { placingBeside } from './insert.ts'
import { known } from './sight.ts'

/** What keeps a job from being done at all, in the order in which it is looked for. */
export const LIFTS = ['ABILITY', 'INSTRUMENT', 'STOCK', 'WINDOW', 'HOLD', 'SHIFT', 'AFTER'] as const
export type Lift = (typeof LIFTS)[number]

export interface Why {
  readonly code: string
  readonly job: string | null
  readonly other: string | null
}
export interface Reason {
  readonly job: string
  readonly placed: boolean
  readonly why: Why
  readonly says: string
  /** Of a job that nothing places: what would have to be otherwise. */
  readonly lift?: Lift | 'SEVERAL'
  readonly lifts?: readonly Lift[]
  readonly nearest?: { readonly instrument: string; readonly code: ShortCode } | null
  readonly missing_min?: number
  /** Of a job that was crowded out: the placed job that it could have instead, and who would have to stay how long. */
  readonly instead?: string | null
  readonly overtime?: { readonly person: string; readonly minutes: number } | null
}

/** How an instant is said: by the clock of whoever reads it. */
type Clock = (minute: number) => string
const DAY = 1440
const MOST_OVERTIME = 720
/** More jobs than this are not looked at one by one for who could stay longer. */
const MOST_LOOKED_AT = 12

/** Why a placed job does not begin earlier: what it would break a minute before. */
function whyNotEarlier(d: Day, placed: readonly Placed[], p: Placed): Broken | null {
  const earlier = placed.map((x) => (x === p ? { ...p, start: p.start - 1 } : x))
  const broken = brokenRules(d, known(d, earlier))
  const rank = (b: Broken) => (b.code === 'LOCK_MOVED' ? -1 : RULES.indexOf(b.code))
  return [...broken].sort((a, b) => rank(a) - rank(b))[0] ?? null
}

function saysPlaced(d: Day, p: Placed, b: Broken | null, clock: Clock): string {
  const j = d.jobs[p.job]
  const [at, who] = [clock(p.start), d.people[p.person]?.id ?? '']
  const other = b?.other ?? ''
  const area = d.areas[j?.area ?? 0] ?? ''
  const not = `Not before ${at}:`
  switch (b?.code) {
    case undefined:
      return `It could begin earlier than ${at}.`
    case 'LOCK_MOVED':
      return `Agreed for ${at}${b.job === j?.id ? ` with ${who}` : `: ${b.job ?? ''}`}.`
    case 'NO_TIME_TO_GET_THERE':
      return `${not} ${other || who} has to get to ${area} and set up.`
    case 'OUT_OF_SHIFT':
      return `${not} ${other} is not there earlier.`
    case 'IN_BREAK':
      return `${not} with its way it would fall in ${other}’s break.`
    case 'PERSON_BUSY':
      return p.helper < 0
        ? `${not} ${who} is at ${other} until then.`
        : `${not} ${who} or who helps is at ${other} until then.`
    case 'TOO_EARLY':
    case 'NO_WINDOW':
      return `${not} the process cannot be taken out earlier.`
    case 'HOLD_NOT_THERE':
      return `${not} ${other} is not there to release the hold point.`
    case 'INSTRUMENT_BUSY':
      return `${not} its instrument is at ${other} until then.`
    case 'INSTRUMENT_NOT_HERE':
      return `${not} ${other} is not there earlier.`
    case 'INSTRUMENT_AWAY':
      return `${not} ${other} is away until then.`
    case 'BEFORE_AFTER':
      return `${not} ${other} must be done before.`
    default:
      return `${not} a minute earlier ${b?.job ?? j?.id ?? ''} could not be as it is (${b?.code ?? ''}).`
  }
}

/** A job without what one family of rules asks of it, and turns as long as it takes. */
function lifted(d: Day, job: number, lifts: readonly Lift[]): Day {
  const j = d.jobs[job]
  if (!j) return d
  const easier: JobOf = {
    ...j,
    ...(lifts.includes('ABILITY')
      ? { abilities: [], helper: j.helper && { ...j.helper, abilities: [] } }
      : {}),
    ...(lifts.includes('INSTRUMENT') ? { needs: [] } : {}),
    ...(lifts.includes('STOCK') ? { uses: {} } : {}),
    ...(lifts.includes('WINDOW') ? { windows: null, earliest: -Infinity, latest: Infinity } : {}),
    ...(lifts.includes('HOLD') ? { holds: [] } : {}),
    ...(lifts.includes('AFTER') ? { after: [] } : {}),
  }
  const turns = lifts.includes('SHIFT')
    ? d.turns.map((t) => ({ ...t, to: t.to + DAY, breaks: [], pieces: [{ from: t.start, to: t.to + DAY }] }))
    : d.turns
  return { ...d, turns, jobs: d.jobs.map((x, i) => (i === job ? easier : x)) }
}

/** Sets of families by rising size, each in its order. */
function setsOf(size: number): Lift[][] {
  if (size === 0) return [[]]
  return LIFTS.flatMap((l, i) =>
    setsOf(size - 1).flatMap((rest) => (rest.every((r) => LIFTS.indexOf(r) > i) ? [[l, ...rest]] : [])),
  )
}

function whyNowhere(d: Day, job: number, gone: ReadonlySet<number>): readonly Lift[] {
  const waits = d.jobs[job]?.after.some((a) => gone.has(a)) ?? false
  for (let size = 1; size <= LIFTS.length; size++)
    for (const lifts of setsOf(size)) {
      if (waits && !lifts.includes('AFTER')) continue
      if (leastEnd(lifted(d, job, lifts), job) < Infinity) return lifts
    }
  return LIFTS
}

const LIFT_SAYS: Readonly<Record<Lift, string>> = {
  ABILITY: 'nobody who is there may do it',
  INSTRUMENT: 'no instrument serves it',
  STOCK: 'what it uses up is not in stock',
  WINDOW: 'the process cannot be taken out long enough while somebody is there',
  HOLD: 'nobody is there to release its hold points',
  SHIFT: 'no stretch of a shift is long enough',
  AFTER: 'what must be done before cannot be done',
}

function nowhere(d: Day, job: number, gone: ReadonlySet<number>): Partial<Reason> & { says: string } {
  if (d.turns.every((t) => t.pieces.length === 0))
    return { lift: 'SEVERAL', lifts: ['SHIFT'], says: 'It finds no place: nobody is there.' }
  const lifts = whyNowhere(d, job, gone)
  const j = d.jobs[job]
  const [first] = lifts
  const says = `It finds no place: ${lifts.map((l) => LIFT_SAYS[l]).join(', and ')}.`
  if (lifts.length > 1 || !first || !j) return { lift: 'SEVERAL', lifts, says }
  if (first === 'INSTRUMENT') {
    const short = j.needs
      .map((n, i) => ({ ...n, id: String(i), until: d.now + j.minutes, wanted: null }))
      .map((n) => nearestTo(n, d.instruments))
      .find((x) => x !== null)
    return { lift: first, nearest: short ?? null, says }
  }
  if (first === 'SHIFT' || first === 'WINDOW') {
    const stretches = first === 'SHIFT' ? d.turns.flatMap((t) => t.pieces) : (j.windows ?? [])
    const longest = Math.max(0, ...stretches.map((p) => p.to - p.from))
    return { lift: first, missing_min: Math.max(0, j.minutes - longest), says }
  }
  return { lift: first, says }
}

function crowded(
  d: Day,
  placed: readonly Placed[],
  job: number,
  isFew: boolean,
): Partial<Reason> & { says: string } {
  const waitedFor = new Set(placed.flatMap((p) => d.jobs[p.job]?.after ?? []))
  const candidates = placed
    .filter((p) => !d.jobs[p.job]?.lock && !waitedFor.has(p.job))
    .sort((a, b) => (d.jobs[a.job]?.value ?? 0) - (d.jobs[b.job]?.value ?? 0) || a.job - b.job)
  const instead = candidates.find((c) =>
    placingBeside(
      d,
      placed.filter((p) => p !== c),
      job,
    ),
  )
  const overtime = isFew ? leastOvertime(d, placed, job) : null
  const name = instead ? (d.jobs[instead.job]?.id ?? null) : null
  const ways = [
    ...(name === null ? [] : [`in place of ${name}`]),
    ...(overtime ? [`if ${overtime.person} stays ${overtime.minutes} minutes longer`] : []),
  ]
  return {
    instead: name,
    overtime,
    says:
      ways.length > 0
        ? `No room is left; it would fit ${ways.join(', or ')}.`
        : 'No room is left: only a re-plan.',
  }
}

/** The fewest minutes by which one turn must end later for a job to fit. */
function leastOvertime(
  d: Day,
  placed: readonly Placed[],
  job: number,
): NonNullable<Reason['overtime']> | null {
  let best: { person: string; minutes: number } | null = null
  d.turns.forEach((t, i) => {
    const fits = (more: number): boolean => {
      const longer = {
        ...t,
        to: t.to + more,
        pieces: [
          ...t.pieces.slice(0, -1),
          ...t.pieces.slice(-1).map((p) => ({ from: p.from, to: p.to === t.to ? t.to + more : p.to })),
        ],
      }
      return (
        placingBeside({ ...d, turns: d.turns.map((x, k) => (k === i ? longer : x)) }, placed, job) !== null
      )
    }
    const most = Math.min(MOST_OVERTIME, best ? best.minutes - 1 : MOST_OVERTIME)
    if (most < 1 || !fits(most)) return
    let [lo, hi] = [1, most]
    while (lo < hi) {
      const mid = (lo + hi) >> 1
      if (fits(mid)) hi = mid
      else lo = mid + 1
    }
    best = { person: d.people[t.person]?.id ?? '', minutes: hi }
  })
  return best
}

/** The jobs without a place for which there is one beside all others as they are. */
function roomsOf(
  d: Day,
  placed: readonly Placed[],
  out: readonly number[],
  isOver: () => boolean,
): ReadonlyMap<number, Placed> {
  return new Map(
    out.flatMap((i): [number, Placed][] => {
      const room = isOver() ? null : placingBeside(d, placed, i)
      return room ? [[i, room]] : []
    }),
  )
}

/**
 * Why each job is where it is, or is not: one each, in the order of jobs. Rooms are looked for first: who has just
 * taken a job off the plan waits for that one.
 * @param isOver - what is not looked at by then is told as that
 */
export function reasonsOf(
  d: Day,
  placed: readonly Placed[],
  bound: LowerBound,
  clock: Clock = clockUtc,
  isOver: () => boolean = () => false,
): Reason[] {
  const at = new Map(placed.map((p) => [p.job, p]))
  const out = d.jobs.flatMap((_, i) => (at.has(i) ? [] : [i]))
  const rooms = roomsOf(
    d,
    placed,
    out.filter((i) => !bound.gone.has(i)),
    isOver,
  )
  const reasonOf = (i: number): Reason[] => {
    const j = d.jobs[i]
    const p = at.get(i)
    if (!j) return []
    const reason = { job: j.id, placed: p !== undefined }
    const room = rooms.get(i)
    if (room) {
      const why = { code: 'ROOM', job: j.id, other: null }
      const who = d.people[room.person]?.id ?? ''
      return [{ ...{ ...reason, why }, says: `There is room for it: ${who} at ${clock(room.start)}.` }]
    }
    if (isOver()) {
      const why = { code: 'NOT_LOOKED_AT', job: j.id, other: null }
      return [
        {
          ...{ ...reason, why },
          says: `${p ? 'Why it is not earlier was not' : 'Not'} looked at: too many jobs at once.`,
        },
      ]
    }
    if (p) {
      const b = whyNotEarlier(d, placed, p)
      const why = b ?? { code: 'COULD_BE_EARLIER', job: j.id, other: null }
      return [{ ...{ ...reason, why }, says: saysPlaced(d, p, b, clock) }]
    }
    const isGone = bound.gone.has(i)
    const why = { code: isGone ? 'NOWHERE' : 'CROWDED', job: j.id, other: null }
    const more = isGone ? nowhere(d, i, bound.gone) : crowded(d, placed, i, out.length <= MOST_LOOKED_AT)
    return [{ ...{ ...reason, why }, ...more }]
  }
  // What is planned comes first: it is what people walk by, and is quickly told.
  const inTurn = d.jobs.map((_, i) => i).sort((a, b) => Number(at.has(b)) - Number(at.has(a)))
  const found = new Map(inTurn.map((i) => [i, reasonOf(i)]))
  return d.jobs.flatMap((_, i) => found.get(i) ?? [])
}
