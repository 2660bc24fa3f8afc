import { allowedOf } from '../allowed.ts'
import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { REST_FIELD } from '../rest-gate.ts'
import { wholeGates } from '../gate-numbers.ts'
import type { Need, ProcedureContext, Step } from '../step.ts'

export const PRESSURE = [
  'Gloves and goggles: pressure can be trapped.',
  'The permit is here and names this tag.',
]
export const ELECTRIC = [
  'The panel may hold mains: look for it before a cover is opened.',
  'The permit is here and names this tag.',
]
export const HOT = ['Hot or cold pipes burn: gloves above 60 °C.', 'The permit is here and names this tag.']
export const at = (c: ProcedureContext, percent: number) =>
  c.range.low + ((c.range.high - c.range.low) * percent) / 100
/** Five points, up and down: a reading that hangs shows itself. */
export const UP_AND_DOWN = [0, 50, 100, 50, 0] as const
export const upAndDown = (c: ProcedureContext) => UP_AND_DOWN.map((p) => at(c, p))
export const say = (c: ProcedureContext, x: number) => `${sayNumber(x, 6)} ${printedUnit(c.range.unit)}`

export const needsCurrent = (c: ProcedureContext): Need => ({
  what: 'a meter for the loop current',
  low: 4,
  high: 20,
  unit: 'mA',
  allowed: allowedOf(c).mA,
})
/** What the input is measured with; a level is told by tape or glass, which are in no register. */
export const needsInput = (c: ProcedureContext): Need[] =>
  c.appliedBy === undefined || c.appliedBy === 'pressure'
    ? [
        {
          what: 'a standard over the whole range',
          low: Math.min(0, c.range.low, c.range.high),
          high: Math.max(c.range.low, c.range.high),
          unit: c.range.unit,
          allowed: allowedOf(c).pv,
        },
      ]
    : []

const STOP_FLOW: Step = {
  id: 'stopped',
  kind: 'valve',
  title: 'Stop the flow, keep the pipe full',
  says: 'Downstream valve first, then upstream; wait five minutes. A leaking valve makes a constant, hidden error.',
  apply: 0,
  hold: ['Both valves are shut and tight.', 'The pipe is full and under pressure.'],
  needsNote: 'Tags of the two valves that are shut',
  stopsFlow: true,
}
/** A flow that stands, full and at one temperature: proved by two readings where that is asked for. */
export const flowAtRest = (c: ProcedureContext): Step[] => [
  STOP_FLOW,
  {
    id: 'atRest',
    kind: 'read',
    since: 4,
    title: 'Read the temperature twice',
    says: `At the pipe beside the meter, a minute apart: less than ${sayNumber(wholeGates(c.asks).rate_KPerMin)} K a minute. While it still warms or cools, the zero moves with it.`,
    gates: ['rest'],
    steady: REST_FIELD,
    fields: [{ name: REST_FIELD, label: 'Temperature', unit: '°C' }],
  },
]
export const OPEN_FLOW: Step = {
  id: 'opened',
  kind: 'valve',
  title: 'Open the valves',
  says: 'Upstream first, slowly.',
  hold: ['Both valves stand as the operators want them.'],
  command: { kind: 'apply', value: null },
}
const REST_GATES: NonNullable<Step['gates']> = ['quiet', 'still']
const restFields = (c: ProcedureContext): NonNullable<Step['fields']> => [
  { name: 'pv', label: 'Residual flow', unit: c.range.unit, readsFrom: 'pv' },
  { name: 'noise', label: 'Noise, ±', unit: c.range.unit, readsFrom: 'noise' },
]
/** Residual of a stopped flow, with its noise. */
export const residual = (c: ProcedureContext): Step => ({
  id: 'asFound-1-read',
  kind: 'read',
  phase: 'asFound',
  title: 'Read the residual flow and its noise',
  says: 'Zero is worth setting only where the residual is larger than the noise.',
  apply: 0,
  gates: REST_GATES,
  fields: restFields(c),
})
/** The same after the zero was written, before a valve is opened. */
export const residualAgain = (c: ProcedureContext): Step => ({
  id: 'asLeft-1-read',
  kind: 'read',
  phase: 'asLeft',
  title: 'Read the residual flow again',
  says: 'The new residual, before the valves are opened.',
  apply: 0,
  gates: REST_GATES,
  fields: restFields(c),
})
/** Gates of writing a flow zero. */
export const ZERO_FLOW_GATES: NonNullable<Step['gates']> = ['asFound', 'authority', 'quiet']

export const hold = (id: string, mA: number, more: Partial<Step> = {}): Step => ({
  id: `${id}-hold`,
  kind: 'apply',
  title: `Hold ${mA.toFixed(3)} mA`,
  says: 'Loop test: the output leaves the measurement and holds this current.',
  holdCurrent_mA: mA,
  ...more,
})
export const release: Step = {
  id: 'release',
  kind: 'apply',
  title: 'Release the held current',
  says: 'A loop left in fixed current looks alive and measures nothing.',
  holdCurrent_mA: null,
}
