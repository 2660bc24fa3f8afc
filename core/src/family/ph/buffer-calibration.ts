import type { Use } from '../../plan/consumables.ts'
import { adjusted, callAndBypass, checkAndCall, decision } from '../../procedure/parts.ts'
import { sayNumber } from '../../quantity/round.ts'
import { sensorAfter } from './bench-calibration.ts'
import { bufferByPH, bufferProblem, phResult } from './buffer-check.ts'
import { bufferPH } from './buffers.ts'
import { seriesOf, valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import { wrote, type Outcome } from '../../procedure/outcome.ts'
import type { Advice, Procedure, Step, Values } from '../../procedure/step.ts'

const ACID = [
  'Acid and alkali burn: goggles and gloves; know the shower.',
  'The permit is here and names this tag.',
]
const MOST_BUFFERS = 5
/** A check in a buffer as left is right within this; typical. */
const CHECK_WITHIN_PH = 0.05
/** Two readings of an electrode that stands agree within a quarter of this, mV. */
const STEADY_MV = 4

function phAdvice(run: ProcedureRun): Advice {
  const result = phResult(seriesOf(run, 'buffer'))
  if (!result) return { choice: 'leave', says: ['The buffers give no line: read them again.'] }
  const { offset_mV, slope_pct } = result.electrode
  const says = [`Offset ${sayNumber(offset_mV, 3)} mV, slope ${sayNumber(slope_pct, 4)} % of the ideal.`]
  if (seriesOf(run, 'buffer').length === 1)
    says.push('One buffer: the offset only, the slope stays as it was.')
  if (result.warnings.includes('TEMPERATURES_APART'))
    says.push('The two were read at different temperatures: let them come to the same.')
  if (result.warnings.includes('SUSPECT_BUFFER'))
    says.push(
      `One of them lies ${sayNumber(result.maxResidual_mV, 3)} mV off the line: an old bottle, or not the one on the label?`,
    )
  if (result.state === 'REJECTED' || result.warnings.includes('SUSPECT_BUFFER'))
    return {
      choice: 'leave',
      says: [...says, 'No healthy electrode is like that: clean it and read again, else replace it.'],
    }
  return {
    choice: 'adjust',
    says: [
      ...says,
      result.state === 'GOOD'
        ? 'The electrode is good.'
        : 'The electrode is near its end: have a new one ready.',
    ],
  }
}

/** What the glass gives, whether it was written, and what it reads in a buffer since. */
function judgePh(run: ProcedureRun): Outcome {
  const readings = seriesOf(run, 'buffer')
  const result = phResult(readings)
  if (!result) return { result: 'notDone', says: ['No buffer was read; nothing is changed.'] }
  const { offset_mV, slope_pct } = result.electrode
  const told = `Offset ${sayNumber(offset_mV, 3)} mV, slope ${sayNumber(slope_pct, 4)} % from ${readings.length} ${readings.length === 1 ? 'buffer' : 'buffers'}.`
  if (result.state === 'REJECTED')
    return { result: 'out', says: [told, 'Outside 85 to 105 % and ±30 mV: clean it, else replace it.'] }
  const check = valuesOfStep(run, 'asLeft-1-read')
  if (!wrote(run))
    return { result: 'notJudged', says: [told, 'It was not written into the sensor: the old values stay.'] }
  const { pv, buffer = NaN, t = 25 } = check
  if (pv === undefined) return { result: 'notVerified', says: [told, 'Nobody has read a buffer since.'] }
  const named = bufferByPH(buffer)
  const should = named ? (bufferPH(named, t) ?? buffer) : buffer
  const checked = `In buffer ${sayNumber(should, 4)} it reads ${sayNumber(pv, 4)} pH, allowed ±${CHECK_WITHIN_PH}.`
  if (!(Math.abs(pv - should) <= CHECK_WITHIN_PH)) return { result: 'out', says: [told, checked] }
  if (readings.length === 1)
    return { result: 'notVerified', says: [told, checked, 'One buffer says nothing of the slope.'] }
  return { result: 'adjusted', says: [told, checked] }
}

/** Into the bottle that was typed, so that the electrode stands in it. */
function dip({ buffer = NaN }: Values) {
  const named = bufferByPH(buffer)
  const pH = named && bufferPH(named, 25)
  return pH === null
    ? null
    : { says: `Into the ${sayNumber(pH, 4)} bottle`, command: { kind: 'apply' as const, value: pH } }
}
const bufferFields: NonNullable<Step['fields']> = [
  { name: 'buffer', label: 'Buffer on the bottle, pH at 25 °C', unit: null },
  {
    name: 'mV',
    label: 'Stable reading',
    unit: 'mV',
    readsFrom: { signal: 'electrode_mV' },
    within: STEADY_MV,
  },
  { name: 't', label: 'Temperature', unit: 'degC', readsFrom: { signal: 'medium_C' } },
  { name: 'pv', label: 'pH shown there', unit: null, readsFrom: 'pv' },
]
/** What the sensor is told: every buffer that was read, with what it showed there. */
const writeBuffers = (run: ProcedureRun) => ({
  kind: 'adjust' as const,
  adjustment: {
    kind: 'points' as const,
    points: seriesOf(run, 'buffer').flatMap((v) => {
      const named = bufferByPH(v['buffer'] ?? NaN)
      const applied = named && bufferPH(named, v['t'] ?? 25)
      return applied === null || v['pv'] === undefined ? [] : [{ applied, pv: v['pv'] }]
    }),
  },
})

const rinsed = (n: number): Step => ({
  id: `rinse-${n}`,
  kind: 'confirm',
  title: n === 1 ? 'Out of the process: clean, rinse, dab dry' : 'Rinse again',
  says: 'Demineralised water; never rub. Then a little of the next buffer.',
  hold: ['Rinsed, and with the next buffer.'],
})

const NEUTRAL_PH = 7
export const PH_BUFFERS: Procedure = {
  id: 'ph-buffers',
  judges: 'sensor',
  title: 'pH in one to five buffers',
  purpose:
    'Offset from one buffer, slope from two that bracket the process, the line checked by more; each is recognised by its voltage. Written into the sensor, read back, and checked in a buffer.',
  minutes: 30,
  // Two that bracket the process, and the second one again to check it.
  uses: (c) =>
    [7, c.range.low >= NEUTRAL_PH ? 9 : 4].flatMap((pH, i): Use[] => [
      { item: 'buffer', pH, beaker_ml: 50, rinses: 1 + i, probes: 1 },
      { item: 'water', changes: 1 + i, probes: 1 },
    ]),
  tools: ['buffers in date, two or more', 'demineralised water', 'soft paper'],
  permissions: ['loop in manual'],
  cautions: ACID,
  advise: phAdvice,
  sensorAfter: (run, values, lastOn, today) => {
    const readings = seriesOf(run, 'buffer')
    const result = phResult(readings)
    if (!result) return null
    const { offset_mV, slope_pct } = result.electrode
    return sensorAfter(
      values,
      { offset_mV, slope_pct: readings.length > 1 ? slope_pct : null },
      lastOn,
      today,
    )
  },
  judge: judgePh,
  steps: (c) => [
    ...callAndBypass(c, ACID),
    ...(c.way === 'bench'
      ? []
      : [
          {
            id: 'inProcess',
            kind: 'read' as const,
            phase: 'asFound' as const,
            title: 'Read in the process, as found',
            says: 'What it shows before the probe is taken out.',
            gates: ['process'] as const,
            fields: [{ name: 'pv', label: 'pH shown', unit: null, readsFrom: 'pv' as const }],
          },
        ]),
    ...Array.from({ length: MOST_BUFFERS }, (_, i) => i + 1).flatMap((n): Step[] => [
      rinsed(n),
      {
        id: `buffer-${n}`,
        series: 'buffer',
        phase: 'asFound',
        gate: bufferProblem,
        before: dip,
        gates: ['still'],
        steady: 'mV',
        kind: 'read',
        title: `Buffer ${n}`,
        says: 'Type the buffer on the bottle, immerse glass and junction, wait until voltage and temperature stand.',
        fields: bufferFields,
      },
      ...(n < MOST_BUFFERS
        ? [
            {
              id: `another-${n}`,
              kind: 'decide' as const,
              title: `${n} read: another buffer?`,
              says:
                n === 1
                  ? 'One buffer gives an offset only; the slope stays as it was.'
                  : 'Two give offset and slope; a third proves the line.',
              choices: [
                { value: 'next', title: 'Another buffer' },
                { value: 'enough', title: 'These are enough' },
              ],
              recommends: n === 1 ? 'next' : 'enough',
              jumps: { enough: 'decide' },
            },
          ]
        : []),
    ]),
    decision('Take the new offset and slope, or keep the old ones'),
    {
      id: 'written',
      kind: 'write',
      title: 'Write it into the sensor',
      says: 'Offset and slope of the buffers that were read; the sensor keeps them with the day.',
      gates: ['asFound', 'authority'],
      commandFrom: writeBuffers,
    },
    adjusted,
    {
      id: 'asLeft-1-read',
      kind: 'read',
      phase: 'asLeft',
      title: 'Check in one of the buffers',
      says: 'As left, in a buffer: it has to show what stands on the bottle.',
      before: dip,
      gates: ['still'],
      steady: 'pv',
      fields: [
        { name: 'buffer', label: 'Buffer on the bottle, pH at 25 °C', unit: null },
        { name: 't', label: 'Temperature', unit: 'degC', readsFrom: { signal: 'medium_C' } },
        {
          name: 'pv',
          label: 'pH shown there',
          unit: null,
          readsFrom: 'pv',
          within: CHECK_WITHIN_PH,
        },
      ],
    },
    {
      id: 'back',
      kind: 'confirm',
      title: c.way === 'bench' ? 'Onto the shelf' : 'Back into the process',
      says:
        c.way === 'bench'
          ? 'Moist, with its cap; its data and the day are kept with it.'
          : 'Rinsed; the seal looked at; used buffer poured away.',
      hold: [c.way === 'bench' ? 'Capped and moist, on the shelf.' : 'In place and tight; locked.'],
      command: { kind: 'apply', value: null },
    },
    ...(c.way === 'bench'
      ? []
      : [
          {
            id: 'processAgain',
            kind: 'read' as const,
            title: 'What it reads in the process again',
            says: 'Against a grab sample or what the operator knows; never while it stands in a buffer.',
            gates: ['process', 'still'] as const,
            fields: [{ name: 'pv', label: 'pH shown', unit: null, readsFrom: 'pv' as const }],
          },
        ]),
    ...checkAndCall(c),
  ],
}
