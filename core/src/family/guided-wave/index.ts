import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute, probeOf, zeroDistance } from './compute.ts'
import { device } from './device.ts'
import { GROUPS, type Entries } from './settings.ts'
import { vesselOf } from '../vessel.ts'

/** Guided wave on a probe. */
export const guidedWave = defineFamily({
  id: 'guided-wave',
  title: 'Guided wave on a probe',
  usualWords: [['guided wave'], ['level guided wave'], ['guided wave radar'], ['level guided wave radar']],
  groups: GROUPS,
  compute,
  ranges: (s) => {
    const p = probeOf(s)
    const zero = zeroDistance(s, p)
    return [
      { low: zero - p.at4_m, high: zero - p.at20_m, unit: 'm' },
      { low: p.at4_m, high: p.at20_m, unit: 'm' },
    ]
  },
  rangeEntries: (s) =>
    s.points === 'distance'
      ? ['at4_m', 'at20_m']
      : s.points === 'level'
        ? ['zero_m', 'level4_m', 'level20_m']
        : ['probe_m', 'topDead_m', 'bottomDead_m'],
  start: ({ range, shows }): Partial<Entries> => {
    const r = firstIn([range, shows], 'm')
    if (!r) return {}
    return r.high < r.low
      ? { points: 'distance', at4_m: r.low, at20_m: r.high }
      : { points: 'level', level4_m: r.low, level20_m: r.high }
  },
  vessel: (s) => vesselOf(s, zeroDistance(s, probeOf(s)) - probeOf(s).at20_m),
  zeroInput: (s) => ({
    input: null,
    unit: 'm',
    says: `Zero is a surface ${zeroDistance(s, probeOf(s))} m below the flange: only the tape or a gauge glass gives it.`,
  }),
  damping_s: (s) => s.damping_s,
  device,
  appliedBy: () => 'level',
  parts: () => ({ sender: { kind: 'two-wire-transmitter' }, cores: 2, feed: 'supply', into: 'analogue' }),
  references: ['gauge glass', 'second meter'],
  needs: {
    kit: ['tape for the probe', 'spanner for the coupling', 'anchor or centring for a cable'],
    cautions: [
      'Tank roof: fall protection; nothing dropped into the tank.',
      'Pressure in the tank: isolate, vent and prove zero before the coupling is opened.',
      'A cable in solids pulls: check the roof’s load.',
      'Overfill protection stays independent of the level being worked on.',
    ],
  },
})
