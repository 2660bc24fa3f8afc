import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { GROUPS } from './settings.ts'
import { THERMOCOUPLES } from './thermocouple.ts'

/** Resistance thermometers and thermocouples. */
export const temperature = defineFamily({
  id: 'temperature',
  title: 'Temperature',
  usualWords: [
    ['temperature'],
    ['pt100', { sensor: 'pt100' }],
    ['pt1000', { sensor: 'pt1000' }],
    ['temperature pt100', { sensor: 'pt100' }],
    ['temperature pt1000', { sensor: 'pt1000' }],
    ['thermocouple', { sensor: 'K' }],
    ['temperature thermocouple', { sensor: 'K' }],
    ...THERMOCOUPLES.map((t) => [`thermocouple ${t.toLowerCase()}`, { sensor: t }] as const),
    ...THERMOCOUPLES.map((t) => [`temperature type ${t.toLowerCase()}`, { sensor: t }] as const),
    ['rtd'],
  ],
  groups: GROUPS,
  compute,
  ranges: (s) => [{ low: s.low_C, high: s.high_C, unit: 'degC' }],
  rangeEntries: () => ['low_C', 'high_C'],
  start: ({ range, shows }) => {
    const r = firstIn([range, shows], 'degC')
    return r ? { low_C: r.low, high_C: r.high } : {}
  },
  damping_s: (s) => s.damping_s,
  zeroInput: (s) => ({
    input: null,
    unit: 'degC',
    says: `There is no zero input: ${s.low_C} °C is set with a decade, a source or a bath.`,
  }),
  device,
  appliedBy: (s) => (s.sensor === 'pt100' || s.sensor === 'pt1000' ? 'resistance' : 'millivolts'),
  told: (s) => ({ sensor: s.sensor, r0_ohm: s.sensor === 'pt1000' ? 1000 : 100 }),
  parts: () => ({ sender: { kind: 'two-wire-transmitter' }, cores: 2, feed: 'supply', into: 'analogue' }),
  references: ['second meter'],
  needs: {
    kit: [
      'decade box or millivolt source',
      'reference thermometer and bath or block',
      'heat-conducting paste',
    ],
    cautions: [
      'A well under pressure is never unscrewed: it is the wall of the process.',
      'Hot surfaces burn: above 60 °C gloves.',
      'Put the loop in manual before the sensor is disconnected: a broken sensor drives the output to its end.',
    ],
  },
})
