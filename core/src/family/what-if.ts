import type { Typed } from '../quantity/setting.ts'
import { combine, type Budget } from '../statistics/budget.ts'
import type { MonteCarloTask } from '../statistics/monte-carlo.ts'
import type { Family, UncertainInput } from './family.ts'

export interface Effect extends UncertainInput {
  readonly tolerance: number
  /** Change of the reading by that tolerance, %. */
  readonly effect_pct: number
}

/** How well entries are known, where somebody said so; half widths in the entry's unit. */
export type Tolerances = Readonly<Record<string, number>>

interface Compiled {
  readonly inputs: readonly (UncertainInput & { readonly tolerance: number })[]
  readonly model: (x: ArrayLike<number>) => number
}

/** Inputs and model of a set-up's reading; null where the entries give none. */
function compile(f: Family, values: Typed, tolerances: Tolerances): Compiled | null {
  if (!f.whatIf) return null
  const model = f.whatIf.model(values)
  if (!model) return null
  return {
    model,
    inputs: f.whatIf
      .inputs(values)
      .map((i) => ({ ...i, tolerance: tolerances[i.name] ?? Number(i.usual.toPrecision(2)) })),
  }
}

/** Each input moved by its tolerance alone, in the family's order. */
export function effectsOf(f: Family, values: Typed, tolerances: Tolerances = {}): Effect[] {
  const c = compile(f, values, tolerances)
  if (!c) return []
  const base = c.inputs.map((i) => i.value)
  return c.inputs.map((i, n) => {
    const up = c.model(base.with(n, i.value + i.tolerance))
    const down = c.model(base.with(n, i.value - i.tolerance))
    return { ...i, effect_pct: (up - down) / 2 }
  })
}

/** The largest effects first; what does not matter at all is left out. */
export const sensitivityOf = (f: Family, values: Typed, tolerances: Tolerances = {}): Effect[] =>
  effectsOf(f, values, tolerances)
    .filter((e) => Math.abs(e.effect_pct) > 1e-6)
    .sort((a, b) => Math.abs(b.effect_pct) - Math.abs(a.effect_pct))

/** The budget of the reading, % of reading, lines in the order of `effectsOf`. @see JCGM 100 */
export const readingBudget = (effects: readonly Effect[]): Budget =>
  combine(effects.map((e) => ({ value: e.effect_pct, distribution: 'rect', c: 1 })))

/** The same question for trials: every input drawn from its rectangle. @see JCGM 101 */
export function whatIfTask(
  f: Family,
  values: Typed,
  tolerances: Tolerances,
  run: Pick<MonteCarloTask, 'seed' | 'digits' | 'leastBlocks'>,
): MonteCarloTask | null {
  const c = compile(f, values, tolerances)
  if (!c) return null
  return {
    ...run,
    inputs: c.inputs.map((i) => ({ value: i.value, spread: i.tolerance, distribution: 'rect' })),
    model: c.model,
  }
}
