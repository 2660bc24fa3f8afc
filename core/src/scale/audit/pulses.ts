import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { stageOf, type Stage } from '../../signal/stage.ts'
import { SAME_RANGE } from './ranges.ts'

/** Pulse output and counter: the same factor on both sides, and neither too fast. */
export function pulseFindings(stages: readonly Stage[]): Finding[] {
  const frequency = stageOf(stages, 'frequency')
  const totalizer = stageOf(stages, 'totalizer')
  const transmitter = stageOf(stages, 'transmitter')
  if (!frequency || !transmitter) return []
  const out: Finding[] = []
  const shows = transmitter.shows ?? transmitter.range
  const top_Hz = (1.05 * Math.max(shows.low, shows.high) * frequency.frequency_Hz) / frequency.atRate
  const limit = Math.min(frequency.limit_Hz, totalizer?.limit_Hz ?? Infinity)
  if (top_Hz > limit)
    out.push({
      code: 'FREQUENCY_LIMIT',
      severity: 'stop',
      where: ['frequency', 'totalizer'],
      says: `At 105 % of range the output makes ${sayNumber(top_Hz, 5)} Hz; ${sayNumber(limit)} Hz is possible.`,
      rule: 'f = Q · frequency / rate',
    })
  if (top_Hz > 0 && frequency.width_ms > 500 / top_Hz)
    out.push({
      code: 'PULSE_WIDTH',
      severity: 'stop',
      where: ['frequency'],
      says: `A pulse of ${sayNumber(frequency.width_ms)} ms is longer than half a period at the top, ${sayNumber(500 / top_Hz, 3)} ms: pulses run into one another.`,
    })
  if (totalizer) {
    const perHour = 3600 / (frequency.atRate / frequency.frequency_Hz)
    const should = 1 / perHour
    if (Math.abs(totalizer.unitsPerPulse / should - 1) > SAME_RANGE)
      out.push({
        code: 'PULSE_FACTOR',
        severity: 'stop',
        where: ['frequency', 'totalizer'],
        says: `One pulse is ${sayNumber(should, 5)} at the transmitter and ${sayNumber(totalizer.unitsPerPulse, 5)} at the counter: the total is wrong by a factor of ${sayNumber(totalizer.unitsPerPulse / should, 4)}.`,
        fix: {
          label: `Tell the counter ${sayNumber(should, 6)} per pulse`,
          set: [{ path: 'path.totalizer.unitsPerPulse', value: should }],
        },
      })
  }
  return out
}
