import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { stageOf, type Stage } from '../../signal/stage.ts'
import { severityOf } from './severity.ts'

/** Volts within this part of what the card takes are the same. */
const SAME_VOLTS = 0.001
/** Volts at 20 mA that usual cards take, V. */
const USUAL_VOLTS = [5, 10]

const liveZero = (signal: '4-20' | '0-20') => (signal === '0-20' ? ([0, 20] as const) : ([4, 20] as const))

/** The shunt's volts against what the card takes for 20 mA. A made error is largest at 20 mA: δ of 20 in 16 mA. */
function shuntFindings(stages: readonly Stage[], tolerance_pct: number | null): Finding[] {
  const shunt = stageOf(stages, 'shunt')
  const input = stageOf(stages, 'input')
  if (!shunt || !input) return []
  const made = 0.02 * shunt.resistance_ohm
  if (input.volts20 === undefined) {
    // A resistor near a usual one is a usual one that was measured; the card was calibrated with it.
    if (USUAL_VOLTS.some((v) => Math.abs(made / v - 1) <= 0.05)) return []
    return [
      {
        code: 'SHUNT_NOT_JUDGED',
        severity: 'warn',
        where: ['shunt', 'input'],
        says: `The shunt of ${sayNumber(shunt.resistance_ohm)} Ω makes ${sayNumber(made, 4)} V at 20 mA. What the card takes for 20 mA is left empty; usual cards take 5 or 10 V. Type it.`,
      },
    ]
  }
  const off = made / input.volts20 - 1
  if (Math.abs(off) <= SAME_VOLTS) return []
  return [
    {
      code: 'SHUNT_VOLTAGE',
      severity: severityOf((100 * off * 20) / 16, tolerance_pct),
      where: ['shunt', 'input'],
      says: `The shunt of ${sayNumber(shunt.resistance_ohm)} Ω makes ${sayNumber(made, 4)} V at 20 mA; the card takes ${sayNumber(input.volts20, 4)} V for it. 1 to 5 V needs 250 Ω.`,
      fix: {
        label: `Set the shunt to ${sayNumber(input.volts20 / 0.02, 6)} Ω`,
        set: [{ path: 'path.shunt.resistance_ohm', value: input.volts20 / 0.02 }],
      },
      rule: 'Volts at 20 mA within 0.1 %.',
    },
  ]
}

function codeFindings(stages: readonly Stage[], tolerance_pct: number | null): Finding[] {
  const input = stageOf(stages, 'input')
  const controller = stageOf(stages, 'controller')
  if (!input || !controller) return []
  const [m4, m20] = [controller.m4 ?? input.n4, controller.m20 ?? input.n20]
  if (m4 === input.n4 && m20 === input.n20) return []
  const worst = (100 * Math.max(Math.abs(m4 - input.n4), Math.abs(m20 - input.n20))) / Math.abs(m20 - m4 || 1)
  return [
    {
      code: 'CODES_DIFFER',
      severity: severityOf(worst, tolerance_pct),
      where: ['input', 'controller'],
      says: `The card gives ${input.n4} to ${input.n20} for 4 to 20 mA, the scaling block was told ${m4} to ${m20}.`,
      fix: {
        label: `Tell the scaling block ${input.n4} to ${input.n20}`,
        set: [
          { path: 'path.controller.m4', value: input.n4 },
          { path: 'path.controller.m20', value: input.n20 },
        ],
      },
    },
  ]
}

/** The live zero that is sent against the one that is taken, by the isolator where one stands between. */
function zeroFindings(stages: readonly Stage[]): Finding[] {
  const output = stageOf(stages, 'output')
  const isolator = stageOf(stages, 'isolator')
  const out: Finding[] = []
  if (!output) return out
  if (isolator) {
    const [low, high] = liveZero(output.signal)
    if (isolator.inLow_mA !== low || isolator.inHigh_mA !== high)
      out.push({
        code: 'ISOLATOR_DIFFERS',
        severity: 'stop',
        where: ['output', 'isolator'],
        says: `The isolator takes ${sayNumber(isolator.inLow_mA)} to ${sayNumber(isolator.inHigh_mA)} mA and the transmitter sends ${output.signal} mA.`,
      })
  }
  const input = stageOf(stages, 'input')
  if (!input) return out
  const behind = isolator && stages.indexOf(isolator) < stages.indexOf(input) ? isolator : null
  const [sentLow, sentHigh] = behind ? [behind.outLow_mA, behind.outHigh_mA] : liveZero(output.signal)
  const [takenLow, takenHigh] = liveZero(input.signal)
  if (sentLow !== takenLow || sentHigh !== takenHigh)
    out.push({
      code: 'SIGNAL_DIFFERS',
      severity: 'stop',
      where: [behind ? 'isolator' : 'output', 'input'],
      says: `The ${behind ? 'isolator' : 'transmitter'} sends ${sayNumber(sentLow)}-${sayNumber(sentHigh)} mA and the input card expects ${input.signal} mA.`,
    })
  return out
}

/** Volts, codes and currents that a receiver was told against what arrives. */
export const cardFindings = (stages: readonly Stage[], tolerance_pct: number | null): Finding[] => [
  ...shuntFindings(stages, tolerance_pct),
  ...codeFindings(stages, tolerance_pct),
  ...zeroFindings(stages),
]
