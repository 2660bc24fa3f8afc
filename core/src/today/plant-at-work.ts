import { z } from 'zod'

const clock = z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'A clock time, as 07:30.')
const name = z.string().trim().min(1, 'Give it a name.').max(80, 'At most 80 characters.')
const minutes = z.int('Whole minutes.').min(0, 'Not below 0.').max(600, 'At most 600 minutes.')

/** From one clock time to another; an end at or before the beginning is of the day after. */
export const ClockSpan = z
  .strictObject({ from: clock, to: clock })
  .refine((s) => s.from !== s.to, { path: ['to'], message: 'It must end at another time than it begins.' })
export type ClockSpan = z.output<typeof ClockSpan>

/** A stretch of presence of one day. */
export const Shift = z.strictObject({
  from: clock,
  to: clock,
  breaks: z.array(ClockSpan).max(6, 'At most 6 breaks.').default([]),
})
export type Shift = z.output<typeof Shift>

/** What a plant is to somebody who walks through it: its places, its usual day, what lies in stock. */
export const PlantAtWork = z.strictObject({
  /** Where everybody begins and ends, and the instruments lie. */
  home: name,
  /** Minutes from place to place, both ways; what is missing takes `usualWalk_min`. */
  walk: z
    .array(z.strictObject({ a: name, b: name, minutes }))
    .max(400)
    .default([]),
  usualWalk_min: minutes.default(8),
  /** Minutes a floor, up or down. */
  floor_min: minutes.default(1),
  shift: Shift,
  /** Days of the week on which people are usually there, Monday is 1. */
  weekdays: z.array(z.int().min(1).max(7)).max(7),
  /** What each may do besides, by person. */
  abilities: z.record(z.string().max(60), z.array(name).max(30)).default({}),
  /** What there is of what is used up, by item. */
  stock: z.record(z.string().trim().min(1).max(60), z.number().min(0, 'Not below 0.').max(1e9)).default({}),
  /** Who releases hold points: role, name, and when they are there on a working day. */
  holders: z
    .array(z.strictObject({ role: name, name, from: clock, to: clock }))
    .max(40)
    .superRefine((list, ctx) => {
      list.forEach((h, i) => {
        if (list.findIndex((x) => x.name === h.name) !== i)
          ctx.addIssue({ code: 'custom', path: [i, 'name'], message: `“${h.name}” stands twice.` })
      })
    })
    .default([]),
})
export type PlantAtWork = z.output<typeof PlantAtWork>

export const UNTIL_SAID: PlantAtWork = {
  home: 'Workshop',
  walk: [],
  usualWalk_min: 8,
  floor_min: 1,
  shift: { from: '07:00', to: '15:30', breaks: [{ from: '12:00', to: '12:30' }] },
  weekdays: [1, 2, 3, 4, 5],
  abilities: {},
  stock: {},
  holders: [],
}

/** Where somebody is on one day, where it is not as usual; no shift: away. */
export const Presence = z.strictObject({
  person: z.uuid(),
  day: z.iso.date('Write the date as 2026-11-23.'),
  shift: Shift.nullable(),
})
export type Presence = z.output<typeof Presence>

/** Monday is 1. */
export const weekdayOf = (day: string): number => ((new Date(`${day}T00:00:00Z`).getUTCDay() + 6) % 7) + 1

/** When somebody is there on a day: as it was said for that day, else as usual. */
export function shiftOn(
  p: PlantAtWork,
  presences: readonly Presence[],
  person: string,
  day: string,
): Shift | null {
  const said = presences.find((x) => x.person === person && x.day === day)
  if (said) return said.shift
  return p.weekdays.includes(weekdayOf(day)) ? p.shift : null
}
