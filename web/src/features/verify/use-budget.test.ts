import { NO_EXTRAS, type ComparisonExtras, type KnownInstrument } from '@calm/core/verify/comparison-budget'
import { readEquipment } from '@calm/core/verify/equipment-spec'
import type { LoopScale } from '@calm/core/verify/reading-errors'
import { loopScale } from '@calm/core/verify/reading-errors'
import { defaultPath } from '@calm/core/loop/default-path'
import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import type { TrialsOrder } from '../../trials/trials.worker.ts'
import { useBudget } from './use-budget.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const scale = loopScale(defaultPath({ transmitter: range, squareRoot: false, receiver: range })) as LoopScale
function known(name: string, words: string, uncertainty: string): KnownInstrument {
  const read = readEquipment({ range: words, uncertainty, drift: '', resolution: '' })
  if (read.kind === 'refused') throw new Error(read.says)
  return { name, functions: read.functions }
}
const BOTH = [known('Pump', '0 to 100 bar g', '0.012 bar'), known('Meter', '0 to 24 mA', '0.002 mA')]

/** A worker that waits to be told what it found. */
class Trials {
  static newest: Trials | null = null
  onmessage: ((e: { data: unknown }) => void) | null = null
  order: TrialsOrder | null = null
  ended = false
  constructor() {
    Trials.newest = this
  }
  postMessage(order: TrialsOrder): void {
    this.order = order
  }
  terminate(): void {
    this.ended = true
  }
  tell(data: unknown): void {
    this.onmessage?.({ data })
  }
  found(half: number): void {
    const result = {
      y: 0,
      u: half / 2,
      low: -half,
      high: half,
      blocks: 4,
      delta: 0.0005,
      converged: true,
      seed: 20317,
    }
    this.tell({ kind: 'done', result, bars: [] })
  }
}
let scope: EffectScope
const instruments = ref<readonly KnownInstrument[]>([])
const extras = ref<ComparisonExtras>(NO_EXTRAS)
beforeEach(() => {
  vi.stubGlobal('Worker', Trials)
  instruments.value = BOTH
  extras.value = NO_EXTRAS
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})
function open() {
  scope = effectScope()
  const budget = scope.run(() => useBudget(scale, instruments, extras))
  if (!budget) throw new Error('no budget')
  return budget
}

describe('how sure a verification will be', () => {
  test('nothing chosen: nothing agreed', () => {
    instruments.value = []
    expect(open().agreed.value).toBeNull()
  })
  test('by the formula at once, with every line for the record', () => {
    const b = open()
    expect(b.agreed.value?.U_pct).toBeCloseTo(2 * Math.hypot(0.6 / 80, 0.1 / 16), 4)
    expect(b.agreed.value?.budget).toMatchObject({ method: 'formula', seed: null, missing: [] })
    expect(b.agreed.value?.budget.lines).toHaveLength(2)
  })
  test('trials that bear it out leave it; their seed is kept', () => {
    const b = open()
    b.start()
    expect(Trials.newest?.order).toMatchObject({ kind: 'comparison', seed: 20317 })
    Trials.newest?.tell({ kind: 'progress', share: 0.4, trials: 20_000 })
    expect(b.share.value).toBe(0.4)
    const U95 = 1.96 * b.made.value.budget.uc
    Trials.newest?.found(U95)
    expect(b.tried.value?.validated).toBe(true)
    expect(b.agreed.value?.budget).toMatchObject({ method: 'formula', seed: 20317 })
  })
  test('trials that do not are used instead', () => {
    const b = open()
    b.start()
    Trials.newest?.found(0.5)
    expect(b.agreed.value?.U_pct).toBe(0.5)
    expect(b.agreed.value?.budget.method).toBe('trials')
  })
  test('what was tried belongs to the lines of then', async () => {
    const b = open()
    b.start()
    Trials.newest?.found(0.5)
    extras.value = { ...NO_EXTRAS, temperature_pct_C: 0.01, temperature_C: 10 }
    await nextTick()
    expect(b.tried.value).toBeNull()
    expect(b.agreed.value?.budget.lines).toHaveLength(3)
  })
  test('leaving ends the worker', () => {
    open().start()
    scope.stop()
    expect(Trials.newest?.ended).toBe(true)
  })
})
