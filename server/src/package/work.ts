import type { Progress } from '@calm/contract/api/news'
import type { Work } from '../work/work.ts'
import type { Parts } from './make.ts'
import type { Packed } from './pack.ts'
import type { Print } from './papers.ts'
import type { ProvedPackage } from './prove.ts'

/** A package proved: one of decades takes a few seconds, and what it holds may be anything. */
export const provePackageWork: Work<{ readonly bytes: Uint8Array; readonly now: string }, ProvedPackage> = {
  name: 'prove-package',
  time_ms: 20_000,
  memory_MB: 1_024,
}

/** A package made, telling how many of its certificates are printed: each certificate of decades takes a fifth of a second. */
export const makePackageWork: Work<Parts, Packed, Progress> = {
  name: 'make-package',
  time_ms: 120_000,
  memory_MB: 1_024,
}

/** One certificate printed again and compared: others come in between. */
export const comparePaper: Work<Print, boolean> = {
  name: 'compare-paper',
  time_ms: 20_000,
  memory_MB: 512,
}
