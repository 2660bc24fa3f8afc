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

export const namedPlan = (name: PlanName): PlanPoint[] => planPoints(PLANS[name].levels, PLANS[name].down)
