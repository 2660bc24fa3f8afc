import { smallestStep } from '../noise.ts'
import type { LogFinding, Values } from './finding.ts'

const WHOLE_SHARE = 0.99

/** A log that moves in steps as large as its own scatter: the resolution hides what it does. */
export function quantised(s: Values, zeroShare: number, limits: readonly number[]): LogFinding | null {
  const step = smallestStep(s.x)
  if (!(step > 0)) return null
  let [pairs, zeros, whole] = [0, 0, 0]
  for (let i = 1; i < s.n; i++) {
    const [x, before] = [s.x[i] ?? 0, s.x[i - 1] ?? 0]
    if (x === before && limits.includes(x)) continue
    pairs++
    if (x === before) zeros++
    else {
      const steps = Math.abs(x - before) / step
      if (Math.abs(steps - Math.round(steps)) <= 0.01) whole++
    }
  }
  const share = zeros / Math.max(1, pairs)
  if (share < zeroShare || whole < WHOLE_SHARE * (pairs - zeros)) return null
  return {
    code: 'QUANTISED',
    from: s.t[0] ?? 0,
    to: s.t[s.n - 1] ?? 0,
    evidence: { step, zeroShare: share },
  }
}
