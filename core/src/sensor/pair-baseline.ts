import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'

/** What a pair did on its block when it was new, and when it lay there last; 0: not known. */
export interface OnTheBlock {
  readonly newSignal_pct: number
  readonly newGain_dB: number
  readonly lastSignal_pct: number
  readonly lastGain_dB: number
}

/** Half the amplitude is lost at 6 dB; half of that is what couplant and temperature make by themselves. */
const WORN_DB = 6
const LOOK_DB = 3

/** What is lost of the signal since the pair was new, dB; null where either is not known. */
export function lost_dB(b: OnTheBlock): number | null {
  if (b.newGain_dB > 0 && b.lastGain_dB > 0) return b.newGain_dB - b.lastGain_dB
  return b.newSignal_pct > 0 && b.lastSignal_pct > 0
    ? 20 * Math.log10(b.newSignal_pct / b.lastSignal_pct)
    : null
}

/** A pair held against itself: what its last bench check lost against the first; null where one of both is missing. */
export function judgeBaseline(b: OnTheBlock): Finding | null {
  const lost = lost_dB(b)
  if (lost === null) return null
  const by = b.newGain_dB > 0 && b.lastGain_dB > 0 ? 'lastGain_dB' : 'lastSignal_pct'
  const common = { where: [by], rule: 'typical: 6 dB are half of the amplitude' }
  if (lost > WORN_DB)
    return {
      ...common,
      code: 'PAIR_WORN',
      severity: 'stop',
      says: `On its block the pair has ${sayNumber(lost, 2)} dB less than when it was new, less than half of the amplitude: clean the faces, take new couplant and measure again; if it stays, the pair is worn.`,
    }
  if (lost > LOOK_DB)
    return {
      ...common,
      code: 'PAIR_WEAKER',
      severity: 'warn',
      says: `On its block the pair has ${sayNumber(lost, 2)} dB less than when it was new: clean faces, new couplant, the same temperature, and measure again.`,
    }
  if (lost < -LOOK_DB)
    return {
      ...common,
      code: 'PAIR_STRONGER',
      severity: 'warn',
      says: `On its block the pair has ${sayNumber(-lost, 2)} dB more than when it was new: another block, another pair, or the two figures are exchanged.`,
    }
  return {
    ...common,
    code: 'PAIR_AS_NEW',
    severity: 'good',
    says: `On its block the pair is within ${LOOK_DB} dB of what it was when new.`,
  }
}
