import { Generator } from '../statistics/generator.ts'

export type Direction = 'up' | 'down'

export interface PlanPoint {
  /** Position in the plan, from 0. */
  readonly index: number
  /** Percent of the output span. */
  readonly level_pct: number
  readonly direction: Direction
}

const even = (n: number) => Array.from({ length: n }, (_, i) => (100 * i) / (n - 1))

/** Levels in percent of span and whether they are taken up only or up and down. */
export const PLANS = {
  P3: { title: '3 points up', levels: even(3), down: false },
  P5: { title: '5 points up', levels: even(5), down: false },
  P5UD: { title: '5 points up and down (9 readings)', levels: even(5), down: true },
  P6UD: { title: '6 points up and down (11 readings)', levels: even(6), down: true },
  P9: { title: '9 points up', levels: even(9), down: false },
  P11: { title: '11 points up', levels: even(11), down: false },
  P11UD: { title: '11 points up and down (21 readings)', levels: even(11), down: true },
} as const

export type PlanName = keyof typeof PLANS
export const PLAN_NAMES = Object.keys(PLANS) as [PlanName, ...PlanName[]]

/**
 * The points of a plan in the order they are taken: rising first, then falling without repeating the top.
 * @see IEC 61298-2, test points both upscale and downscale
 */
export function planPoints(levels_pct: readonly number[], down: boolean): PlanPoint[] {
  const along = (levels: readonly number[], direction: Direction) =>
    levels.map((level_pct) => ({ level_pct, direction }))
  const back = down ? along([...levels_pct].reverse().slice(1), 'down') : []
  return [...along(levels_pct, 'up'), ...back].map((p, index) => ({ index, ...p }))
}

/** The points of a plan that has a name. */
export const namedPlan = (name: PlanName): PlanPoint[] => planPoints(PLANS[name].levels, PLANS[name].down)

/** In which order the levels of a list are taken. */
export const WAYS = {
  up: 'rising',
  down: 'falling',
  both: 'rising, then falling',
  random: 'in random order',
} as const
export type Way = keyof typeof WAYS

/** A plan of one's own: levels in percent of span, their order, and how often all of it is repeated. */
export interface OwnPlan {
  readonly levels_pct: readonly number[]
  readonly way: Way
  readonly repeats: number
  /** Of the random order, so that it can be told again. */
  readonly seed: number
}
export type Plan = PlanName | OwnPlan

/** Readings that a plan may have: a day has so many hours. */
export const MOST_POINTS = 61

function shuffled(levels: readonly number[], g: Generator): number[] {
  const out = [...levels]
  for (let i = out.length - 1; i > 0; i--) {
    const k = Math.floor(g.uniform() * (i + 1))
    const held = out[i] ?? 0
    out[i] = out[k] ?? 0
    out[k] = held
  }
  return out
}

/** The points of any plan in the order they are taken; each has the direction from which its level is reached. */
export function pointsOf(plan: Plan): PlanPoint[] {
  if (typeof plan === 'string') return namedPlan(plan)
  const rising = [...plan.levels_pct].sort((a, b) => a - b)
  const g = new Generator(plan.seed)
  const cycle = (): PlanPoint[] => {
    switch (plan.way) {
      case 'up':
        return planPoints(rising, false)
      case 'both':
        return planPoints(rising, true)
      case 'down':
        return [...rising].reverse().map((level_pct, index) => ({ index, level_pct, direction: 'down' }))
      case 'random':
        return shuffled(rising, g).map((level_pct, index, all) => ({
          index,
          level_pct,
          direction: level_pct >= (all[index - 1] ?? 0) ? 'up' : 'down',
        }))
    }
  }
  return Array.from({ length: plan.repeats }, cycle)
    .flat()
    .map((p, index) => ({ ...p, index }))
}

/** A plan in words. */
export const sayPlan = (plan: Plan): string =>
  typeof plan === 'string'
    ? PLANS[plan].title
    : `${plan.levels_pct.map((l) => String(l)).join(', ')} % ${WAYS[plan.way]}${plan.repeats > 1 ? `, ${plan.repeats} times` : ''}${plan.way === 'random' ? ` (seed ${plan.seed})` : ''}`
