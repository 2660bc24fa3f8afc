import { deviation } from '../numeric/deviation.ts'
import { mean } from '../numeric/mean.ts'
import type { Distribution } from './budget.ts'
import { Generator } from './generator.ts'

/** How one input varies about its value. */
export interface Input {
  readonly value: number
  /** Half width, full step or stated U, as in a budget. */
  readonly spread: number
  readonly distribution: Distribution
  /** Degrees of freedom of a repeated reading; its draw then follows Student's distribution. */
  readonly nu?: number | undefined
}

/** Trials of a block; sorted together. */
export const BLOCK = 10_000
/** Past this many blocks the result is told as not converged. */
const MOST_BLOCKS = 200
const COVERAGE = 0.95

export interface BlockResult {
  readonly mean: number
  readonly u: number
  readonly low: number
  readonly high: number
}

export interface MonteCarloResult {
  readonly y: number
  readonly u: number
  /** Ends of the 95 % interval, as much probability below as above. */
  readonly low: number
  readonly high: number
  readonly blocks: number
  /** Numerical tolerance of the asked digits. */
  readonly delta: number
  readonly converged: boolean
  readonly seed: number
}

type Drawer = (g: Generator) => number

function drawerOf(i: Input): Drawer {
  const { value, spread, nu } = i
  if (nu !== undefined && Number.isFinite(nu)) {
    const u = i.distribution === 'normal2' ? spread / 2 : spread
    return (g) => {
      const z = g.normal()
      let chi2 = 0
      for (let n = 0; n < nu; n++) chi2 += g.normal() ** 2
      return value + (u * z) / Math.sqrt(chi2 / nu)
    }
  }
  switch (i.distribution) {
    case 'normal2':
      return (g) => value + (spread / 2) * g.normal()
    case 'normal1':
      return (g) => value + spread * g.normal()
    case 'rect':
      return (g) => value + spread * (2 * g.uniform() - 1)
    case 'resolution':
      return (g) => value + (spread / 2) * (2 * g.uniform() - 1)
    case 'tri':
      return (g) => value + spread * (g.uniform() + g.uniform() - 1)
    case 'arcsine':
      return (g) => value + spread * Math.sin(Math.PI * (2 * g.uniform() - 1))
  }
}

/** Half a unit of the last of `digits` digits of u. @see JCGM 101:2008, 7.9.2 */
export function numericalTolerance(u: number, digits: number): number {
  if (!(u > 0)) return 0
  let power = Math.floor(Math.log10(u)) - digits + 1
  if (Math.round(u / 10 ** power) >= 10 ** digits) power += 1
  return 0.5 * 10 ** power
}

export interface MonteCarloTask {
  readonly inputs: readonly Input[]
  /** The result of one trial from its inputs, in their order. The array is used again for every trial. */
  readonly model: (x: ArrayLike<number>) => number
  readonly seed: number
  /** Significant digits of u that must stand still. */
  readonly digits: number
  readonly mostBlocks?: number
  /** Run at least so many blocks, however soon the digits stand still. */
  readonly leastBlocks?: number
}

/** Propagates distributions block by block, until the wanted digits stand still. @see JCGM 101:2008, 7.9 */
export class MonteCarlo {
  private readonly generator: Generator
  private readonly drawers: readonly Drawer[]
  private readonly x: Float64Array
  private readonly results: BlockResult[] = []
  /** The newest block's results, sorted. */
  readonly sorted = new Float64Array(BLOCK)
  private readonly task: MonteCarloTask

  constructor(task: MonteCarloTask) {
    this.task = task
    this.generator = new Generator(task.seed)
    this.drawers = task.inputs.map(drawerOf)
    this.x = new Float64Array(task.inputs.length)
  }

  /** Runs one block. @returns true when no more are needed. */
  step(): boolean {
    const { x, drawers, generator, sorted } = this
    const { model } = this.task
    let sum = 0
    for (let t = 0; t < BLOCK; t++) {
      for (let i = 0; i < drawers.length; i++) x[i] = (drawers[i] as Drawer)(generator)
      const y = model(x)
      sorted[t] = y
      sum += y
    }
    sorted.sort()
    const m = sum / BLOCK
    let squares = 0
    for (let t = 0; t < BLOCK; t++) squares += ((sorted[t] ?? 0) - m) ** 2
    const q = Math.floor(COVERAGE * BLOCK + 0.5)
    const r = Math.floor((BLOCK - q + 1) / 2)
    this.results.push({
      mean: m,
      u: Math.sqrt(squares / (BLOCK - 1)),
      low: sorted[r - 1] ?? 0,
      high: sorted[r + q - 1] ?? 0,
    })
    return this.done()
  }

  get blocks(): number {
    return this.results.length
  }

  /** Share of the work that is likely done, for a progress bar. */
  progress(): number {
    if (this.done()) return 1
    const h = this.results.length
    if (h < 2) return 0.02
    const needed = (h * Math.max(...this.scatter()) ** 2) / Math.max(this.delta(), 1e-300) ** 2
    return Math.min(0.98, h / Math.max(needed, this.task.leastBlocks ?? 0, h + 1))
  }

  private delta(): number {
    return numericalTolerance(mean(this.results.map((b) => b.u)), this.task.digits)
  }
  /** Twice the standard error of each block statistic. */
  private scatter(): number[] {
    const h = Math.sqrt(this.results.length)
    return (['mean', 'u', 'low', 'high'] as const).map(
      (k) => (2 * deviation(this.results.map((b) => b[k]))) / h,
    )
  }
  private converged(): boolean {
    if (this.results.length < 2) return false
    const delta = this.delta()
    return delta === 0 || this.scatter().every((s) => s < delta)
  }
  private done(): boolean {
    const h = this.results.length
    if (h >= (this.task.mostBlocks ?? MOST_BLOCKS)) return true
    return h >= (this.task.leastBlocks ?? 2) && this.converged()
  }

  result(): MonteCarloResult {
    const all = (k: keyof BlockResult) => mean(this.results.map((b) => b[k]))
    return {
      y: all('mean'),
      u: all('u'),
      low: all('low'),
      high: all('high'),
      blocks: this.results.length,
      delta: this.delta(),
      converged: this.converged(),
      seed: this.task.seed,
    }
  }
}

/** Runs to the end in one go; for tests and the server. */
export function runMonteCarlo(task: MonteCarloTask): MonteCarloResult {
  const mc = new MonteCarlo(task)
  while (!mc.step());
  return mc.result()
}
