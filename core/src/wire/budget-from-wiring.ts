import type { Conductor } from '../part/part-kind.ts'
import { knownParts, type Wiring } from '../part/wiring.ts'
import { BUDGET_CURRENTS_A, type LoopBudgetInput } from './loop-budget.ts'

/** What a person may want to try beside what is wired. */
export interface BudgetTrial {
  readonly hartResistor: boolean
  readonly backlight: boolean
  readonly extra_V: number
  readonly cable_m: number | null
  readonly size: string | null
  readonly hottest_C: number | null
}
export const NO_TRIAL: BudgetTrial = {
  hartResistor: false,
  backlight: false,
  extra_V: 0,
  cable_m: null,
  size: null,
  hottest_C: null,
}

export interface WiredBudget {
  readonly input: LoopBudgetInput
  /** Highest voltage the device stands, V. */
  readonly max_V: number
  readonly device: string
  readonly fedBy: string
  /** Where each volt goes: what takes it, V fixed and Ω. */
  readonly items: readonly { readonly part: string; readonly volts: number; readonly ohm: number }[]
}

const HART_OHM = 250

/** The loop budget of what is wired, with the trial on top; null where no transmitter lives on the loop's volts. */
export function budgetOf(w: Wiring, trial: BudgetTrial = NO_TRIAL): WiredBudget | null {
  const parts = knownParts(w)
  const device = parts.find((p) => p.kind.duty === 'transmitter' && p.kind.loopDevice)
  const lives = device?.kind.loopDevice?.(device.s, trial.backlight)
  if (!device || !lives) return null
  const feeding = (duty: string) => {
    const part = parts.find((p) => p.kind.duty === duty && p.kind.loopFeed?.(p.s))
    const feed = part?.kind.loopFeed?.(part.s)
    return part && feed ? { part, feed } : null
  }
  // An isolator stands between the field and everything else; else a supply, else the card itself.
  const isolator = feeding('repeater')
  const source = isolator ?? feeding('source') ?? feeding('receiver')
  if (!source) return null
  const inLoop = isolator ? parts.filter((p) => p.kind.duty === 'through') : parts
  const items = inLoop.flatMap((p) => {
    const load = p.kind.loopLoad?.(p.s, trial.backlight)
    return load && (load.ohm > 0 || load.volts > 0) ? [{ part: p.id, ...load }] : []
  })
  const cable = parts.find((p) => p.kind.conductor)
  const wired: Conductor = cable?.kind.conductor?.(cable.s) ?? { length: 0, tempC: 40, mm2: 1, iecClass: 5 }
  const size = trial.size
  const conductor = {
    length: trial.cable_m ?? wired.length,
    tempC: trial.hottest_C ?? wired.tempC,
    ...(size === null
      ? { mm2: 'mm2' in wired ? wired.mm2 : undefined, awg: 'awg' in wired ? wired.awg : undefined }
      : size.startsWith('awg')
        ? { mm2: undefined, awg: Number(size.slice(3)) }
        : { mm2: Number(size), awg: undefined }),
    ohmPerKm: undefined,
    iecClass:
      (size ?? 'mm2').startsWith('awg') || (size === null && 'awg' in wired)
        ? ('none' as const)
        : (5 as const),
  }
  const receivers = items.filter((i) => parts.some((p) => p.id === i.part && p.kind.duty === 'receiver'))
  const hart = trial.hartResistor ? HART_OHM : 0
  return {
    device: device.id,
    fedBy: source.part.id,
    max_V: lives.max_V,
    items,
    input: {
      supplyMin: source.feed.min_V,
      supplyMax: source.feed.max_V,
      vLift: lives.lift_V,
      vDrops: items.reduce((s, i) => s + i.volts, 0) + trial.extra_V,
      rFixed: items.reduce((s, i) => s + i.ohm, 0) + source.feed.ohm + hart,
      cable: conductor,
      currents: BUDGET_CURRENTS_A,
      iDesign: 0.0225,
      // The signal needs a resistance between the communicator and the supply: the receivers and the resistor.
      rHart: receivers.reduce((s, i) => s + i.ohm, 0) + hart,
    },
  }
}
