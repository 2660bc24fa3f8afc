import { familyOf } from '@calm/core/family/index'
import { whatIfTask } from '@calm/core/family/what-if'
import { Generator } from '@calm/core/statistics/generator'
import { BLOCK, MonteCarlo } from '@calm/core/statistics/monte-carlo'
import type { Figure } from './report.ts'

const TRIALS = 1_000_000

/** A million trials of a clamp-on reading against a plain loop over typed arrays doing the same sums. */
export function monteCarloFigures(): Figure[] {
  const family = familyOf('clamp-on')
  const task = family && whatIfTask(family, {}, {}, { seed: 20317, digits: 2, leastBlocks: TRIALS / BLOCK })
  if (!task) throw new Error('the clamp-on family has no reading to vary')
  const engine = () => {
    const mc = new MonteCarlo({ ...task, mostBlocks: TRIALS / BLOCK })
    while (!mc.step());
    return mc.result().u
  }
  const value = Float64Array.from(task.inputs, (i) => i.value)
  const spread = Float64Array.from(task.inputs, (i) => i.spread)
  const plain = () => {
    const g = new Generator(20317)
    const x = new Float64Array(value.length)
    const y = new Float64Array(TRIALS)
    for (let t = 0; t < TRIALS; t++) {
      for (let i = 0; i < x.length; i++) x[i] = (value[i] ?? 0) + (spread[i] ?? 0) * (2 * g.uniform() - 1)
      y[t] = task.model(x)
    }
    return y[0] ?? 0
  }
  const time = (run: () => number) => {
    const begun = performance.now()
    if (!Number.isFinite(run())) throw new Error('not a number')
    return performance.now() - begun
  }
  time(plain)
  const [a, b] = [time(engine), time(plain)]
  return [
    {
      title: 'a million trials of a clamp-on flow',
      measured: `${(a / 1000).toFixed(2)} s`,
      against: `${(b / 1000).toFixed(2)} s plain loop over typed arrays`,
      ratio: a / b,
      wanted: 'at most 2',
    },
  ]
}
