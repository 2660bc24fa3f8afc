import { IN_SERIES, leadsOf, meterIn } from './meter.ts'
import type { Wiring } from '../part/wiring.ts'

/** What is done in a wrong order with a live circuit, and what it would cost. */
export const LIVE_MISTAKES = {
  OPENED_LIVE:
    'A loop was opened or closed with the power on. For that moment it carries 0 mA: the controller sees a failed transmitter and may trip what hangs on it; where gas can be, the spark alone is forbidden. Power off, leads in the right jack, dial at DC mA, leads landed, then power on.',
  JACK_LIVE:
    'The red lead changed its jack with the leads on a live circuit. In a current jack the meter is a short circuit: its fuse blows, or the loop’s. Power off, lead to its jack, then power on.',
  DIAL_LIVE:
    'The dial was turned with the meter in a live loop. Between two positions the loop is open: the same as pulling a wire. Power off, turn, power on.',
  LEFT_IN_CURRENT:
    'The leads are off and the red one is still in a current jack: put across the next supply it is a short circuit. Back to the V jack first.',
} as const
export type LiveMistake = keyof typeof LIVE_MISTAKES

/** How far the work with the meter is, and what was done wrongly on the way; each is told once. */
export interface MeterOrder {
  /** The circuit was dead when a lead was last moved that opens or shorts something. */
  readonly landedDead: boolean | null
  /** Power came with the leads on: it was read. */
  readonly read: boolean
  /** The red lead was in a current jack at any time. */
  readonly usedCurrent: boolean
  readonly mistakes: readonly LiveMistake[]
}
export const FRESH_ORDER: MeterOrder = { landedDead: null, read: false, usedCurrent: false, mistakes: [] }

interface MeterAt {
  readonly jack: string
  readonly dial: string
  readonly leads: string
  readonly inSeries: boolean
}
function meterAt(w: Wiring): MeterAt | null {
  const meter = meterIn(w)
  if (meter === null) return null
  const setting = (name: string) => String(w.parts[meter]?.settings[name] ?? 'V')
  const leads = ['red', 'black'].flatMap((t) => leadsOf(w, meter, t))
  return {
    jack: setting('jack'),
    dial: setting('dial'),
    leads: leads.map(([, x]) => `${x.from} ${x.to}`).join('|'),
    inSeries: leads.some(([, x]) => x.ferrule === IN_SERIES),
  }
}
const isCurrent = (m: MeterAt) => m.jack !== 'V'

/** The order after a change of the wiring, or of the power. @param power - whether sources are on after it */
export function orderAfter(o: MeterOrder, before: Wiring, after: Wiring, power: boolean): MeterOrder {
  const [was, now] = [meterAt(before), meterAt(after)]
  if (!now)
    return was && isCurrent(was) && was.leads !== '' ? withMistake(o, power ? 'OPENED_LIVE' : null) : o
  let next = o
  const moved = (was?.leads ?? '') !== now.leads
  if (moved) {
    // Volts are read on a live circuit: only what opens or shorts it has to wait for the power to be off.
    const opens = isCurrent(now) || now.inSeries || (was?.inSeries ?? false)
    next = {
      ...next,
      landedDead: opens ? !power : (next.landedDead ?? null),
      read: now.leads === '' && next.read,
    }
    if (opens && power) next = withMistake(next, 'OPENED_LIVE')
  } else if (power && next.read && now.leads === '' && isCurrent(now))
    next = withMistake(next, 'LEFT_IN_CURRENT')
  if (was && was.jack !== now.jack && now.leads !== '' && power) next = withMistake(next, 'JACK_LIVE')
  else if (was && was.dial !== now.dial && isCurrent(now) && now.leads !== '' && power)
    next = withMistake(next, 'DIAL_LIVE')
  return {
    ...next,
    usedCurrent: next.usedCurrent || isCurrent(now),
    read: next.read || (power && now.leads.includes('|') && now.jack === now.dial),
  }
}
const withMistake = (o: MeterOrder, m: LiveMistake | null): MeterOrder =>
  m === null || o.mistakes.includes(m) ? o : { ...o, mistakes: [...o.mistakes, m] }

export interface OrderStep {
  readonly says: string
  readonly done: boolean
}
/** The steps of a measurement with the way back; those for a current only where one is measured. */
export function meterSteps(o: MeterOrder, w: Wiring, power: boolean): OrderStep[] {
  const m = meterAt(w)
  if (!m) return []
  const current = isCurrent(m) || m.inSeries || o.usedCurrent
  const on = m.leads.includes('|')
  const jack = m.jack === '10A' ? '10 A' : m.jack
  return [
    ...(current ? [{ says: 'Power off before the loop is opened', done: o.landedDead ?? !power }] : []),
    { says: `Red lead in the ${jack} jack, black in COM`, done: m.jack === m.dial.replace('AC', '') },
    { says: 'Dial at DC, not AC', done: !m.dial.endsWith('AC') },
    { says: 'Leads on their terminals', done: on || o.read },
    { says: 'Power on, read', done: o.read },
    ...(current
      ? [
          {
            says: 'Power off, leads off, the loop closed again',
            done: o.read && m.leads === '' && o.landedDead === true,
          },
          { says: 'Red lead back in the V jack', done: o.usedCurrent && m.jack === 'V' && m.leads === '' },
        ]
      : [{ says: 'Leads off', done: o.read && m.leads === '' }]),
  ]
}
