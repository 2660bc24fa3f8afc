import { defineFamily } from '../define.ts'
import { vesselOf } from '../vessel.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { isLevel, isTapped, rangeOf } from './range.ts'
import { GROUPS } from './settings.ts'
import { startOf } from './start.ts'
import { manifoldKind } from './valve-order.ts'
import { pressureKind, UNIT_OF_KIND, zeroInput } from './zero-input.ts'

/** Gauge, absolute and differential pressure, and levels by it. */
export const pressure = defineFamily({
  id: 'pressure',
  title: 'Pressure and differential pressure',
  usualWords: [
    ['pressure'],
    ['gauge pressure', { duty: 'gauge' }],
    ['pressure gauge', { duty: 'gauge' }],
    ['absolute pressure', { duty: 'absolute' }],
    ['vacuum absolute', { duty: 'absolute' }],
    ['differential pressure', { duty: 'differential' }],
    ['differential pressure level', { duty: 'dry' }],
    ['level hydrostatic', { duty: 'open' }],
    ['hydrostatic', { duty: 'open' }],
  ],
  groups: GROUPS,
  compute,
  ranges: (s) => {
    const r = rangeOf(s)
    if ('says' in r) return []
    const unit = s.duty === 'gauge' || s.duty === 'absolute' ? UNIT_OF_KIND[s.duty] : 'kPa'
    const asked = isTapped(s)
      ? [{ low: s.zero_m, high: s.full_m, unit: 'm' }]
      : [{ low: s.lrv_kPa, high: s.urv_kPa, unit }]
    return [{ low: r.lrv_kPa, high: r.urv_kPa, unit }, ...asked]
  },
  rangeEntries: (s) => (isTapped(s) ? ['zero_m', 'full_m'] : ['lrv_kPa', 'urv_kPa']),
  start: startOf,
  vessel: (s) => (isLevel(s) ? vesselOf(s, s.full_m - s.zero_m) : null),
  manifold: manifoldKind,
  pressureKind,
  damping_s: (s) => s.damping_s,
  zeroInput,
  sensorLimits: (s) => ({
    low: s.duty === 'absolute' ? 0 : -s.url_kPa,
    high: s.url_kPa,
    unit: s.duty === 'gauge' || s.duty === 'absolute' ? UNIT_OF_KIND[s.duty] : 'kPa',
    rests: ['url_kPa'],
  }),
  device,
  appliedBy: () => 'pressure',
  parts: () => ({ sender: { kind: 'two-wire-transmitter' }, cores: 2, feed: 'supply', into: 'analogue' }),
  references: ['second meter', 'gauge glass'],
  needs: {
    kit: [
      'hand pump with a reference gauge',
      'manifold key',
      'loop meter',
      'hose and fittings',
      'rag and drain bottle',
    ],
    cautions: [
      'Isolate, depressurise, prove, lock and tag; a closed valve is not proof of zero.',
      'Vents point away from people; steam and hot brine flash.',
      'Liquid-filled or hot legs: never open vents without the site’s own procedure.',
      'Put the loop in manual and bypass its trips by authorisation; both are recorded and taken back.',
    ],
  },
})
