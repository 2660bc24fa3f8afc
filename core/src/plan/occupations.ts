import type { Day, JobOf, Placed, Turn } from './problem.ts'

/** A stretch in which somebody is taken: at the job, with its person, or at the radio. */
export interface Occupation {
  readonly kind: 'main' | 'with' | 'radio'
  readonly job: number
  readonly person: number
  /** −1: it lies in no turn of the person. */
  readonly turn: number
  readonly from: number
  readonly to: number
}

/** The turn of a person in which a minute lies; −1: none. */
export const turnAt = (d: Day, person: number, minute: number): number =>
  d.turns.findIndex((t) => t.person === person && t.from <= minute && minute < t.to)

/** Parts of a radio helper, by when they begin behind the start of the job. */
export function radioParts(j: JobOf): readonly { readonly at: number; readonly minutes: number }[] {
  const h = j.helper
  if (h?.how !== 'radio') return []
  return [
    { at: 0, minutes: h.begin },
    { at: j.minutes - h.end, minutes: h.end },
  ].filter((p) => p.minutes > 0)
}

/** Who is taken by a placing, and when. */
export function occupationsOf(d: Day, p: Placed): Occupation[] {
  const j = d.jobs[p.job]
  if (!j) return []
  const of = (kind: Occupation['kind'], person: number, from: number, to: number): Occupation => ({
    kind,
    job: p.job,
    person,
    turn: turnAt(d, person, from),
    from,
    to,
  })
  const main = of('main', p.person, p.start, p.start + j.minutes)
  if (!j.helper || p.helper < 0 || p.helper === p.person) return [main]
  if (j.helper.how === 'throughout') return [main, { ...of('with', p.helper, main.from, main.to) }]
  return [
    main,
    ...radioParts(j).map((r) => of('radio', p.helper, p.start + r.at, p.start + r.at + r.minutes)),
  ]
}

/** A block with what lies before it: the way there, and setting up. */
export interface Block extends Occupation {
  readonly walk: number
  readonly setup: number
}
export interface TurnPlan {
  readonly turn: Turn
  readonly occupations: readonly Occupation[]
  readonly blocks: readonly Block[]
  /** The way home from the last block. */
  readonly back: number
}

/** A turn's occupations in their order, each block with its preparation. */
export function turnPlan(d: Day, turn: Turn, occupations: readonly Occupation[]): TurnPlan {
  const sorted = [...occupations].sort((a, b) => a.from - b.from || a.job - b.job)
  const blocks: Block[] = []
  let [area, kit]: [number, string | null] = [turn.area, null]
  for (const o of sorted) {
    const j = d.jobs[o.job]
    if (!j || o.kind === 'radio') continue
    const walk = d.walk[area]?.[j.area] ?? 0
    const setup = o.kind === 'with' || (j.kit !== null && j.kit === kit) ? 0 : j.setup
    blocks.push({ ...o, walk, setup })
    area = j.area
    if (o.kind === 'main') kit = j.kit
  }
  return { turn, occupations: sorted, blocks, back: d.walk[area]?.[turn.area] ?? 0 }
}

/** Every turn with what is done in it. */
export const turnPlans = (d: Day, placed: readonly Placed[]): TurnPlan[] => {
  const all = placed.flatMap((p) => occupationsOf(d, p))
  return d.turns.map((t, i) =>
    turnPlan(
      d,
      t,
      all.filter((o) => o.turn === i),
    ),
  )
}
