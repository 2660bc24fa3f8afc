import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { GROUPS } from './settings.ts'
import { fluidOf } from './stream.ts'
import { whatIf } from './what-if.ts'

/** Orifice plates; what measures the differential is a pressure transmitter, and one root belongs on the path. */
export const orifice = defineFamily({
  id: 'orifice',
  title: 'Orifice, differential pressure',
  usualWords: [
    ['orifice'],
    ['dp flow'],
    ['flow pressure'],
    ['flow differential pressure'],
    ['venturi'],
    ['pitot'],
  ],
  needsRoot: true,
  groups: GROUPS,
  compute,
  ranges: (s) => [{ low: 0, high: s.span_kPa, unit: 'kPa' }],
  rangeEntries: () => ['span_kPa'],
  start: ({ range, shows }) => {
    const dp = firstIn([range, shows], 'kPa')
    return dp && dp.high > 0 ? { span_kPa: dp.high } : {}
  },
  damping_s: (s) => s.damping_s,
  pressureKind: () => 'differential',
  fluid: fluidOf,
  zeroInput: () => ({
    input: 0,
    unit: 'kPa',
    says: 'With the manifold equalised both sides have the same pressure: the true differential is 0.',
  }),
  whatIf,
  device,
  appliedBy: () => 'pressure',
  parts: () => ({ sender: { kind: 'two-wire-transmitter' }, cores: 2, feed: 'supply', into: 'analogue' }),
  references: ['portable meter', 'timed catch', 'tank draw-down'],
  needs: {
    kit: ['plate with its certificate, bore and edge looked at', 'five-valve manifold key'],
    cautions: [
      'A manifold opened in the wrong order overloads the cell; equalise first.',
      'Isolate, bleed and prove zero before the plate is drawn.',
    ],
  },
})
