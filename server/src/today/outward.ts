import { asWritten } from '@calm/core/quantity/decimal-sign'
import type { PlanTold } from '@calm/contract/today'
import { familyOf } from '@calm/core/family/index'
import { procedureOf } from '@calm/core/procedure/catalogue'
import { sayNumber } from '@calm/core/quantity/round'
import type { PlantAtWork } from '@calm/core/today/plant-at-work'
import { sayPlace } from '@calm/core/today/place'
import { sayItem } from '@calm/core/today/say-item'
import { wallOf } from '@calm/core/today/wall-time'
import ical, { ICalAlarmType, ICalCalendarMethod } from 'ical-generator'
import type { Executor } from '../db/connection.ts'
import type { DaySheetData } from '../reports/day-sheet.ts'
import type { Stationery } from '../reports/stationery.ts'
import type { Pool } from '../work/pool.ts'
import { planTold, situationOf } from './day.ts'
import { weigher } from './weigh.ts'

const AGAIN_S = 900
const ALARM_S = 900

/**
 * A plan for calendar programs: each job from when it begins, with an alarm before somebody has to leave.
 * @param of - only of one person, only in one area
 * @see RFC 5545
 */
export function planCalendar(
  p: PlanTold,
  { person, area }: { readonly person?: string | undefined; readonly area?: string | undefined },
  now: Date,
): string {
  const nameOf = new Map(p.people.map((x) => [x.id, x.name]))
  const whose = person === undefined ? 'Plan' : `Plan of ${nameOf.get(person) ?? 'nobody'}`
  const calendar = ical({
    name: whose,
    prodId: { company: 'Calm Loop', product: 'plan of the day' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: AGAIN_S,
  })
  const jobs = new Map(p.jobs.map((j) => [j.key, j]))
  for (const x of p.placings) {
    const job = jobs.get(x.job)
    const isTheirs = person === undefined || x.person === person || x.helper === person
    if (!job || !isTheirs || (area !== undefined && job.area !== area)) continue
    const who = nameOf.get(x.person) ?? ''
    const before = Math.max(0, (Date.parse(x.start) - Date.parse(x.leaves)) / 1000)
    calendar
      .createEvent({
        // The same job of the same day is the same entry, wherever it is moved.
        id: `${p.day}-${job.key.replace(/ /g, '-')}@plan`,
        start: new Date(x.start),
        end: new Date(x.end),
        stamp: now,
        summary: person === undefined ? `${job.title} (${who})` : job.title,
        location: sayPlace(job),
        description: [job.why, job.wish.order ? `Order ${job.wish.order}` : '', job.wish.agreed ?? '']
          .filter((t) => t !== '')
          .join('\n'),
      })
      .createAlarm({ type: ICalAlarmType.display, triggerBefore: before + ALARM_S, description: job.title })
  }
  return calendar.toString()
}

/** “Couplant, 2 g”. */
function sayUsed(item: string, amount: number): string {
  const [name, unit] = sayItem(item)
  return `${name}, ${sayNumber(amount, 6)}${unit === '' ? '' : ` ${unit}`}`
}

/** What to mind where somebody verifies, and in the procedures that somebody goes on with. */
const cautionsOf = (jobs: readonly PlanTold['jobs'][number][]): string[] => [
  ...new Set(
    jobs.flatMap(({ work: { procedure } }) =>
      procedure.startsWith('verify ')
        ? (familyOf(procedure.slice(7))?.needs.cautions ?? [])
        : (procedureOf(procedure.replace(/^run /, ''))?.cautions ?? []),
    ),
  ),
]

/** The day on paper out of the plan. */
export function daySheetOf(
  p: PlanTold,
  person: string | undefined,
  stationery: Stationery,
  holders: PlantAtWork['holders'],
): DaySheetData {
  const jobs = new Map(p.jobs.map((j) => [j.key, j]))
  const nameOf = new Map(p.people.map((x) => [x.id, x.name]))
  const at = (iso: string) => wallOf(Date.parse(iso), p.zone).time
  const people = p.people
    .filter((x) => person === undefined || x.id === person)
    .filter((x) => x.turns.length > 0)
    .map((x) => {
      const kit = p.kits.find((k) => k.person === x.id)
      const own = p.placings
        .filter((q) => q.person === x.id || q.helper === x.id)
        .sort((a, b) => a.start.localeCompare(b.start))
        .flatMap((q) => {
          const told = jobs.get(q.job)
          const other = q.person === x.id ? q.helper : q.person
          return told ? [{ ...q, told, helperName: other === null ? null : (nameOf.get(other) ?? null) }] : []
        })
      return {
        name: x.name,
        there: x.turns.map((t) => `There from ${at(t.from)} to ${at(t.to)}`).join('; '),
        placings: own,
        cautions: cautionsOf(own.map((q) => q.told)),
        pack: [
          ...(kit?.instruments ?? []).map((k) => ({
            what: asWritten(
              k.certificateEnds === null ? k.what : `${k.what}, certificate to ${k.certificateEnds}`,
            ),
            for: asWritten(k.for.join(', ')),
          })),
          ...(kit?.tools ?? []).map((k) => ({ what: k.what, for: asWritten(k.for.join(', ')) })),
          ...(kit?.uses ?? []).map((u) => ({
            what: sayUsed(u.item, u.amount),
            for: asWritten(u.for.join(', ')),
          })),
        ],
      }
    })
  const made = p.made
    ? `Planned by ${asWritten(p.made.byName)}${p.broken.length > 0 ? `; ${p.broken.length} conflicts are open` : ''}.`
    : 'Nobody has planned this day.'
  return {
    ...{ stationery, day: p.day, zone: p.zone, made, people },
    callFor: Object.fromEntries(
      holders.map(({ role }) => [
        role,
        holders
          .filter((h) => h.role === role)
          .map((h) => `${h.name}, ${h.from} to ${h.to}`)
          .join(' or '),
      ]),
    ),
  }
}

const WEEK_DAYS = 7
/** The plan of the coming week for calendar programs that look again by themselves. */
export async function weekCalendar(
  db: Executor,
  pool: Pool,
  of: { readonly person?: string | undefined; readonly area?: string | undefined },
  now: Date,
  gone: AbortSignal,
): Promise<string> {
  const s = await situationOf(db, null, WEEK_DAYS, now)
  return planCalendar(await planTold(db, weigher(pool), s, gone), of, now)
}
