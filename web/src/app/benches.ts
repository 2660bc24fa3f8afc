import type { Part } from '@calm/core/loop/summary'
import type { Component } from 'vue'

/** One bench of a loop. A new bench is one entry here and its feature folder. */
export interface Bench {
  readonly id: string
  readonly title: string
  /** The part of the work whose state it shows; the record has none. */
  readonly part: Part | null
  /** One key opens it. */
  readonly key: string
  readonly component: () => Promise<{ default: Component }>
}

/** In the order of work. Benches that are not built yet are not here. */
export const BENCHES: readonly Bench[] = [
  {
    id: 'scale',
    title: 'Scale',
    part: 'scale',
    key: 'c',
    component: () => import('../features/scale/ScaleBench.vue'),
  },
  {
    id: 'verify',
    title: 'Verify',
    part: 'verify',
    key: 'v',
    component: () => import('../features/verify/VerifyBench.vue'),
  },
  {
    id: 'record',
    title: 'Record',
    part: null,
    key: 'r',
    component: () => import('../features/record/RecordBench.vue'),
  },
]
