import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'

const RULE = 'typical; the supplier’s limits win'
/** The three steps of a sign of the signal: good from the first, poor below the second. */
function graded(
  value: number,
  [good, fair]: readonly [number, number],
  at: { readonly code: string; readonly where: string; readonly is: string; readonly poor: string },
): Finding[] {
  if (value === 0) return []
  const severity = value >= good ? 'good' : value >= fair ? 'warn' : 'stop'
  const word = { good: 'good', warn: 'fair', stop: 'poor' }[severity]
  return [
    finding(
      at.code,
      severity,
      at.where,
      `${at.is} is ${word}${severity === 'good' ? '' : `: ${at.poor}`}.`,
      RULE,
    ),
  ]
}

/** The signal in the terms that devices show: strength, noise, reserve, shots; and what moving a sensor did. */
export function signalFindings(s: Entries): Finding[] {
  const strength = s.moved_pct > 0 ? s.moved_pct : s.signal_pct
  return [
    ...graded(strength, [60, 40], {
      code: 'SIGNAL_STRENGTH',
      where: s.moved_pct > 0 ? 'moved_pct' : 'signal_pct',
      is: `A signal of ${sayNumber(strength)} %`,
      poor: 'couplant, position, film, or the wrong sensors',
    }),
    ...(s.moved_pct > 0 && s.signal_pct > 0 && s.moved_pct < s.signal_pct
      ? [
          finding(
            'MOVED_WORSE',
            'warn',
            'moved_pct',
            `Moving the sensor took ${sayNumber(s.signal_pct - s.moved_pct)} % of the signal: put it back where it was.`,
          ),
        ]
      : []),
    ...graded(s.snr_dB, [20, 12], {
      code: 'SIGNAL',
      where: 'snr_dB',
      is: `Signal to noise of ${sayNumber(s.snr_dB)} dB`,
      poor: 'couplant, position, scale, gas in the liquid, or the wrong place',
    }),
    ...graded(s.gain_dB, [12, 6], {
      code: 'GAIN',
      where: 'gain_dB',
      is: `A reserve of ${sayNumber(s.gain_dB)} dB`,
      poor: 'the amplifier is nearly at its end',
    }),
    ...graded(s.accepted_pct, [90, 70], {
      code: 'SHOTS',
      where: 'accepted_pct',
      is: `${sayNumber(s.accepted_pct)} % of the shots accepted`,
      poor: 'bubbles, solids, or a sensor that moves',
    }),
  ]
}
