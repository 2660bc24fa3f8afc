import type { PlanTold, ProgressTold } from '@calm/contract/today'
import type { PartState } from '@calm/core/loop/parts'
import { wallOf } from '@calm/core/today/wall-time'

/** Clock time of an instant in the plant's zone. */
export const clockOf = (iso: string, zone: string): string => wallOf(Date.parse(iso), zone).time

/** Day and clock time of an instant there: behind midnight both are of the same day. */
export function momentOf(iso: string, zone: string): string {
  const { day, time } = wallOf(Date.parse(iso), zone)
  return `${day} ${time}`
}

export const PROGRESS_MARKS: Readonly<Record<ProgressTold['state'], { state: PartState; word: string }>> = {
  open: { state: 'notYet', word: 'to do' },
  begun: { state: 'look', word: 'under way' },
  done: { state: 'good', word: 'done' },
  stopped: { state: 'stop', word: 'stopped' },
  impossible: { state: 'stop', word: 'not possible' },
  gone: { state: 'notYet', word: 'asked for no more' },
}
/** Done is not yet good: what was found may be bad. */
export const markOf = (p: ProgressTold | undefined): { state: PartState; word: string } =>
  p?.state === 'done' && p.bad
    ? { state: 'stop', word: 'done, found bad' }
    : PROGRESS_MARKS[p?.state ?? 'open']

/**
 * How good a plan is, as far as that is known: what was proved once is not said of a plan that cannot be done any more,
 * and an empty plan is not praised.
 */
export function sayQuality({
  made,
  broken,
  placings,
  left,
}: Pick<PlanTold, 'made' | 'broken' | 'placings' | 'left'>): string {
  if (!made) return 'Not planned yet.'
  if (broken.length > 0 && made.worked) return 'It has conflicts as things are now: plan it anew.'
  const w = made.worked
  if (!w) return `Moved by ${made.byName}; not weighed against others.`
  if (placings.length === 0 && left.length > 0)
    return w.proved
      ? 'Proved: none of these jobs fits into the time that is left.'
      : 'No job was placed; not proved that none fits.'
  if (w.proved) return 'Proved: no order of these jobs is better.'
  const least =
    w.unplaced > w.bound.unplaced
      ? 'jobs are left out, perhaps fewer could be'
      : w.bound.points > 0
        ? `at most ${(w.points / w.bound.points).toFixed(1)} times the least possible effort`
        : 'how far from the best is not known'
  return `The best of ${w.steps.toLocaleString('en')} tries; not proved: ${least}.`
}

type Turn = PlanTold['people'][number]['turns'][number]
/** Whether a turn ends in time, by how long what is left of it usually takes; null where nothing is left. */
export function sayChance({ chance, to }: Turn, zone: string): string | null {
  if (!chance) return null
  return `usually done at ${clockOf(chance.ends, zone)}, ${chance.says} by ${clockOf(to, zone)}`
}
/** How long somebody takes for a job of its kind, where that was seen. */
export function sayOwn(plan: PlanTold | null, person: string, job: string): string | null {
  const p = plan?.people.find((x) => x.id === person)
  const u = p?.usual.find((x) => x.job === job)
  return p && u
    ? `${p.name} usually needs ${u.minutes} min, ${u.slow} at most in 9 of 10 (${u.runs === 1 ? 'once' : `${u.runs} times`} before)`
    : null
}

export const IMPORTANCE_WORDS = ['can wait', 'low', 'usual', 'high', 'first of all'] as const
