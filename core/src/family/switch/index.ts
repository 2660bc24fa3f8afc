import { defineFamily } from '../define.ts'
import { OTHER_DEVICE } from '../../device/other.ts'
import { compute } from './compute.ts'
import { partsOf } from './parts.ts'
import { GROUPS } from './settings.ts'
import { told } from './told.ts'

/** Discrete sensors and trip relays: what the input means, how fast, and what a cut wire looks like. */
export const discrete = defineFamily({
  id: 'switch',
  title: 'Switch, sensor or trip',
  usualWords: [
    ['switch'],
    ['pressure switch', { kind: 'dry' }],
    ['level switch', { kind: 'dry' }],
    ['flow switch', { kind: 'dry' }],
    ['temperature switch', { kind: 'dry' }],
    ['proximity', { kind: 'inductive' }],
    ['inductive', { kind: 'inductive' }],
    ['float', { kind: 'float', output: 'contact' }],
    ['magnetic', { kind: 'magnetic', output: 'pnp' }],
    ['cylinder', { kind: 'magnetic', output: 'pnp' }],
    ['trip', { kind: 'trip' }],
    ['pnp', { output: 'pnp' }],
    ['npn', { output: 'npn' }],
    ['push pull', { output: 'pushPull' }],
    ['namur', { output: 'namur' }],
    ['dry contact', { output: 'contact' }],
    ['contact', { output: 'contact' }],
    ['switch 2 wire', { output: 'twoWire' }],
    ['switch nc', { contact: 'nc', meaning1: 'notSensed' }],
    ['contact nc', { contact: 'nc', meaning1: 'notSensed' }],
    ['switch no', { contact: 'no' }],
    ['contact no', { contact: 'no' }],
  ],
  groups: GROUPS,
  compute,
  input: (s) => ({
    tag: s.tag,
    contact: s.contact,
    filter_ms: s.filter_ms,
    scan_ms: s.scan_ms,
    counts: s.counter,
    cycle: { ideal_s: s.ideal_s, least_s: s.least_s, most_s: s.most_s },
  }),
  parts: partsOf,
  device: OTHER_DEVICE,
  told,
  references: [],
  needs: {
    kit: ['target of the right metal', 'feeler gauge', 'meter on volts DC'],
    cautions: [
      'A machine can start when its sensor switches: lock it out before a hand goes in.',
      'A safety interlock is never bridged without its permit.',
      'Mains on a contact: isolate and prove dead first.',
    ],
  },
})
