import { conductorOf } from '../part/kinds/cable.ts'
import { knownParts, type KnownPart, type Wiring } from '../part/wiring.ts'
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

/** The load of one part in the loop: fixed drop and resistance. */
function loadOf(p: KnownPart, backlight: boolean): { volts: number; ohm: number } | null {
  switch (p.kind.kind) {
    case 'fuse':
      return { volts: 0, ohm: p.s.num('r_ohm') }
    case 'barrier':
      return { volts: p.s.num('back_V'), ohm: p.s.num('out_ohm') + p.s.num('back_ohm') }
    case 'loop-display':
      return {
        volts: p.s.num('drop_V') + (backlight || p.s.flag('backlight') ? p.s.num('backlight_V') : 0),
        ohm: 5,
      }
    case 'analogue-input':
      return { volts: 0, ohm: p.s.num('shunt_ohm') }
    case 'digital-converter':
      return { volts: 0, ohm: p.s.num('input_ohm') }
    case 'resistor':
      return { volts: 0, ohm: p.s.num('r_ohm') }
    case 'multimeter':
      return { volts: 0, ohm: p.s.word('jack') === 'mA' ? p.s.num('mA_ohm') : 0 }
    default:
      return null
  }
}

/** The loop budget of what is wired, with the trial on top; null where no transmitter lives on the loop's volts. */
export function budgetOf(w: Wiring, trial: BudgetTrial = NO_TRIAL): WiredBudget | null {
  const parts = knownParts(w)
  const device = parts.find(
    (p) => p.kind.duty === 'transmitter' && p.kind.settings.some((s) => s.name === 'lift_V'),
  )
  if (!device) return null
  const supply = parts.find((p) => p.kind.kind === 'supply')
  const isolator = parts.find((p) => p.kind.kind === 'isolator')
  const card = parts.find((p) => p.kind.kind === 'analogue-input' && p.s.flag('feeds'))
  const inLoop = isolator
    ? parts.filter((p) => p.kind.kind === 'barrier')
    : parts.filter((p) => supply || p !== card || p.kind.kind === 'analogue-input')
  const items = inLoop.flatMap((p) => {
    const load = loadOf(p, trial.backlight)
    return load && (load.ohm > 0 || load.volts > 0) ? [{ part: p.id, ...load }] : []
  })
  const source = isolator
    ? {
        id: isolator.id,
        min: isolator.s.num('field_V'),
        max: isolator.s.num('field_V'),
        ohm: isolator.s.num('field_ohm'),
      }
    : supply
      ? { id: supply.id, min: supply.s.num('min_V'), max: supply.s.num('max_V'), ohm: 0 }
      : card
        ? { id: card.id, min: card.s.num('feed_V'), max: card.s.num('feed_V'), ohm: card.s.num('feed_ohm') }
        : null
  if (!source) return null
  const cable = parts.find((p) => p.kind.kind === 'cable')
  const wired = cable ? conductorOf(cable.s) : { length: 0, tempC: 40, mm2: 1, iecClass: 5 as const }
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
    fedBy: source.id,
    max_V: device.s.num('max_V'),
    items,
    input: {
      supplyMin: source.min,
      supplyMax: source.max,
      vLift: device.s.num('lift_V'),
      vDrops: items.reduce((s, i) => s + i.volts, 0) + trial.extra_V,
      rFixed: items.reduce((s, i) => s + i.ohm, 0) + source.ohm + hart,
      cable: conductor,
      currents: BUDGET_CURRENTS_A,
      iDesign: 0.0225,
      // The signal needs a resistance between the communicator and the supply: the receivers and the resistor.
      rHart: receivers.reduce((s, i) => s + i.ohm, 0) + hart,
    },
  }
}
