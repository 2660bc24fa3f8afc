import { ohmPerKm, type Conductor } from '../circuit/wire-resistance.ts'

/** Currents at which a loop must still work: live zero, full scale, and two burn-out currents. */
export const BUDGET_CURRENTS_A = [0.004, 0.02, 0.0215, 0.0225] as const
const LOWEST_CURRENT_A = 0.0036
const COMFORTABLE_V = 1

export interface LoopBudgetInput {
  readonly supplyMin: number
  readonly supplyMax: number
  readonly vLift: number
  readonly vDrops: number
  readonly rFixed: number
  readonly cable: Conductor
  readonly currents: readonly number[]
  readonly iDesign: number
  readonly rHart: number
}

export type BudgetVerdict = 'PASS' | 'TIGHT' | 'FAIL'
export type HartVerdict = 'FAIL' | 'MARGINAL' | 'OK' | 'CHECK'

export interface LoopBudget {
  /** Both conductors, Ω. */
  readonly rCable: number
  readonly rTotal: number
  readonly rows: readonly {
    readonly i: number
    readonly vTerm: number
    readonly margin: number
    readonly rMax: number
    readonly lMax: number
  }[]
  readonly marginDesign: number
  readonly verdict: BudgetVerdict
  readonly iSaturation: number
  readonly vTermMax: number
  readonly hart: HartVerdict
}

/** Whether a resistance lets a superimposed digital signal live. */
export function hartVerdict(r_ohm: number): HartVerdict {
  if (r_ohm < 230 || r_ohm > 1100) return 'FAIL'
  if (r_ohm < 250) return 'MARGINAL'
  return r_ohm <= 600 ? 'OK' : 'CHECK'
}

/** Volts left at the transmitter over the current range, at the supply's worst and the cable's hottest. SI units. */
export function loopBudget(b: LoopBudgetInput): LoopBudget {
  const perMetre = (ohmPerKm(b.cable) ?? 0) / 1000
  const rCable = 2 * perMetre * b.cable.length
  const rTotal = b.rFixed + rCable
  const available = b.supplyMin - b.vDrops
  const vTerm = (i: number) => available - i * rTotal
  const rows = b.currents.map((i) => {
    const rMax = (available - b.vLift) / i
    const lMax = perMetre > 0 ? Math.max(0, (rMax - b.rFixed) / (2 * perMetre)) : 0
    return { i, vTerm: vTerm(i), margin: vTerm(i) - b.vLift, rMax, lMax }
  })
  const marginDesign = vTerm(b.iDesign) - b.vLift
  return {
    rCable,
    rTotal,
    rows,
    marginDesign,
    verdict: marginDesign >= COMFORTABLE_V ? 'PASS' : marginDesign >= 0 ? 'TIGHT' : 'FAIL',
    iSaturation: (available - b.vLift) / rTotal,
    vTermMax: b.supplyMax - b.vDrops - LOWEST_CURRENT_A * rTotal,
    hart: hartVerdict(b.rHart),
  }
}

/** Longest cable for a superimposed digital signal by its capacitance, m. */
export const hartCableLength_m = (rLoop_ohm: number, pFperM: number, pFdevices: number): number =>
  65e6 / (rLoop_ohm * pFperM) - (pFdevices + 10_000) / pFperM
