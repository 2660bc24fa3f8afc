import { familyOf } from '@calm/core/family/index'
import { whatIfTask, type Tolerances } from '@calm/core/family/what-if'
import type { SettingValue } from '@calm/core/quantity/setting'
import {
  BLOCK,
  MonteCarlo,
  type MonteCarloResult,
  type MonteCarloTask,
} from '@calm/core/statistics/monte-carlo'
import { comparisonTask, type ComparisonLine } from '@calm/core/verify/comparison-budget'

/** What to try: a set-up by its family and entries, or the lines of a budget; never a function. */
export type TrialsOrder = { readonly seed: number; readonly leastBlocks: number } & (
  | {
      readonly kind: 'setUp'
      readonly family: string
      readonly values: Readonly<Record<string, SettingValue>>
      readonly tolerances: Tolerances
    }
  | { readonly kind: 'comparison'; readonly lines: readonly ComparisonLine[] }
)
export type TrialsReport =
  | { readonly kind: 'progress'; readonly share: number; readonly trials: number }
  | {
      readonly kind: 'done'
      readonly result: MonteCarloResult
      /** Bars of the last block: middle and share of trials, %. */
      readonly bars: readonly (readonly [number, number])[]
    }
  | { readonly kind: 'nothing' }

const BARS = 40
/** The page is told this often at most; more would only make it busy. */
const TELL_MS = 80

function histogram(sorted: Float64Array): [number, number][] {
  const low = sorted[0] ?? 0
  const width = ((sorted.at(-1) ?? 0) - low) / BARS
  if (!(width > 0)) return [[low, 100]]
  const counts = new Array<number>(BARS).fill(0)
  for (const y of sorted) {
    const bar = Math.min(BARS - 1, Math.floor((y - low) / width))
    counts[bar] = (counts[bar] ?? 0) + 1
  }
  return counts.map((n, i) => [low + (i + 0.5) * width, (100 * n) / sorted.length])
}

function taskOf(order: TrialsOrder): MonteCarloTask | null {
  const options = { seed: order.seed, digits: 2, leastBlocks: order.leastBlocks }
  if (order.kind === 'comparison') return comparisonTask(order.lines, options)
  const family = familyOf(order.family)
  return family && whatIfTask(family, order.values, order.tolerances, options)
}

const tell = (report: TrialsReport) => self.postMessage(report)

self.onmessage = ({ data }: MessageEvent<TrialsOrder>) => {
  const task = taskOf(data)
  if (!task) {
    tell({ kind: 'nothing' })
    return
  }
  const mc = new MonteCarlo(task)
  let told = performance.now()
  while (!mc.step())
    if (performance.now() - told > TELL_MS) {
      tell({ kind: 'progress', share: mc.progress(), trials: mc.blocks * BLOCK })
      told = performance.now()
    }
  tell({ kind: 'done', result: mc.result(), bars: histogram(mc.sorted) })
}
