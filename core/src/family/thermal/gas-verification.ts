import { sayNumber } from '../../quantity/round.ts'
import { convert, printedUnit } from '../../quantity/units.ts'
import { nozzleFlow, nozzleVerdict, type NozzlePoint } from './nozzle.ts'
import { seriesOf, valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import type { Advice, Procedure, Step, Values } from '../../procedure/step.ts'
import { beginningClosed, endingClosed } from '../../procedure/general/common.ts'

const NITROGEN = [
  'Nitrogen suffocates without warning: vent outdoors, wear an oxygen meter, never alone.',
  'Bottles are chained; the regulator is in date; goggles.',
  'The permit is here and names this tag.',
]
/** Pressures before the nozzle, kPa absolute. */
const PRESSURES_KPA = [300, 500, 700, 900] as const

/** Nitrogen through the nozzle, once its pressures and temperature are known. */
function letItFlow(values: Values, run: ProcedureRun) {
  const { throat_mm = NaN, Cd = 0 } = valuesOfStep(run, 'nozzle')
  const { p0_kPa = NaN, t0_C = NaN, after_kPa = NaN } = values
  const flow = nozzleFlow(throat_mm, p0_kPa, t0_C, after_kPa, Cd > 0 ? Cd : null)
  const told =
    flow && flow.massFlow_g_s !== null
      ? convert(flow.massFlow_g_s * 3.6, 'kg/h', run.started.context.range.unit)
      : null
  return told?.kind === 'value'
    ? { says: 'Let the nitrogen flow', command: { kind: 'apply' as const, value: told.value } }
    : null
}

/** Largest deviation of a gas verification that is accepted, of reading and of full scale, %. */
const GAS_LIMITS = { reading_pct: 1, fullScale_pct: 0.2 } as const

function gasAdvice(run: ProcedureRun): Advice {
  const { throat_mm = NaN, Cd = 0 } = valuesOfStep(run, 'nozzle')
  const { range } = run.started.context
  const readings = seriesOf(run, 'gas')
  const says: string[] = []
  const points: NozzlePoint[] = []
  for (const v of readings) {
    const { p0_kPa = NaN, t0_C = NaN, after_kPa = NaN, pv = NaN, baseline_pct = 0 } = v
    const flow = nozzleFlow(throat_mm, p0_kPa, t0_C, after_kPa, Cd > 0 ? Cd : null)
    if (!flow)
      says.push(`${sayNumber(p0_kPa)} kPa at ${sayNumber(t0_C)} °C is outside what is known of nitrogen.`)
    else if (flow.massFlow_g_s === null)
      says.push(`At ${sayNumber(p0_kPa)} kPa the nozzle was not sonic: the pressure behind it is too high.`)
    else {
      const told = convert(flow.massFlow_g_s * 3.6, 'kg/h', range.unit)
      if (told.kind === 'value')
        points.push({
          reference: told.value,
          indicated: pv,
          baseline_pct: baseline_pct === 0 ? null : baseline_pct,
        })
      else
        says.push(`The nozzle tells kg/h and the meter ${printedUnit(range.unit)}: read it in a mass flow.`)
    }
  }
  const judged = nozzleVerdict(
    points,
    GAS_LIMITS.reading_pct,
    GAS_LIMITS.fullScale_pct,
    Math.abs(range.high - range.low),
  )
  points.forEach((p, i) => {
    const j = judged[i]
    says.push(
      `Nozzle ${sayNumber(p.reference, 5)}, meter ${sayNumber(p.indicated, 5)} ${printedUnit(range.unit)}: ${sayNumber((100 * (p.indicated - p.reference)) / p.reference, 3)} %${j?.verdict === 'PASS' ? '' : ', too much'}.`,
    )
  })
  const good = points.length === readings.length && judged.every((j) => j.verdict === 'PASS')
  return { choice: good ? 'accept' : 'report', says }
}

export const GAS_VERIFICATION: Procedure = {
  id: 'gas-verification',
  title: 'Verification in place with nitrogen',
  purpose:
    'Nitrogen through a sonic nozzle at several pressures: the flow follows from pressure and temperature, and the meter is compared with it and with its first check.',
  minutes: 45,
  tools: [
    'nitrogen bottle and regulator',
    'nozzle with its certificate',
    'absolute gauge and thermometer in date',
    'oxygen meter',
  ],
  permissions: ['meter isolated by the operators', 'loop in manual', 'bypass of its trips'],
  cautions: NITROGEN,
  advise: gasAdvice,
  steps: (c) => [
    ...beginningClosed(c, NITROGEN),
    {
      id: 'isolated',
      kind: 'valve',
      title: 'Isolate the meter, connect the nozzle',
      says: 'Meter valved out and vented; hose, nozzle and gauge on the check port; vent outdoors.',
      hold: ['No flow of the process reaches the meter.', 'The hose was soaped at 3 bar and holds.'],
    },
    {
      id: 'nozzle',
      kind: 'read',
      title: 'The nozzle',
      says: 'From its certificate. Without a discharge coefficient type 0: that of a toroidal throat is used.',
      fields: [
        { name: 'throat_mm', label: 'Throat', unit: 'mm' },
        { name: 'Cd', label: 'Discharge coefficient', unit: null, preset: 0 },
      ],
    },
    ...PRESSURES_KPA.map((p, i): Step => ({
      id: `gas-${i + 1}`,
      series: 'gas',
      kind: 'read',
      phase: 'asFound',
      before: letItFlow,
      title: `${i + 1} of ${PRESSURES_KPA.length}: about ${p} kPa absolute`,
      says: 'Set it, wait until pressure, temperature and reading stand still, read all four.',
      fields: [
        { name: 'p0_kPa', label: 'Pressure before the nozzle, absolute', unit: 'kPa' },
        { name: 't0_C', label: 'Temperature there', unit: 'degC' },
        { name: 'after_kPa', label: 'Pressure behind it, absolute', unit: 'kPa' },
        { name: 'pv', label: 'The meter reads', unit: c.range.unit, readsFrom: 'pv' },
        { name: 'baseline_pct', label: 'Deviation at the first check (0: this is it)', unit: '%', preset: 0 },
      ],
    })),
    {
      id: 'decide',
      judged: true,
      kind: 'decide',
      title: 'Accept, or report',
      says: 'Meter against nozzle, and against its own first check.',
      choices: [
        { value: 'accept', title: 'Accept: it measures as before' },
        { value: 'report', title: 'Report: clean it, or send it in' },
      ],
    },
    {
      id: 'removed',
      kind: 'valve',
      title: 'Bottle shut, hose vented and off',
      says: 'Bottle first, then the regulator, then the hose.',
      command: { kind: 'apply', value: null },
      hold: ['The check port is closed again.', 'The room is aired; the oxygen meter is quiet.'],
    },
    ...endingClosed(c),
  ],
}
