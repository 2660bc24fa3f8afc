import type { Progress } from '@calm/contract/api/news'
import type { Work } from '../work/work.ts'
import type { Parts } from './make.ts'
import type { Packed } from './pack.ts'
import type { ProvedPackage } from './prove.ts'

/** A package proved and its certificates printed again: one of decades takes half a minute, and what it holds may be anything. */
export const provePackageWork: Work<{ readonly bytes: Uint8Array; readonly now: string }, ProvedPackage> = {
  name: 'prove-package',
  time_ms: 120_000,
  memory_MB: 1_024,
}

/** A package made, telling how many of its certificates are printed: each certificate of decades takes a fifth of a second. */
export const makePackageWork: Work<Parts, Packed, Progress> = {
  name: 'make-package',
  time_ms: 120_000,
  memory_MB: 1_024,
}
