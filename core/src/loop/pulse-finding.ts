import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { rangeIn } from '../signal/range-in.ts'
import type { LoopFacts } from './facts.ts'

/** Hertz per unit of flow that differ by less than this are the same factor typed twice. */
const SAME_FACTOR = 1e-4

/**
 * The frequency output that the device is told, against the stage of the signal path that a counter is scaled by;
 * nothing where nobody typed one, where both agree, or where their flows do not compare.
 */
export function pulseFinding({ pulses, shows, frequency }: LoopFacts): Finding | null {
  const at = pulses && shows ? rangeIn({ low: 0, high: pulses.atRate, unit: pulses.unit }, shows.unit) : null
  if (!pulses || !at || !shows) return null
  const told = `${sayNumber(pulses.frequency_Hz, 6)} Hz at ${sayNumber(at.high, 6)} ${printedUnit(shows.unit)}`
  const set = [
    { path: 'path.frequency.atRate', value: at.high },
    { path: 'path.frequency.frequency_Hz', value: pulses.frequency_Hz },
    { path: 'path.frequency.width_ms', value: pulses.width_ms },
    { path: 'path.frequency.limit_Hz', value: pulses.limit_Hz },
  ]
  if (!frequency)
    return {
      code: 'FREQUENCY_NOT_ON_PATH',
      severity: 'note',
      where: pulses.rests,
      says: `The device makes ${told}; the signal path has no frequency output, so no counter is scaled by it.`,
      fix: { label: 'Put it on the signal path', stage: 'frequency', set },
    }
  const [device, here] = [pulses.frequency_Hz / at.high, frequency.frequency_Hz / frequency.atRate]
  if (Math.abs(here / device - 1) <= SAME_FACTOR) return null
  return {
    code: 'FREQUENCY_DIFFERS',
    severity: 'stop',
    where: ['frequency', 'setUp'],
    says: `The device makes ${told}; the signal path has ${sayNumber(frequency.frequency_Hz, 6)} Hz at ${sayNumber(frequency.atRate, 6)} ${printedUnit(shows.unit)}: a counter scaled by it is wrong by a factor of ${sayNumber(device / here, 4)}.`,
    evidence: [
      { label: 'device, Hz per unit', value: device },
      { label: 'signal path', value: here },
    ],
    fix: { label: `Set the signal path to ${told}`, set: set.slice(0, 2) },
  }
}
