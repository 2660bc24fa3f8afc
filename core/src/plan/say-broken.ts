import type { Broken } from './check.ts'
import { type Day, isoOf } from './problem.ts'

export const clockUtc = (minute: number): string => isoOf(minute).slice(11, 16)

/** What is wrong with a plan there, in a sentence that says what is possible where it can. */
export function sayBroken(d: Day, b: Broken, clock: (minute: number) => string = clockUtc): string {
  const [job, other] = [b.job ?? '', b.other ?? '']
  const j = d.jobs.find((x) => x.id === b.job)
  const area = d.areas[j?.area ?? -1] ?? ''
  switch (b.code) {
    case 'UNKNOWN':
      return `${job}: nobody knows ${other}.`
    case 'PLACED_TWICE':
      return `${job} is planned twice.`
    case 'NOT_ABLE':
      return `${other} may not do ${job}: it asks for ${(j?.abilities ?? []).join(', ')}.`
    case 'HELPER_MISSING':
      return j?.helper?.how === 'radio'
        ? `${job} needs a second person by radio for the first ${j.helper.begin} and the last ${j.helper.end} minutes.`
        : `${job} needs a second person throughout.`
    case 'HELPER_NOT_NEEDED':
      return `${job} needs no second person.`
    case 'HELPER_SAME':
      return `Nobody can help with ${job} who does it.`
    case 'HELPER_NOT_ABLE':
      return `${other} cannot help with ${job}.`
    case 'OUT_OF_SHIFT':
      return `${other} is not there for all of ${job}.`
    case 'IN_BREAK':
      return `${job}, with the way to it, falls into ${other}’s break.`
    case 'PERSON_BUSY':
      return `Two jobs at once: ${job} and ${other}.`
    case 'NO_TIME_TO_GET_THERE':
      return `${other} needs time to get to ${area} and set up before ${job}.`
    case 'NO_WAY_BACK':
      return `After ${job} ${other} would be back after the shift.`
    case 'TOO_EARLY':
      return `${job} may not begin before ${clock(j?.earliest ?? 0)}.`
    case 'TOO_LATE':
      return `${job} must be done by ${clock(j?.latest ?? 0)}.`
    case 'NO_WINDOW': {
      const windows = (j?.windows ?? []).map((w) => `${clock(w.from)} to ${clock(w.to)}`)
      return `The process for ${job} can be taken out from ${windows.join(', or ')}.`
    }
    case 'HOLD_NOT_THERE':
      return `${other} is not there to release the hold point of ${job}.`
    case 'INSTRUMENT_MISSING':
      return `No instrument that serves ${job} is free.`
    case 'INSTRUMENT_WRONG':
      return `${other} does not cover what ${job} needs.`
    case 'RATIO_LOW':
      return `${other} is not known well enough for ${job}.`
    case 'CERTIFICATE_ENDED':
      return `The certificate of ${other} ends before ${job} does.`
    case 'INSTRUMENT_AWAY':
      return `${other} is away during ${job}.`
    case 'INSTRUMENT_BUSY':
      return `The instrument for ${job} is still at ${other}.`
    case 'INSTRUMENT_NOT_HERE':
      return `${other} cannot be at ${area} when ${job} begins.`
    case 'BEFORE_AFTER':
      return `${other} must be done before ${job}.`
    case 'LOCK_MOVED':
      return j?.lock
        ? `${job} was agreed for ${clock(j.lock.start)} with ${d.people[j.lock.person]?.id ?? ''}.`
        : `${job} was agreed otherwise.`
    case 'STOCK_SHORT':
      return `More ${other} is needed than there is: ${d.stock[other] ?? 0} in stock.`
  }
}
