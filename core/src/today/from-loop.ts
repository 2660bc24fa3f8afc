import type { LoopFacts } from '../loop/facts.ts'
import type { Part, PartState } from '../loop/parts.ts'
import type { ProcedureContext } from '../procedure/step.ts'
import { VISIT } from './does.ts'
import type { Job } from './job.ts'
import { deskWork, procedureWork, verificationWork } from './usual-work.ts'

/** A run that somebody began and nobody ended. */
export interface OpenRun {
  /** Null: a verification. */
  readonly procedure: { readonly id: string; readonly minutes: number | null } | null
  readonly title: string
  readonly on: string
  readonly byName: string
}
/** What the record says of a loop, as far as it makes work. */
export interface LoopAtWork {
  readonly id: string
  readonly tag: string
  readonly service: string
  readonly area: string
  readonly floor: number
  /** Days, YYYY-MM-DD. */
  readonly due: string | null
  readonly lastCalibrated: string | null
  /** Why it cannot wait for its interval. */
  readonly dueNow: { readonly on: string; readonly why: string } | null
  /** Earliest day on which its drift may leave the tolerance. */
  readonly leavesOn: string | null
  readonly parts: Readonly<Record<Part, PartState>>
  readonly open: OpenRun | null
  /** Settings that its receiver lost and nobody keyed in again. */
  readonly toKeyIn: number
  /** Why its device has to be read back, since when; null where nothing speaks for it. */
  readonly readBack: { readonly why: string; readonly since: string } | null
  readonly facts: LoopFacts
  /** What its open procedure was made for; null where none is open, or the loop neither measures nor switches. */
  readonly context: ProcedureContext | null
}

const DAY_MS = 86_400_000
export const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10)
const daysBetween = (a: string, b: string) =>
  Math.round((Date.parse(`${b}T00:00:00Z`) - Date.parse(`${a}T00:00:00Z`)) / DAY_MS)
/** So late that it comes before what became due today. */
const LONG_OVERDUE_DAYS = 30

/** Where a fault that must not stay stands, and how it is mended. */
const STOPS: readonly (readonly [Part, string, string, number])[] = [
  ['wire', 'wire', 'The wiring as it is drawn is wrong.', 40],
  ['setUp', 'set-up', 'What its device was told cannot be.', 30],
  ['scale', 'scale', 'Its ranges do not agree along the signal path.', 20],
]

/**
 * The jobs that a loop's record asks for. A verification under way, one that failed, a drift and an interval all end in
 * one verification: only the first of them is a job.
 * @param today - YYYY-MM-DD; horizon - the last day that is looked at
 */
export function jobsOfLoop(l: LoopAtWork, today: string, horizon: string): Job[] {
  const loop = { id: l.id, tag: l.tag, service: l.service }
  const base = { loop, area: l.area, floor: l.floor }
  const mend = STOPS.flatMap(([part, page, why, minutes]): Job[] =>
    l.parts[part] === 'stop'
      ? [
          {
            ...base,
            key: `${l.id} stop ${part}`,
            title: `${l.tag} ${page === 'set-up' ? 'set-up' : page === 'wire' ? 'wiring' : 'ranges'}`,
            kind: 'stop',
            why,
            to: `/loops/${l.tag}/${page}`,
            due: today,
            importance: 4,
            work: deskWork(`mend ${part}`, minutes),
            after: [],
            does: null,
            since: null,
          },
        ]
      : [],
  )
  const sheet: Job[] =
    l.toKeyIn > 0
      ? [
          {
            ...base,
            key: `${l.id} sheet`,
            title: `${l.tag} settings`,
            kind: 'sheet',
            why: `${l.toKeyIn} ${l.toKeyIn === 1 ? 'setting waits' : 'settings wait'} to be keyed in again at its receiver.`,
            to: `/loops/${l.tag}/scale`,
            due: today,
            importance: 3,
            work: deskWork('key in', 15),
            after: [],
            does: null,
            since: null,
          },
        ]
      : []
  const readBack: Job[] = l.readBack
    ? [
        {
          ...base,
          key: `${l.id} read back`,
          title: `${l.tag} read back`,
          kind: 'sheet',
          why: l.readBack.why,
          to: `/loops/${l.tag}/set-up?view=sheet`,
          due: l.readBack.since,
          importance: 3,
          work: deskWork('read back', 20),
          // What is still to be put right is not keyed in.
          after: l.parts.setUp === 'stop' ? [`${l.id} stop setUp`] : [],
          does: null,
          since: null,
        },
      ]
    : []
  const visit = visitOf(l, today, horizon)
  return [...mend, ...sheet, ...readBack, ...(visit ? [visit] : [])]
}

