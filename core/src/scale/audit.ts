import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { convertRangeEnd, printedUnit, unitOf } from '../quantity/units.ts'
import { stageOf, type Range, type Stage } from '../signal/stage.ts'

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
      readonly atTop_pct: number
      readonly atBottom_pct: number
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
    : { kind: 'differs', low: low.value, high: high.value, atBottom_pct, atTop_pct }
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
    { label: 'error at 0 %', value: compared.atBottom_pct, unit: '% of span' },
    { label: 'error at 100 %', value: compared.atTop_pct, unit: '% of span' },
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
        : `The ${names[1]} is scaled ${sayRange(to)}, the ${names[0]} ${sayRange(from)}.`,
      evidence,
      fix: adopt,
      rule: 'The same percent of signal must mean the same value at both ends.',
    },
  ]
}

/** Elements whose signal needs exactly one square root. */
const needsRoot = (type: string) => /orifice|differential pressure flow|dp flow|venturi|pitot/i.test(type)

/**
 * Checks the ranges, units and functions along the path against each other, without any reading.
 * @param type - the loop's type in words; a dp flow element needs exactly one square root.
 */
export function auditPath(stages: readonly Stage[], type: string): Finding[] {
  const transmitter = stageOf(stages, 'transmitter')
  const controller = stageOf(stages, 'controller')
  const display = stageOf(stages, 'display')
  const output = stageOf(stages, 'output')
  const input = stageOf(stages, 'input')
  if (!transmitter) return []
  const findings: Finding[] = []
  const documented = transmitter.shows ?? transmitter.range
  const roots = [transmitter.transfer, controller?.transfer].filter((t) => t?.kind === 'sqrt').length
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
  const displayRoot = display?.transfer.kind === 'sqrt' ? 1 : 0
  if (roots + displayRoot > 1)
    findings.push({
      code: 'SQRT_TWICE',
      severity: 'stop',
      where: ['transmitter', displayRoot ? 'display' : 'controller'],
      says: 'The square root is taken twice: half flow would read 71 %. Take it in one place only.',
      evidence: [{ label: 'reading at half flow', value: 100 * Math.SQRT1_2, unit: '%' }],
      fix: {
        label: 'Leave the root to the transmitter',
        set: [{ path: 'path.controller.transfer.kind', value: 'linear' }],
      },
      rule: 'Flow is the square root of differential pressure, once.',
    })
  if (roots + displayRoot === 0 && needsRoot(type))
    findings.push({
      code: 'SQRT_NEVER',
      severity: 'stop',
      where: ['transmitter', 'controller'],
      says: 'Nobody takes the square root: half flow would read 25 %.',
      evidence: [{ label: 'reading at half flow', value: 25, unit: '%' }],
      fix: {
        label: 'Take the root in the transmitter',
        set: [{ path: 'path.transmitter.transfer.kind', value: 'sqrt' }],
      },
      rule: 'Flow is the square root of differential pressure, once.',
    })
  if (roots + displayRoot === 1 && !needsRoot(type))
    findings.push({
      code: 'SQRT_UNEXPECTED',
      severity: 'warn',
      where: ['transmitter'],
      says: 'A square root is set, but this loop has no differential pressure flow element.',
      rule: 'Only differential pressure flow needs a square root.',
    })
  if (output && input && output.signal !== input.signal)
    findings.push({
      code: 'SIGNAL_DIFFERS',
      severity: 'stop',
      where: ['output', 'input'],
      says: `The transmitter sends ${output.signal} mA and the input card expects ${input.signal} mA.`,
    })
  return findings
}
