import type { Finding } from '../finding.ts'
import { when } from '../quantity/condition.ts'
import { sayNumber } from '../quantity/round.ts'
import { choice, number, type SettingValue } from '../quantity/setting.ts'
import { entryFix } from './entry-fix.ts'
import { group } from './family.ts'

/** The first reading after a set-up, against what is known to be there. */
const compared = when('compared', 'yes')
export const firstReadingGroup = (
  unit: string,
  known: { readonly standard: number; readonly min: number; readonly max: number },
) =>
  group('First reading', [
    choice('compared', 'Compared with a known one', 'no', { no: 'not yet', yes: 'compared' }),
    number('known', 'Known to be there', unit, known.standard, known.min, known.max, compared),
    number('reads', 'It reads', unit, known.standard, known.min, known.max, compared),
  ])

/** Something people do wrong, with the reading that it would give. */
export interface ReadingSlip {
  readonly says: string
  /** Reading that it would give of what is known; NaN where it would give none. */
  readonly reads: number
  /** How much the reading moves with what is known; 1 where it is silent. */
  readonly slope?: number
  /** The entry that mends it, where it is one. */
  readonly set?: Readonly<Record<string, SettingValue | undefined>>
}

const MOST = 3
/** A slip that stands earlier is so much likelier, in shares of what is allowed. */
const EARLIER = 0.02
/**
 * A first reading judged: it agrees, or the slips that would explain it, the nearest first.
 * @param agrees - how far it may be off, in its own unit
 * @param slips - the likeliest first; of two that explain equally well the first stays first
 */
export function judgeFirstReading(
  r: {
    readonly known: number
    readonly reads: number
    readonly unit: string
    readonly agrees: number
    /** What both entries are before anybody touches them; 0 where it is silent. */
    readonly untouched?: number
  },
  slips: readonly ReadingSlip[],
): Finding[] {
  // Chosen and left as it stood: two usual values that are alike prove nothing.
  if (r.known === r.reads && (r.untouched ?? 0) === r.known)
    return [
      {
        code: 'READING_NOT_ENTERED',
        severity: 'note',
        where: ['known', 'reads'],
        says: 'Not judged: enter what is known to be there and what it reads. Two values left as they stood prove nothing.',
      },
    ]
  const off = r.reads - r.known
  const say = (x: number) => `${sayNumber(x, 5)} ${r.unit}`
  if (Math.abs(off) <= r.agrees)
    return [
      {
        code: 'READING_AGREES',
        severity: 'good',
        where: ['reads'],
        says: `The first reading agrees: ${say(r.reads)} for ${say(r.known)}, allowed ±${say(r.agrees)}.`,
      },
    ]
  const likely = slips
    .map((s, i) => {
      // What is known is known only so well, and the slip carries that along.
      const allowed = Math.max(r.agrees * Math.abs(s.slope ?? 1), 1e-4 * Math.abs(r.reads))
      const misfit = Math.abs(s.reads - r.reads) / allowed
      return { ...s, misfit, rank: misfit + i * EARLIER }
    })
    .filter((s) => s.misfit <= 1)
    .sort((a, b) => a.rank - b.rank)
    .slice(0, MOST)
  return [
    {
      code: 'READING_OFF',
      severity: 'stop',
      where: ['reads'],
      says: `It reads ${say(r.reads)} and ${say(r.known)} is there: ${say(Math.abs(off))} too ${off > 0 ? 'much' : 'little'}.${likely.length === 0 ? ' None of the usual slips explains it: look at the sensor and its wiring.' : ''}`,
    },
    ...likely.map((s, i) => ({
      code: 'LIKELY_CAUSE',
      severity: 'note' as const,
      where: Object.keys(s.set ?? {}),
      says: `${i === 0 ? 'Likeliest' : 'Or'}: ${s.says}.`,
      evidence: [{ label: 'it would read', value: say(s.reads) }],
      ...(s.set ? { fix: entryFix('Enter it so', s.set) } : {}),
    })),
  ]
}

/** Slips that any range can have: taken the wrong way round, with a root, or with a current from 0. */
export function rangeSlips(known: number, low: number, high: number): ReadingSlip[] {
  const f = (known - low) / (high - low)
  const at = (fraction: number) => low + fraction * (high - low)
  return [
    { says: 'the 4 and the 20 mA point are exchanged at the receiver', reads: at(1 - f), slope: -1 },
    {
      says: 'a square root is taken that does not belong here',
      reads: f > 0 ? at(Math.sqrt(f)) : NaN,
      slope: 0.5 / Math.sqrt(f),
    },
    { says: 'the receiver counts 0 to 20 mA and gets 4 to 20', reads: at(0.2 + 0.8 * f), slope: 0.8 },
    {
      says: 'the transmitter gives 0 to 20 mA and the receiver counts 4 to 20',
      reads: at((f - 0.2) / 0.8),
      slope: 1.25,
    },
  ]
}
