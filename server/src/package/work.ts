import type { Work } from '../work/work.ts'
import type { ProvedPackage } from './prove.ts'

/** A package proved: one of decades takes a few seconds, and what it holds may be anything. */
export const provePackageWork: Work<{ readonly bytes: Uint8Array; readonly now: string }, ProvedPackage> = {
  name: 'prove-package',
  time_ms: 20_000,
  memory_MB: 1_024,
}