/** The one visit with instruments that a loop needs now, with the strongest reason for it. */
function visitOf(l: LoopAtWork, today: string, horizon: string): Job | null {
  const base = {
    loop: { id: l.id, tag: l.tag, service: l.service },
    area: l.area,
    floor: l.floor,
    title: `${l.tag} verify`,
    to: `/loops/${l.tag}/verify`,
    work: verificationWork(l.facts),
    // Nothing is measured through a wiring that is wrong.
    after: l.parts.wire === 'stop' ? [`${l.id} stop wire`] : [],
    does: VISIT,
    since: null,
  }
  // One key for all of them: the job that was planned is the one that was begun.
  const key = `${l.id} visit`
  if (l.open)
    return {
      ...base,
      key,
      kind: 'goOn',
      title: `${l.tag} go on`,
      to: l.open.procedure
        ? `/loops/${l.tag}/trim?procedure=${l.open.procedure.id}`
        : `/loops/${l.tag}/verify`,
      work: l.open.procedure ? procedureWork(l.open.procedure, base.work, l.context) : base.work,
      why: `${l.open.title}, begun on ${l.open.on} by ${l.open.byName}, is left open.`,
      due: today,
      importance: 4,
    }
  if (l.dueNow) {
    const isOut = l.dueNow.why.includes('out of tolerance')
    return {
      ...base,
      key,
      kind: 'again',
      title: isOut ? `${l.tag} put right` : base.title,
      to: isOut ? `/loops/${l.tag}/trim` : base.to,
      why: `Found on ${l.dueNow.on}: ${l.dueNow.why}.`,
      due: l.dueNow.on,
      importance: isOut ? 5 : 4,
    }
  }
  if (l.due !== null && l.due <= horizon) {
    const late = daysBetween(l.due, today)
    return {
      ...base,
      key,
      kind: 'verify',
      why:
        late > 0
          ? `Due since ${l.due}, ${late} ${late === 1 ? 'day' : 'days'}; last verified ${l.lastCalibrated ?? 'never'}.`
          : `Due on ${l.due}; last verified ${l.lastCalibrated ?? 'never'}.`,
      due: l.due,
      importance: late > LONG_OVERDUE_DAYS ? 4 : late >= 0 ? 3 : 2,
    }
  }
  // It would be out of tolerance before anybody comes again.
  if (l.leavesOn !== null && l.leavesOn <= horizon && (l.due === null || l.leavesOn < l.due))
    return {
      ...base,
      key,
      kind: 'drift',
      why: `Its drift may leave the tolerance from ${l.leavesOn} on${l.due === null ? '' : `, before it is due on ${l.due}`}.`,
      due: l.leavesOn,
      importance: 3,
    }
  return null
}

/** An instrument whose certificate ends soon, or has ended. */
export function jobOfInstrument(
  e: { readonly id: string; readonly name: string; readonly serial: string; readonly dueOn: string },
  home: string,
  today: string,
  horizon: string,
): Job | null {
  if (e.dueOn > horizon) return null
  return {
    key: `${e.id} certificate`,
    title: `${e.serial === '' ? e.name : e.serial} certificate`,
    kind: 'certificate',
    loop: null,
    area: home,
    floor: 0,
    why: `${e.name}: its certificate ${e.dueOn < today ? 'ended' : 'ends'} on ${e.dueOn}. It serves for nothing after that.`,
    to: '/instruments',
    due: e.dueOn,
    importance: 3,
    work: deskWork('send to be certified', 15),
    after: [],
    does: null,
    since: null,
  }
}
