import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { beginning, ending } from '../parts.ts'
import type { ProcedureContext, Step } from '../step.ts'

export const PRESSURE = [
  'Gloves and goggles: pressure can be trapped.',
  'The permit is here and names this tag.',
]
export const ELECTRIC = [
  'The panel may hold mains: look for it before a cover is opened.',
  'The permit is here and names this tag.',
]
export const HOT = ['Hot or cold pipes burn: gloves above 60 °C.', 'The permit is here and names this tag.']
export const STANDARD = ['hand pump and reference gauge in date', 'loop meter in date', 'manifold key']
export const at = (c: ProcedureContext, percent: number) =>
  c.range.low + ((c.range.high - c.range.low) * percent) / 100
export const ends = (c: ProcedureContext) => [at(c, 0), at(c, 100)]
export const zeroAndSpan = (c: ProcedureContext) => [at(c, 0), at(c, 50), at(c, 100)]
export const say = (c: ProcedureContext, x: number) => `${sayNumber(x, 6)} ${printedUnit(c.range.unit)}`

/** From the radio call to a bypassed loop, where nothing is opened and nothing connected. */
export const beginningClosed = (c: ProcedureContext, cautions: readonly string[]): Step[] =>
  beginning(c, cautions).filter((s) => ['cautions', 'notify', 'manual', 'bypass'].includes(s.id))
/** The end of work that opened nothing. */
export const endingClosed = (c: ProcedureContext): Step[] =>
  ending(c).filter((s) => !['disconnect', 'restore'].includes(s.id))

export const STOP_FLOW: Step = {
  id: 'stopped',
  kind: 'valve',
  title: 'Stop the flow, keep the pipe full',
  says: 'Downstream valve first, then upstream; wait five minutes. A leaking valve makes a constant, hidden error.',
  apply: 0,
  hold: ['Both valves are shut and tight.', 'The pipe is full and under pressure.'],
}
export const OPEN_FLOW: Step = {
  id: 'opened',
  kind: 'valve',
  title: 'Open the valves',
  says: 'Upstream first, slowly.',
  hold: ['Both valves stand as the operators want them.'],
  command: { kind: 'apply', value: null },
}
/** Residual of a stopped flow, with its noise. */
export const residual = (c: ProcedureContext): Step => ({
  id: 'asFound-1-read',
  kind: 'read',
  phase: 'asFound',
  title: 'Read the residual flow and its noise',
  says: 'Zero is worth setting only where the residual is larger than the noise.',
  apply: 0,
  fields: [
    { name: 'pv', label: 'Residual flow', unit: c.range.unit, readsFrom: 'pv' },
    { name: 'noise', label: 'Noise, ±', unit: c.range.unit, readsFrom: 'noise' },
  ],
})
export const release: Step = {
  id: 'release',
  kind: 'apply',
  title: 'Release the held current',
  says: 'A loop left in fixed current looks alive and measures nothing.',
  holdCurrent_mA: null,
  adjusting: true,
}
