import { roundText } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import {
  adjusted,
  applyFor,
  beginning,
  decision,
  ending,
  phaseOf,
  TRIM_GATES,
  write,
} from '../../procedure/parts.ts'
import { at, ELECTRIC, needsCurrent, say, upAndDown } from '../../procedure/general/common.ts'
import { trimAdvice } from '../../procedure/general/trim-advice.ts'
import { judgeTrim } from '../../procedure/general/trim-judgement.ts'
import { toolsFor } from '../../procedure/general/trims.ts'
import { valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import {
  toldNumber,
  type Need,
  type Procedure,
  type ProcedureContext,
  type Step,
  type StepField,
} from '../../procedure/step.ts'
import { rtdResistance_ohm } from './rtd.ts'
import { thermocouple_mV, THERMOCOUPLES, type Thermocouple } from './thermocouple.ts'

const typeOf = (c: ProcedureContext): Thermocouple | null =>
  THERMOCOUPLES.find((t) => t === c.told?.['sensor']) ?? null
/** Kelvins between which the steepness at a point is taken. */
const STEP_C = 0.5
/** How far what is set may be from what has to be set, share of the range. */
const SET_SHARE = 0.001

/** What is set on decade or source for a temperature; null where the table has none. */
function toSet(c: ProcedureContext, run: ProcedureRun | null, t_C: number): number | null {
  const type = typeOf(c)
  if (type === null) return rtdResistance_ohm(t_C, toldNumber(c, 'r0_ohm'))
  const junction = run ? valuesOfStep(run, 'junction')['junction_C'] : 0
  const [E, cold] = [
    thermocouple_mV(type, t_C),
    junction === undefined ? null : thermocouple_mV(type, junction),
  ]
  return E === null || cold === null ? null : E - cold
}
const unitSet = (c: ProcedureContext) => (typeOf(c) === null ? 'ohm' : 'mV')
const degC = (c: ProcedureContext) => c.range.unit === 'degC'

/** Field of what stands on decade or source, held against the table at the junction's actual temperature. */
const setField = (c: ProcedureContext, t_C: number): StepField => ({
  name: 'set',
  label: typeOf(c) === null ? 'Decade is set to' : 'Source is set to',
  unit: unitSet(c),
  wanted: (run) => {
    const value = toSet(c, run, t_C)
    const steep = (toSet(c, run, t_C + STEP_C) ?? NaN) - (toSet(c, run, t_C - STEP_C) ?? NaN)
    const within = SET_SHARE * Math.abs(c.range.high - c.range.low) * Math.abs(steep / (2 * STEP_C))
    return value === null || !Number.isFinite(within) ? null : { value, within }
  },
})
/** In typed work what is set is typed, and says what to set; over the link the stand-in's tool shows the temperature. */
function change(c: ProcedureContext, t_C: number): Partial<Step> {
  if (c.linked !== false || !degC(c)) return {}
  return {
    saysFrom: (run) => {
      const value = toSet(c, run, t_C)
      return value === null
        ? 'The table has no value there.'
        : `Set ${roundText(value, unitSet(c) === 'ohm' ? 2 : 3)} ${printedUnit(unitSet(c))}${typeOf(c) === null ? '' : ', the value of the table less that of the junction'}.`
    },
    fields: [
      setField(c, t_C),
      { name: 'pv', label: 'Transmitter reads', unit: c.range.unit },
      { name: 'mA', label: 'Loop current', unit: 'mA' },
    ],
  }
}
const junction = (c: ProcedureContext): Step[] =>
  typeOf(c) === null || c.linked !== false
    ? []
    : [
        {
          id: 'junction',
          kind: 'read',
          title: 'Temperature of the junction',
          says: 'At the terminals, by a thermometer that lies there; not the room’s. The voltages to set follow from it.',
          fields: [{ name: 'junction_C', label: 'At the terminals', unit: 'degC' }],
        },
      ]

const trims = (c: ProcedureContext): Step[] =>
  (['lower', 'upper'] as const).flatMap((end) => {
    const value = at(c, end === 'lower' ? 0 : 100)
    const typed = c.linked === false && degC(c)
    return [
      applyFor(c, end, value),
      write(
        end,
        `${end === 'lower' ? 'Lower' : 'Upper'} trim at ${say(c, value)}`,
        'Only what stands at the terminals is trimmed: the element itself was not in the circuit.',
        end === 'lower' ? 'lowerTrim' : 'upperTrim',
        {
          apply: value,
          gates: TRIM_GATES,
          fields: [
            ...(typed ? [setField(c, value)] : []),
            {
              name: 'applied',
              label: 'As temperature',
              unit: c.range.unit,
              readsFrom: 'standard',
              ...(typed ? { preset: value } : {}),
            },
            { name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' },
          ],
        },
      ),
    ]
  })

/** Ends of what has to be set over the range, for the instrument that sets it. */
function needsSource(c: ProcedureContext): Need[] {
  const [low, high] = [toSet(c, null, at(c, 0)), toSet(c, null, at(c, 100))]
  if (low === null || high === null || !degC(c)) return []
  return [
    {
      what: typeOf(c) === null ? 'a decade over the range' : 'a millivolt source over the range',
      low: Math.min(low, high),
      high: Math.max(low, high),
      unit: unitSet(c),
      allowed: (c.tolerance_pct / 100) * Math.abs(high - low),
    },
  ]
}

export const TEMPERATURE_TRIM: Procedure = {
  id: 'temperature-trim',
  judges: 'sensor',
  title: 'Sensor trim with a decade or a source',
  purpose:
    'The transmitter reads another temperature than its sensor stands for. A resistance or a voltage from the table is put at its terminals; the element itself stays out of it.',
  minutes: 40,
  tools: toolsFor,
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: [...ELECTRIC, 'A well under pressure is never unscrewed: it is the wall of the process.'],
  unfit: (c) =>
    c.told?.['sensor'] === undefined
      ? {
          says: 'Nobody has told which sensor it is, and what to set follows from it: enter it on Set up first.',
          instead: null,
        }
      : null,
  needs: (c) => [...needsSource(c), needsCurrent(c)],
  advise: trimAdvice('sensorTrim', 'zeroTrim'),
  judge: judgeTrim,
  steps: (c) => [
    ...beginning(c, [
      ...ELECTRIC,
      'A well under pressure is never unscrewed: it is the wall of the process.',
    ]),
    ...junction(c),
    ...phaseOf(c, 'asFound', upAndDown(c), (x) => change(c, x)),
    decision('Sensor trim, or not'),
    ...trims(c),
    adjusted,
    ...phaseOf(c, 'asLeft', upAndDown(c), (x) => change(c, x)),
    ...ending(c),
  ],
}
