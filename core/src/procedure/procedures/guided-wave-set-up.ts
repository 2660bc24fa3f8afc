import { adjusted, decision, write } from '../parts.ts'
import type { Procedure } from '../step.ts'
import { beginningClosed, ELECTRIC, endingClosed, say } from './common.ts'

export const GUIDED_WAVE_SET_UP: Procedure = {
  id: 'guided-wave-set-up',
  title: 'Guided wave, quick set-up',
  purpose: 'Probe, range and echoes of a guided wave level in one go, checked against the tape.',
  minutes: 30,
  fits: (type) => /guided wave/i.test(type),
  tools: ['settings sheet of this loop', 'tape or sight glass', 'link to the device'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  steps: (c) => [
    ...beginningClosed(c, ELECTRIC),
    {
      id: 'probe',
      kind: 'read',
      title: 'The probe',
      says: 'Measured before it goes in; a cable probe is measured stretched.',
      fields: [
        { name: 'probe_m', label: 'Probe length', unit: 'm' },
        { name: 'zone_m', label: 'Top zone that is not measured', unit: 'm' },
      ],
    },
    {
      id: 'clear',
      kind: 'confirm',
      title: 'Nothing near the probe',
      says: 'Nozzle, ladder and filling stream give echoes of their own.',
      hold: ['It hangs free of wall and stream, and does not touch the nozzle.'],
    },
    {
      id: 'echoes',
      kind: 'read',
      title: 'Reference mark, surface, end of the probe',
      says: 'All three have to be there: the mark proves the top, the end proves the length.',
      fields: [
        { name: 'mark_pct', label: 'Reference mark', unit: '%' },
        { name: 'surface_pct', label: 'Surface echo', unit: '%' },
        { name: 'end_pct', label: 'End of the probe', unit: '%' },
      ],
    },
    {
      id: 'asFound-1-read',
      kind: 'read',
      phase: 'asFound',
      title: 'Level by the tape, and what it reads',
      says: 'Before anything is written.',
      fields: [
        { name: 'applied', label: 'Level by the tape', unit: c.range.unit },
        { name: 'pv', label: 'It reads', unit: c.range.unit },
      ],
    },
    decision('Write the range, or leave it'),
    write(
      'range',
      `Set ${say(c, c.range.low)} to ${say(c, c.range.high)}`,
      'As documented: 4 mA at the first, 20 mA at the second.',
      'range',
      {
        fields: [
          { name: 'LRV', label: '4 mA point', unit: c.range.unit },
          { name: 'URV', label: '20 mA point', unit: c.range.unit },
        ],
      },
    ),
    adjusted,
    {
      id: 'asLeft-1-read',
      kind: 'read',
      phase: 'asLeft',
      title: 'Level by the tape, and what it reads now',
      says: 'The same comparison, after it was stored.',
      fields: [
        { name: 'applied', label: 'Level by the tape', unit: c.range.unit },
        { name: 'pv', label: 'It reads', unit: c.range.unit },
      ],
    },
    ...endingClosed(c),
  ],
}
