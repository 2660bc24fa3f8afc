import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { convertRangeEnd, printedUnit, unitOf } from '../quantity/units.ts'
import { judgeRoot, rootTakers } from '../signal/root.ts'
import { stageOf, type Range, type Stage } from '../signal/stage.ts'
import type { Transfer } from '../signal/transfer.ts'
import { isDefaultRange } from './type-change.ts'
import { predictedErrors } from './predicted-errors.ts'

/** Ranges that differ by less than this much of span are the same range typed twice. */
const SAME_RANGE = 1e-4

const sayRange = (r: Range) => `${sayNumber(r.low)} to ${sayNumber(r.high)} ${printedUnit(r.unit)}`

type Compared =
  | { readonly kind: 'same' }
  | { readonly kind: 'other quantity' }
  | {
      readonly kind: 'differs'
      readonly low: number
      readonly high: number
    }

/** The first range in the second one's unit, and how far its ends are from it in percent of span. */
function compare(from: Range, to: Range): Compared {
  const low = convertRangeEnd(from.low, from.unit, to.unit)
  const high = convertRangeEnd(from.high, from.unit, to.unit)
  if (low.kind === 'refused' || high.kind === 'refused') return { kind: 'other quantity' }
  const span = Math.abs(to.high - to.low)
  const atBottom_pct = (100 * (to.low - low.value)) / span
  const atTop_pct = (100 * (to.high - high.value)) / span
  return Math.max(Math.abs(atBottom_pct), Math.abs(atTop_pct)) <= 100 * SAME_RANGE
    ? { kind: 'same' }
    : { kind: 'differs', low: low.value, high: high.value }
}

function rangeFindings(
  from: Range,
  to: Range,
  names: readonly [string, string],
  code: string,
  field: string,
): Finding[] {
  const compared = compare(from, to)
  if (compared.kind === 'same') return []
  if (compared.kind === 'other quantity') {
    // 0..100 % of something is how a receiver shows a level or a position: nothing to compare.
    if (to.unit === '%') return []
    return [
      {
        code: 'QUANTITY_DIFFERS',
        severity: 'note',
        where: [names[0], names[1]],
        says: `The ${names[0]} measures ${unitOf(from.unit).dimension.replace(/_/g, ' ')} and the ${names[1]} shows ${unitOf(to.unit).dimension.replace(/_/g, ' ')}. Check the conversion in the receiver.`,
        evidence: [
          { label: names[0], value: sayRange(from) },
          { label: names[1], value: sayRange(to) },
        ],
      },
    ]
  }
  const evidence = [
    { label: names[0], value: sayRange(from) },
    { label: names[1], value: sayRange(to) },
  ]
  const adopt = {
    label: `Set the ${names[1]} to ${sayNumber(compared.low)} to ${sayNumber(compared.high)} ${printedUnit(to.unit)}`,
    set: [
      { path: `${field}.range.low`, value: compared.low },
      { path: `${field}.range.high`, value: compared.high },
    ],
  }
  if (Math.sign(from.high - from.low) !== Math.sign(to.high - to.low))
    return [
      {
        code: 'ACTION_OPPOSED',
        severity: 'stop',
        where: [names[0], names[1]],
        says: `The ${names[0]} rises where the ${names[1]} falls: one of the two ranges is reversed.`,
        evidence,
        fix: adopt,
        rule: 'Both ends of a loop must agree on the direction of the signal.',
      },
    ]
  const sameNumbers = from.unit !== to.unit && from.low === to.low && from.high === to.high
  return [
    {
      code: sameNumbers ? 'UNIT_DIFFERS' : code,
      severity: 'stop',
      where: [names[0], names[1]],
      says: sameNumbers
        ? `The ${names[0]} and the ${names[1]} have the same numbers in different units: ${printedUnit(from.unit)} and ${printedUnit(to.unit)}. The reading is wrong by the ratio of the units.`
        : `The ${names[1]} is scaled ${sayRange(to)}, the ${names[0]} ${sayRange(from)}.${isDefaultRange(to) ? ` ${sayNumber(to.low)} to ${sayNumber(to.high)} looks like a default that nobody changed.` : ''}`,
      evidence,
      fix: adopt,
      rule: 'The same percent of signal must mean the same value at both ends.',
    },
  ]
}

