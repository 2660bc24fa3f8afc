import type { Part } from '@calm/core/loop/parts'
import type { Component } from 'vue'

/** One bench of a loop. A new bench is one entry here and its feature folder. */
export interface Bench {
  readonly id: string
  readonly title: string
  /** The part of the work whose state it shows; the record has none. */
  readonly part: Part | null
  /** Readings are taken here: the line shows what was read, and nothing computed beside it. */
  readonly reads?: true
  /** The loop's document is changed and saved here. */
  readonly saves?: true
  /** One key opens it. */
  readonly key: string
  readonly component: () => Promise<{ default: Component }>
}

/** In the order of work. */
export const BENCHES: readonly Bench[] = [
  {
    id: 'wire',
    title: 'Wire',
    part: 'wire',
    saves: true,
    key: 'w',
    component: () => import('../features/wire/WireBench.vue'),
  },
  {
    id: 'set-up',
    title: 'Set up',
    part: 'setUp',
    saves: true,
    key: 's',
    component: () => import('../features/set-up/SetUpBench.vue'),
  },
  {
    id: 'scale',
    title: 'Scale',
    part: 'scale',
    saves: true,
    key: 'c',
    component: () => import('../features/scale/ScaleBench.vue'),
  },
  {
    id: 'trim',
    title: 'Trim',
    part: 'trim',
    reads: true,
    key: 't',
    component: () => import('../features/trim/TrimBench.vue'),
  },
  {
    id: 'verify',
    title: 'Verify',
    part: 'verify',
    reads: true,
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
