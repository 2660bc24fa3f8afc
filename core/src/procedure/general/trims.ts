import { adjusted, applyFor, beginning, decision, ending, phaseOf, TRIM_GATES, write } from '../parts.ts'
import type { Procedure, ProcedureContext, Step } from '../step.ts'
import { trimAdvice } from './trim-advice.ts'
import { judgeTrim } from './trim-judgement.ts'
import { at, needsCurrent, needsInput, PRESSURE, say, upAndDown } from './common.ts'

const STANDARD = ['hand pump and reference gauge in date', 'loop meter in date']
/** What is at hand for what is applied. */
export function toolsFor(c: ProcedureContext): readonly string[] {
  switch (c.appliedBy) {
    case 'level':
      return ['tape, sight glass or target plate', 'loop meter in date']
    case 'resistance':
      return ['resistance decade in date, as many wires as the sensor', 'loop meter in date']
    case 'millivolts':
      return ['millivolt source in date', 'thermometer for the terminals', 'loop meter in date']
    default:
      return c.manifold ? [...STANDARD, 'manifold key'] : STANDARD
  }
}

/** Why no zero is trimmed here: what a zero input would be taken for. */
export function unfitForZero(c: ProcedureContext) {
  if (c.kind === 'absolute')
    return {
      says: 'An absolute transmitter is never zeroed in open air: its zero would be off by the barometer.',
      instead: 'sensor-trim',
    }
  const zero = c.zeroInput
  if (zero && zero.value !== null && zero.value !== 0)
    return {
      says: `Its zero input is not 0. ${zero.says} Trimmed to 0 the legs would be measured as level. Lower trim at that value, or set the range.`,
      instead: 'sensor-trim',
    }
  return null
}

/** Field of a trim's write: what the standard shows, never what was intended. */
export const appliedField = (c: ProcedureContext): NonNullable<Step['fields']> => [
  { name: 'applied', label: 'Applied, by the standard', unit: c.range.unit, readsFrom: 'standard' },
]
/** What a linked device reads is looked at itself; of any other it is typed. */
const pvField = (c: ProcedureContext): NonNullable<Step['fields']> => [
  { name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' },
]

export const zeroWrite = (c: ProcedureContext): Step =>
  write('zero', 'Zero trim', 'Equalised or vented: the true input is zero now.', 'zeroTrim', {
    apply: 0,
    gates: TRIM_GATES,
    fields: [...appliedField(c), ...pvField(c)],
  })

export const ZERO_TRIM: Procedure = {
  id: 'zero-trim',
  judges: 'sensor',
  title: 'Zero trim',
  purpose:
    'The reading is off by the same amount everywhere. With no input applied it is told that this is zero; read over the whole range before and after.',
  minutes: 35,
  tools: toolsFor,
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: PRESSURE,
  unfit: unfitForZero,
  needs: (c) => [...needsInput(c), needsCurrent(c)],
  advise: trimAdvice('zeroTrim'),
  judge: judgeTrim,
  steps: (c) => [
    ...beginning(c, PRESSURE),
    ...phaseOf(c, 'asFound', upAndDown(c)),
    decision('Zero trim, or not'),
    applyFor(c, 'zero', 0),
    zeroWrite(c),
    adjusted,
    ...phaseOf(c, 'asLeft', upAndDown(c)),
    ...ending(c),
  ],
}

const lowerAndUpper = (c: ProcedureContext): Step[] =>
  (['lower', 'upper'] as const).flatMap((end) => {
    const value = at(c, end === 'lower' ? 0 : 100)
    return [
      applyFor(c, end, value),
      write(
        end,
        `${end === 'lower' ? 'Lower' : 'Upper'} trim at ${say(c, value)}`,
        end === 'lower' ? 'A shift: the slope stays.' : 'A turn about the lower point.',
        end === 'lower' ? 'lowerTrim' : 'upperTrim',
        {
          apply: value,
          gates:
            c.appliedBy === 'level' && c.linked === false
              ? ['asFound', 'authority', 'still', 'limit']
              : TRIM_GATES,
          fields: [...appliedField(c), ...pvField(c)],
        },
      ),
    ]
  })

export const SENSOR_TRIM: Procedure = {
  id: 'sensor-trim',
  judges: 'sensor',
  title: 'Lower and upper sensor trim',
  purpose:
    'Zero and span are off. A known input is applied at the lower point, then at the upper one; never the other way.',
  minutes: 45,
  tools: toolsFor,
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: PRESSURE,
  needs: (c) => [...needsInput(c), needsCurrent(c)],
  advise: trimAdvice('sensorTrim', 'zeroTrim'),
  judge: judgeTrim,
  steps: (c) => [
    ...beginning(c, PRESSURE),
    ...phaseOf(c, 'asFound', upAndDown(c)),
    decision('Sensor trim, or not'),
    ...lowerAndUpper(c),
    adjusted,
    ...phaseOf(c, 'asLeft', upAndDown(c)),
    ...ending(c),
  ],
}
