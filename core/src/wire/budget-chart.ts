import type { Chart } from '../chart.ts'
import type { WiredBudget } from './budget-from-wiring.ts'
import type { LoopBudget } from './loop-budget.ts'

const END_MA = 24
/** Volts above the highest supply that the axis shows. */
const ROOM_V = 2

/** Volts at the transmitter falling with the current, and the line it must stay above. */
export function budgetChart(wired: WiredBudget, budget: LoopBudget): Chart {
  const { vDrops, supplyMin, supplyMax, vLift } = wired.input
  const line = (supply: number) =>
    [0, END_MA].map((mA) => [mA, supply - vDrops - (mA / 1000) * budget.rTotal] as const)
  return {
    title: 'Volts over the loop current',
    says: `Volts at ${wired.device}: ${budget.rows.map((r) => `${(r.i * 1000).toFixed(1)} mA ${r.vTerm.toFixed(2)} V`).join(', ')}; it needs ${vLift} V.`,
    x: { label: 'loop current', unit: 'mA', from: 0, to: END_MA, step: 4 },
    y: { label: 'at the device', unit: 'V', from: 0, to: supplyMax + ROOM_V },
    series: [
      { name: `at ${wired.device}, supply at its lowest`, kind: 'line', points: line(supplyMin) },
      { name: 'supply at its highest', kind: 'limit', points: line(supplyMax) },
      {
        name: `${wired.device} needs`,
        kind: 'floor',
        points: [
          [0, vLift],
          [END_MA, vLift],
        ],
      },
      {
        name: '4, 20, 21.5, 22.5 mA',
        kind: 'points',
        open: true,
        apart: true,
        points: budget.rows.map((r) => [r.i * 1000, r.vTerm] as const),
      },
    ],
  }
}
