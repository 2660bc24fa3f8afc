import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { stageOf, type Stage } from '../../signal/stage.ts'
import type { Transfer } from '../../signal/transfer.ts'
import { SAME_RANGE, sayRange } from './ranges.ts'

const cutoffOf = (t: Transfer | undefined) => (t?.kind === 'sqrt' ? (t.cutoff ?? 0) : null)

/** The range against what the sensor can do, the card's last codes against its 20 mA, the two low cutoffs. */
export function limitFindings(stages: readonly Stage[]): Finding[] {
  const transmitter = stageOf(stages, 'transmitter')
  const sensor = stageOf(stages, 'sensor')
  const controller = stageOf(stages, 'controller')
  const input = stageOf(stages, 'input')
  const out: Finding[] = []
  if (transmitter && sensor?.limits) {
    const { low, high } = sensor.limits
    const slack = SAME_RANGE * Math.abs(high - low)
    const outside = [transmitter.range.low, transmitter.range.high].filter(
      (v) => v < Math.min(low, high) - slack || v > Math.max(low, high) + slack,
    )
    if (outside.length > 0)
      out.push({
        code: 'RANGE_OUTSIDE_SENSOR',
        severity: 'stop',
        where: ['sensor', 'transmitter'],
        says: `${outside.map((v) => sayNumber(v)).join(' and ')} ${printedUnit(transmitter.range.unit)} is outside what the sensor measures, ${sayRange({ low, high, unit: transmitter.range.unit })}.`,
      })
  }
  const beyond = input ? [input.n4, input.n20].filter((n) => n < input.nmin || n > input.nmax) : []
  if (input && beyond.length > 0)
    out.push({
      code: 'CODE_LIMIT',
      severity: 'stop',
      where: ['input'],
      says: `The card’s codes go from ${input.nmin} to ${input.nmax}; ${beyond.join(' and ')} for ${beyond.length > 1 ? '4 and 20' : beyond[0] === input.n4 ? '4' : '20'} mA can never come.`,
    })
  if (transmitter?.transfer.kind === 'table' && controller?.transfer.kind === 'table')
    out.push({
      code: 'TABLE_TWICE',
      severity: 'stop',
      where: ['transmitter', 'controller'],
      says: 'A table is set in the transmitter and in the controller: the shape is taken twice. Keep it in one place only.',
    })
  const [tx, rx] = [cutoffOf(transmitter?.transfer), cutoffOf(controller?.transfer)]
  if (tx !== null && rx !== null && Math.abs(tx - rx) > SAME_RANGE)
    out.push({
      code: 'CUTOFF_DIFFERS',
      severity: 'warn',
      where: ['transmitter', 'controller'],
      says: `The low cutoffs differ: ${sayNumber(tx * 100)} % in the transmitter, ${sayNumber(rx * 100)} % in the controller. One of the two totals walks.`,
    })
  return out
}
