import { adjusted, decision } from '../../procedure/parts.ts'
import { sayNumber } from '../../quantity/round.ts'
import { bufferProblem, phResult } from './buffer-check.ts'
import { seriesOf, type ProcedureRun } from '../../procedure/run.ts'
import type { Advice, Procedure, Step } from '../../procedure/step.ts'
import { beginningClosed, endingClosed } from '../../procedure/general/common.ts'

const ACID = [
  'Acid and alkali burn: goggles and gloves; know the shower.',
  'The permit is here and names this tag.',
]
const MOST_BUFFERS = 5

function phAdvice(run: ProcedureRun): Advice {
  const result = phResult(seriesOf(run, 'buffer'))
  if (!result) return { choice: 'leave', says: ['The buffers give no line: read them again.'] }
  const { offset_mV, slope_pct } = result.electrode
  const says = [`Offset ${sayNumber(offset_mV, 3)} mV, slope ${sayNumber(slope_pct, 4)} % of the ideal.`]
  if (result.warnings.includes('TEMPERATURES_APART'))
    says.push('The two were read at different temperatures: let them come to the same.')
  if (result.warnings.includes('SUSPECT_BUFFER'))
    says.push(
      `One of them lies ${sayNumber(result.maxResidual_mV, 3)} mV off the line: an old bottle, or not the one on the label?`,
    )
  if (result.state === 'REJECTED')
    return {
      choice: 'leave',
      says: [...says, 'No healthy electrode is like that: clean it, else replace it.'],
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

export const PH_BUFFERS: Procedure = {
  id: 'ph-buffers',
  title: 'pH in one to five buffers',
  purpose:
    'Offset from one buffer, slope from two that bracket the process, the line checked by more; each is recognised by its voltage.',
  minutes: 30,
  tools: ['buffers in date, two or more', 'demineralised water', 'soft paper'],
  permissions: ['loop in manual'],
  cautions: ACID,
  advise: phAdvice,
  steps: (c) => [
    ...beginningClosed(c, ACID),
    {
      id: 'asFound-1-read',
      kind: 'read',
      phase: 'asFound',
      title: 'Read in the process, as found',
      says: 'What it shows before the probe is taken out.',
      fields: [{ name: 'pv', label: 'pH shown', unit: null, readsFrom: 'pv' }],
    },
    ...Array.from({ length: MOST_BUFFERS }, (_, i) => i + 1).flatMap((n): Step[] => [
      {
        id: `rinse-${n}`,
        kind: 'confirm',
        title: n === 1 ? 'Clean, rinse, dab dry' : 'Rinse again',
        says: 'Demineralised water; never rub. Then a little of the next buffer.',
        hold: ['Rinsed, and with the next buffer.'],
      },
      {
        id: `buffer-${n}`,
        series: 'buffer',
        gate: bufferProblem,
        kind: 'read',
        title: `Buffer ${n}`,
        says: 'Immerse glass and junction, wait until the reading is steady, then type the buffer on the bottle and the reading.',
        fields: [
          { name: 'buffer', label: 'Buffer on the bottle, pH at 25 °C', unit: null },
          { name: 'mV', label: 'Stable reading', unit: 'mV', readsFrom: { signal: 'electrode_mV' } },
          { name: 't', label: 'Temperature', unit: 'degC', readsFrom: { signal: 'medium_C' } },
        ],
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
    adjusted,
    {
      id: 'asLeft-1-read',
      kind: 'read',
      phase: 'asLeft',
      title: 'Read in the process, as left',
      says: 'Back in place, after it has settled.',
      fields: [{ name: 'pv', label: 'pH shown', unit: null, readsFrom: 'pv' }],
    },
    {
      id: 'locked',
      kind: 'confirm',
      title: 'Lock the device',
      says: 'Used buffer is discarded.',
      hold: ['Locked; used buffer is poured away.'],
    },
    ...endingClosed(c),
  ],
}
