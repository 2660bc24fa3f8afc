import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute, echoOf } from './compute.ts'
import { device } from './device.ts'
import { GROUPS, type Entries } from './settings.ts'
import { told } from './told.ts'
import { vesselOf } from '../vessel.ts'

/** Ultrasonic and radar looking down at a surface. */
export const levelFromAbove = defineFamily({
  id: 'level-from-above',
  title: 'Level from above',
  usualWords: [
    ['level ultrasonic', { principle: 'ultrasonic' }],
    ['level radar', { principle: 'radar26' }],
    ['level echo'],
  ],
  groups: GROUPS,
  compute,
  ranges: (s) => {
    const e = echoOf(s)
    if ('says' in e) return []
    const { at4_m, at20_m } = e
    const zero = s.empty_m
    return [
      { low: zero - at4_m, high: zero - at20_m, unit: 'm' },
      { low: at4_m, high: at20_m, unit: 'm' },
    ]
  },
  rangeEntries: (s) => [
    'empty_m',
    ...(s.hundred === 'entered' ? (['full_m'] as const) : []),
    ...(s.points === 'ownDistance' ? (['at4_m', 'at20_m'] as const) : []),
    ...(s.points === 'ownLevel' ? (['level4_m', 'level20_m'] as const) : []),
  ],
  start: ({ range, shows }): Partial<Entries> => {
    const r = firstIn([range, shows], 'm')
    if (!r) return {}
    // A range that falls is a distance from the sensor; one that rises is a level, and says how high the full point is.
    return r.high < r.low
      ? { points: 'ownDistance', at4_m: r.low, at20_m: r.high }
      : { points: 'ownLevel', level4_m: r.low, level20_m: r.high }
  },
  vessel: (s) => {
    const e = echoOf(s)
    return 'says' in e ? null : vesselOf(s, e.empty_m - e.full_m)
  },
  zeroInput: (s) => ({
    input: null,
    unit: 'm',
    says: `Zero is the surface at ${s.empty_m} m from the reference: only a target or the tape gives it.`,
  }),
  damping_s: (s) => s.damping_s,
  device,
  appliedBy: () => 'level',
  told,
  parts: () => ({ sender: { kind: 'two-wire-transmitter' }, cores: 2, feed: 'supply', into: 'analogue' }),
  references: ['gauge glass', 'second meter'],
  needs: {
    kit: [
      'tape with a weight',
      'flat target for the check at a known distance',
      'level for the sensor’s axis',
    ],
    cautions: [
      'Tank roof: fall protection; never lean over an open hatch.',
      'No head or arm into a tank, silo or sump without permit, gas test and attendant.',
      'Overfill protection stays independent of the level being worked on.',
      'Bridged salt can collapse: never walk on it.',
    ],
  },
})
