import { firstIn } from '../../signal/range-in.ts'
import { defineFamily } from '../define.ts'
import { compute } from './compute.ts'
import { device } from './device.ts'
import { GROUPS } from './settings.ts'
import { told } from './told.ts'
import { thermalSensor } from './sensor-probe.ts'
import { whatIf } from './what-if.ts'

/** Thermal mass meters on a stem, and their check with nitrogen in place. */
export const thermal = defineFamily({
  id: 'thermal',
  title: 'Thermal insertion',
  usualWords: [['thermal'], ['flow thermal'], ['thermal mass flow']],
  groups: GROUPS,
  compute,
  ranges: (s) => [{ low: 0, high: s.fs_kgh, unit: 'kg/h' }],
  rangeEntries: () => ['fs_kgh'],
  start: ({ range, shows }) => {
    const r = firstIn([range, shows], 'kg/h')
    return r && r.high > 0 ? { fs_kgh: r.high } : {}
  },
  zeroInput: () => ({
    input: 0,
    unit: 'kg/h',
    says: 'No flow past the element, in the process’ own gas: a valve that leaks makes a hidden zero.',
  }),
  damping_s: (s) => s.damping_s,
  whatIf,
  sensor: thermalSensor,
  device,
  appliedBy: () => 'flow',
  told,
  parts: () => ({
    sender: { kind: 'four-wire-active', settings: { fed: 'mains' } },
    cores: 2,
    feed: 'mains',
    into: 'analogue',
  }),
  references: ['portable meter', 'second meter'],
  needs: {
    kit: [
      'nitrogen with regulator and hose',
      'sonic nozzle with its certificate',
      'oxygen meter',
      'depth gauge',
      'retractor or restraint cable',
    ],
    cautions: [
      'Before: valve bore wider than the probe, rating and restraint checked.',
      'Opening the valve: the packing can leak hot or toxic gas towards the face.',
      'Pushing in: the stem jumps back when the ferrule is loose.',
      'Retracting: close the valve only when the “clear” mark shows.',
      'Cylinders chained, regulator rated, relief after it; never vent into a pit or cabin.',
    ],
  },
})
