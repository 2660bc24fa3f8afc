import { z } from 'zod'
import type { Does } from './does.ts'

/** Where a job comes from: what the record asks for, or what somebody entered. */
export const JOB_KINDS = [
  'verify',
  'again',
  'drift',
  'goOn',
  'stop',
  'sheet',
  'certificate',
  'byHand',
] as const
export type JobKind = (typeof JOB_KINDS)[number]
export const KIND_WORDS: Readonly<Record<JobKind, string>> = {
  verify: 'due',
  again: 'to do again',
  drift: 'drifts',
  goOn: 'left open',
  stop: 'must not stay so',
  sheet: 'settings sheet',
  certificate: 'certificate ends',
  byHand: 'entered',
}

/** An instrument that a job is done with: what it has to cover, and what may be wrong there. */
export const NeedSchema = z.object({
  what: z.string().max(120),
  low: z.number(),
  high: z.number(),
  unit: z.string().max(40),
  allowed: z.number().positive(),
})
export type JobNeed = z.output<typeof NeedSchema>

/** A hold point: so many minutes after the beginning somebody has to let the work go on. */
export const HoldSchema = z.object({ at: z.int().min(0), minutes: z.int().min(1), role: z.string().max(120) })

/** How a second person is needed. */
export const HelperSchema = z.enum(['none', 'radio', 'throughout'])
export type HelperNeed = z.output<typeof HelperSchema>

/** What it takes to do a job. */
export interface Work {
  /** Name under which its usual time is learnt: what is done on which kind of meter. */
  readonly procedure: string
  /** Where nobody has done it yet, minutes. */
  readonly standard_min: number
  readonly setup_min: number
  /** What is carried and set up for it; set up once for jobs one after another. */
  readonly kit: string | null
  readonly helper: HelperNeed
  readonly needs: readonly JobNeed[]
  /** Couplant, buffers, nitrogen, by item in the item's unit. */
  readonly uses: Readonly<Record<string, number>>
  /** What has to be carried besides: plain words. */
  readonly tools: readonly string[]
  readonly permissions: readonly string[]
}

/** Something that has to be done, with its reason. */
export interface Job {
  /** Stays the same while the job does. */
  readonly key: string
  /** Short, and no other job of the day has it. */
  readonly title: string
  readonly kind: JobKind
  readonly loop: { readonly id: string; readonly tag: string; readonly service: string } | null
  readonly area: string
  /** Of the area; ground is 0. */
  readonly floor: number
  /** Why it is to be done, in a sentence. */
  readonly why: string
  /** Page on which it is done. */
  readonly to: string | null
  /** Day from which it is late. */
  readonly due: string
  readonly importance: number
  readonly work: Work
  /** Keys of jobs that have to be done before. */
  readonly after: readonly string[]
  readonly does: Does
  /** What happened before it was entered proves nothing; null: whatever happened counts. An instant. */
  readonly since: string | null
}

/**
 * Things that are called the same are told apart by a number: every name stands once, whatever people call things.
 * @param named - the thing under another name
 */
export function toldApart<T>(
  all: readonly T[],
  nameOf: (x: T) => string,
  named: (x: T, name: string) => T,
): T[] {
  const taken = new Set(all.map(nameOf))
  const used = new Set<string>()
  return all.map((x) => {
    const name = nameOf(x)
    if (!used.has(name)) {
      used.add(name)
      return x
    }
    let n = 2
    while (taken.has(`${name} (${n})`)) n++
    const other = `${name} (${n})`
    taken.add(other)
    used.add(other)
    return named(x, other)
  })
}