/** The range against what the sensor can do, and the two low cutoffs against each other. */
function limitFindings(stages: readonly Stage[]): Finding[] {
  const transmitter = stageOf(stages, 'transmitter')
  const sensor = stageOf(stages, 'sensor')
  const controller = stageOf(stages, 'controller')
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
  const cutoffOf = (t: Transfer | undefined) => (t?.kind === 'sqrt' ? (t.cutoff ?? 0) : null)
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

/** Volts, codes and currents that the receiver was told against what arrives. */
function cardFindings(stages: readonly Stage[]): Finding[] {
  const shunt = stageOf(stages, 'shunt')
  const input = stageOf(stages, 'input')
  const controller = stageOf(stages, 'controller')
  const isolator = stageOf(stages, 'isolator')
  const output = stageOf(stages, 'output')
  const out: Finding[] = []
  if (shunt && input?.volts20 !== undefined) {
    const made = 0.02 * shunt.resistance_ohm
    if (Math.abs(made - input.volts20) > 0.001 * input.volts20)
      out.push({
        code: 'SHUNT_VOLTAGE',
        severity: 'stop',
        where: ['shunt', 'input'],
        says: `The shunt of ${sayNumber(shunt.resistance_ohm)} Ω makes ${sayNumber(made, 4)} V at 20 mA; the card takes ${sayNumber(input.volts20, 4)} V for it. 1 to 5 V needs 250 Ω.`,
        fix: {
          label: `Set the shunt to ${sayNumber(input.volts20 / 0.02, 6)} Ω`,
          set: [{ path: 'path.shunt.resistance_ohm', value: input.volts20 / 0.02 }],
        },
        rule: 'Volts at 20 mA within 0.1 %.',
      })
  }
  if (input && controller && (controller.m4 !== undefined || controller.m20 !== undefined)) {
    const [m4, m20] = [controller.m4 ?? input.n4, controller.m20 ?? input.n20]
    if (m4 !== input.n4 || m20 !== input.n20)
      out.push({
        code: 'CODES_DIFFER',
        severity: 'stop',
        where: ['input', 'controller'],
        says: `The card gives ${input.n4} to ${input.n20} for 4 to 20 mA, the scaling block was told ${m4} to ${m20}.`,
        fix: {
          label: `Tell the scaling block ${input.n4} to ${input.n20}`,
          set: [
            { path: 'path.controller.m4', value: input.n4 },
            { path: 'path.controller.m20', value: input.n20 },
          ],
        },
      })
  }
  if (isolator && output) {
    const sent = output.signal === '0-20' ? [0, 20] : [4, 20]
    if (isolator.inLow_mA !== sent[0] || isolator.inHigh_mA !== sent[1])
      out.push({
        code: 'ISOLATOR_DIFFERS',
        severity: 'stop',
        where: ['output', 'isolator'],
        says: `The isolator takes ${sayNumber(isolator.inLow_mA)} to ${sayNumber(isolator.inHigh_mA)} mA and the transmitter sends ${output.signal} mA.`,
      })
  }
  return out
}

/** Pulse output and counter: the same factor on both sides, and neither too fast. */
function pulseFindings(stages: readonly Stage[]): Finding[] {
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

/**
 * Checks the ranges, units and functions along the path against each other, without any reading.
 * @param needsRoot - whether the loop's family needs a square root; null where nobody has told what it is
 */
export function auditPath(stages: readonly Stage[], needsRoot: boolean | null): Finding[] {
  const found = conditions(stages, needsRoot)
  const predicted = predictedErrors(stages, needsRoot === true || rootTakers(stages).length > 0)
  // Every receiver that a finding names is told with what it will read.
  return found.map((f) => {
    if (f.severity === 'note' || f.severity === 'good' || !CHANGES_READING.has(f.code)) return f
    const receiver = predicted.find((p) => f.where.includes(p.at)) ?? predicted[0]
    if (!receiver) return f
    const [zero = 0, , half = 0, , full = 0] = receiver.errors_pct
    const at = (label: string, value: number) => ({ label: `error at ${label}`, value, unit: '% of span' })
    return { ...f, evidence: [...(f.evidence ?? []), at('0 %', zero), at('50 %', half), at('100 %', full)] }
  })
}

/** Findings that shift what is read; the others are about limits. */
const CHANGES_READING = new Set([
  'RANGE_DIFFERS',
  'UNIT_DIFFERS',
  'ACTION_OPPOSED',
  'DISPLAY_RANGE_DIFFERS',
  'CONVERTER_RANGE_DIFFERS',
  'SQRT_TWICE',
  'SQRT_NEVER',
  'SIGNAL_DIFFERS',
  'SHUNT_VOLTAGE',
  'CODES_DIFFER',
  'ISOLATOR_DIFFERS',
])

function conditions(stages: readonly Stage[], needsRoot: boolean | null): Finding[] {
  const transmitter = stageOf(stages, 'transmitter')
  const controller = stageOf(stages, 'controller')
  const display = stageOf(stages, 'display')
  const output = stageOf(stages, 'output')
  const input = stageOf(stages, 'input')
  if (!transmitter) return []
  const findings: Finding[] = []
  const documented = transmitter.shows ?? transmitter.range
  if (controller) {
    const straight = !transmitter.reverse || !!transmitter.shows
    const source = straight ? documented : { ...documented, low: documented.high, high: documented.low }
    findings.push(
      ...rangeFindings(
        source,
        controller.range,
        ['transmitter', 'controller'],
        'RANGE_DIFFERS',
        'path.controller',
      ),
    )
  }
  if (display)
    findings.push(
      ...rangeFindings(
        controller?.range ?? documented,
        display.range,
        [controller ? 'controller' : 'transmitter', 'display'],
        'DISPLAY_RANGE_DIFFERS',
        'path.display',
      ),
    )
  const converter = stageOf(stages, 'converter')
  if (converter)
    findings.push(
      ...rangeFindings(
        documented,
        converter.range,
        ['transmitter', 'converter'],
        'CONVERTER_RANGE_DIFFERS',
        'path.converter',
      ),
    )
  findings.push(...limitFindings(stages), ...cardFindings(stages), ...pulseFindings(stages))
  const root = judgeRoot(rootTakers(stages), needsRoot)
  if (root) findings.push(root)
  if (output && input && output.signal !== input.signal)
    findings.push({
      code: 'SIGNAL_DIFFERS',
      severity: 'stop',
      where: ['output', 'input'],
      says: `The transmitter sends ${output.signal} mA and the input card expects ${input.signal} mA.`,
    })
  return findings
}
