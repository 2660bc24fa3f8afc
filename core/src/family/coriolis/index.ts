import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { frequency_Hz, frequencyEntry } from './outputs.ts'
import { told } from './told.ts'
import { GROUPS } from './settings.ts'

/** Coriolis meters by tag, certificate and device. */
export const coriolis = defineFamily({
  id: 'coriolis',
  title: 'Coriolis',
  usualWords: [['coriolis'], ['flow coriolis'], ['mass flow coriolis']],
  groups: GROUPS,
  compute,
  ranges: (s) => [{ low: 0, high: s.flow_kgh, unit: 'kg/h' }],
  rangeEntries: () => ['flow_kgh'],
  start: ({ range, shows }) => {
    const r = firstIn([range, shows], 'kg/h')
    return r && r.high > 0 ? { flow_kgh: r.high } : {}
  },
  zeroInput: () => ({
    input: 0,
    unit: 'kg/h',
    says: 'Zero is the tube full, at working temperature and still, both valves shut and tight.',
  }),
  // A zero inside its own stability is as good as a new one.
  damping_s: (s) => s.damping_s,
  zeroLimits: (s) => ({ least: s.zs_kgh, most: null, unit: 'kg/h' }),
  device,
  appliedBy: () => 'flow',
  lit: (s) => s.backlight,
  pulses: (s) => ({
    atRate: s.flow_kgh,
    unit: 'kg/h',
    frequency_Hz: frequency_Hz(s),
    width_ms: s.pulse_ms,
    limit_Hz: s.limit_Hz,
    rests: ['flow_kgh', frequencyEntry(s)],
  }),
  told,
  parts: () => ({
    sender: { kind: 'four-wire-active', settings: { fed: 'mains' } },
    cores: 2,
    feed: 'mains',
    into: 'analogue',
  }),
  references: ['portable meter', 'timed catch', 'tank draw-down'],
  needs: {
    kit: ['certificate and a picture of the tag', 'reference density for the check (water or air)'],
    cautions: [
      'Zero only with the tubes full, at working temperature, both valves shut and tight: a leak becomes a constant error.',
      'Put the controller in manual and tell the operator before factors change.',
    ],
  },
})
