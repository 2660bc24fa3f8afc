import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { phSensorUse } from './sensor.ts'
import { GROUPS } from './settings.ts'

/** Glass electrodes: buffers, electrode state, readings. */
export const ph = defineFamily({
  id: 'ph',
  title: 'pH',
  usualWords: [['ph'], ['ph redox'], ['acidity']],
  groups: GROUPS,
  compute,
  ranges: (s) => [{ low: s.low_pH, high: s.high_pH, unit: 'pH' }],
  rangeEntries: () => ['low_pH', 'high_pH'],
  start: ({ range, shows }) => {
    const r = firstIn([range, shows], 'pH')
    return r ? { low_pH: r.low, high_pH: r.high } : {}
  },
  zeroInput: () => ({
    input: 7,
    unit: 'pH',
    says: 'The zero point of a glass electrode is pH 7: only a buffer gives it.',
  }),
  sensor: phSensorUse,
  device,
  appliedBy: () => 'buffers',
  parts: () => ({ sender: { kind: 'two-wire-transmitter' }, cores: 2, feed: 'supply', into: 'analogue' }),
  references: ['second meter'],
  needs: {
    kit: [
      'two buffers in date, their table and lot at hand',
      'demineralised water, soft paper to dab, never to rub',
      'cup for each buffer; used buffer is discarded',
      'thermometer, if the sensor has none',
    ],
    cautions: [
      'Acid and alkali burn: goggles and gloves; know where the shower is.',
      'Never pour process liquid into a buffer bottle, or the reverse.',
      'Alkaline buffers take up carbon dioxide: use once, close at once.',
    ],
  },
})
