import type { JobTold } from '@calm/contract/today'
import { instantOf, minuteIso } from '@calm/core/today/wall-time'
import { clockOf } from './say-plan.ts'

/** What was agreed about a job, as it is typed. */
export function wishForm(
  job: Pick<JobTold, 'wish' | 'minutes' | 'importance' | 'work'> | undefined,
  zone: string,
) {
  const wish = job?.wish ?? {}
  const window = wish.windows?.[0]
  const hold = wish.holds?.[0]
  return {
    minutes: String(job?.minutes ?? 60),
    importance: wish.importance ?? job?.importance ?? 3,
    helper: wish.helper ?? job?.work.helper ?? 'none',
    order: wish.order ?? '',
    agreed: wish.agreed ?? '',
    from: window ? clockOf(window.from, zone) : '',
    to: window ? clockOf(window.to, zone) : '',
    notBefore: wish.notBefore ?? '',
    borrowed: wish.borrowed ?? false,
    abilities: (wish.abilities ?? []).join(', '),
    hold: hold?.role ?? null,
    holdAt: String(hold?.at ?? 0),
    holdMinutes: String(hold?.minutes ?? 5),
  }
}
export type WishForm = ReturnType<typeof wishForm>

const whole = (text: string) => (text.trim() === '' ? NaN : Number(text))

/**
 * What is to be kept: only what was typed anew. A usual time that is learnt better later is not frozen, and a window
 * that was agreed for another day stays on that day.
 * @param before - the form as it was opened
 */
export function wishOf(
  job: Pick<JobTold, 'wish'>,
  f: WishForm,
  before: WishForm,
  day: string,
  zone: string,
): JobTold['wish'] {
  const instant = (time: string) =>
    /^\d{2}:\d{2}$/.test(time) ? minuteIso(instantOf(day, time, zone)) : time
  const isNew = (...names: (keyof WishForm)[]) => names.some((n) => f[n] !== before[n])
  const words = f.abilities.split(',').map((t) => t.trim())
  return {
    ...job.wish,
    ...(isNew('minutes') ? { minutes: whole(f.minutes) } : {}),
    ...(isNew('importance') ? { importance: f.importance } : {}),
    ...(isNew('helper') ? { helper: f.helper } : {}),
    ...(isNew('order') ? { order: f.order } : {}),
    ...(isNew('agreed') ? { agreed: f.agreed } : {}),
    ...(isNew('borrowed') ? { borrowed: f.borrowed } : {}),
    ...(isNew('abilities') ? { abilities: words.filter(Boolean) } : {}),
    ...(isNew('notBefore') ? { notBefore: f.notBefore === '' ? null : f.notBefore } : {}),
    ...(isNew('hold', 'holdAt', 'holdMinutes')
      ? {
          holds:
            f.hold === null ? [] : [{ role: f.hold, at: whole(f.holdAt), minutes: whole(f.holdMinutes) }],
        }
      : {}),
    ...(isNew('from', 'to')
      ? { windows: f.from === '' && f.to === '' ? [] : [{ from: instant(f.from), to: instant(f.to) }] }
      : {}),
  }
}
