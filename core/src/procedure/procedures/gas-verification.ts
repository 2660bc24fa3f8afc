import type { Procedure, Step } from '../step.ts'
import { beginningClosed, endingClosed } from './common.ts'

const NITROGEN = [
  'Nitrogen suffocates without warning: vent outdoors, wear an oxygen meter, never alone.',
  'Bottles are chained; the regulator is in date; goggles.',
  'The permit is here and names this tag.',
]
/** Pressures before the nozzle, kPa absolute. */
const PRESSURES_KPA = [300, 500, 700, 900] as const

export const GAS_VERIFICATION: Procedure = {
  id: 'gas-verification',
  title: 'Verification in place with nitrogen',
  purpose:
    'Nitrogen through a sonic nozzle at several pressures: the flow follows from pressure and temperature, and the meter is compared with it and with its first check.',
  minutes: 45,
  fits: (type) => /thermal/i.test(type),
  tools: [
    'nitrogen bottle and regulator',
    'nozzle with its certificate',
    'absolute gauge and thermometer in date',
    'oxygen meter',
  ],
  permissions: ['meter isolated by the operators', 'loop in manual', 'bypass of its trips'],
  cautions: NITROGEN,
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
      kind: 'read',
      phase: 'asFound',
      title: `${i + 1} of ${PRESSURES_KPA.length}: about ${p} kPa absolute`,
      says: 'Set it, wait until pressure, temperature and reading stand still, read all four.',
      fields: [
        { name: 'p0_kPa', label: 'Pressure before the nozzle, absolute', unit: 'kPa' },
        { name: 't0_C', label: 'Temperature there', unit: 'degC' },
        { name: 'after_kPa', label: 'Pressure behind it, absolute', unit: 'kPa' },
        { name: 'pv', label: 'The meter reads', unit: c.range.unit },
        { name: 'baseline_pct', label: 'Deviation at the first check (0: this is it)', unit: '%', preset: 0 },
      ],
    })),
    {
      id: 'decide',
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
      hold: ['The check port is closed again.', 'The room is aired; the oxygen meter is quiet.'],
    },
    ...endingClosed(c),
  ],
}
