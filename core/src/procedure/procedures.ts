import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { adjusted, beginning, decision, ending, phaseOf, write } from './parts.ts'
import type { Procedure, ProcedureContext, Step } from './step.ts'

const PRESSURE = ['Gloves and goggles: pressure can be trapped.', 'The permit is here and names this tag.']
const ELECTRIC = [
  'The panel may hold mains: look for it before a cover is opened.',
  'The permit is here and names this tag.',
]
const STANDARD = ['hand pump and reference gauge in date', 'loop meter in date', 'manifold key']
const at = (c: ProcedureContext, percent: number) =>
  c.range.low + ((c.range.high - c.range.low) * percent) / 100
const ends = (c: ProcedureContext) => [at(c, 0), at(c, 100)]
const zeroAndSpan = (c: ProcedureContext) => [at(c, 0), at(c, 50), at(c, 100)]
const say = (c: ProcedureContext, x: number) => `${sayNumber(x, 6)} ${printedUnit(c.range.unit)}`
const analogue = (type: string) => !/switch|display|ph\b/i.test(type)
const currents = (list: readonly number[]): Step[] =>
  list.flatMap((mA, i): Step[] => [
    {
      id: `current-${i + 1}-hold`,
      kind: 'apply',
      title: `Hold ${mA.toFixed(3)} mA`,
      says: 'Loop test: the output leaves the measurement and holds this current.',
      holdCurrent_mA: mA,
    },
    {
      id: `current-${i + 1}-read`,
      kind: 'read',
      title: `Read at ${mA.toFixed(3)} mA`,
      says: 'Meter in the loop, then what the controller shows.',
      holdCurrent_mA: mA,
      fields: [
        { name: 'mA', label: 'Loop current measured', unit: 'mA' },
        { name: 'shown', label: 'Controller shows', unit: null },
      ],
    },
  ])
const release: Step = {
  id: 'release',
  kind: 'apply',
  title: 'Release the held current',
  says: 'A loop left in fixed current looks alive and measures nothing.',
  holdCurrent_mA: null,
}

/** Every guided procedure. Data only: the engine knows none of them. */
export const PROCEDURES: readonly Procedure[] = [
  {
    id: 'zero-trim',
    title: 'Zero trim',
    purpose:
      'The reading is off by the same amount everywhere. With no input applied it is told that this is zero.',
    minutes: 20,
    fits: (type) => analogue(type) && !/flow, c|temperature/i.test(type),
    tools: STANDARD,
    permissions: ['loop in manual', 'bypass of its trips'],
    cautions: PRESSURE,
    steps: (c) => [
      ...beginning(c, PRESSURE),
      ...phaseOf(c, 'asFound', c.kind === 'differential' || c.limits.low <= 0 ? [0, at(c, 50)] : ends(c)),
      decision('Zero trim, or not'),
      write('zero', 'Zero trim', 'Equalised or vented: the true input is zero now.', 'zeroTrim', {
        apply: 0,
      }),
      adjusted,
      ...phaseOf(c, 'asLeft', [0, at(c, 50)]),
      ...ending(c),
    ],
  },
  {
    id: 'sensor-trim',
    title: 'Lower and upper sensor trim',
    purpose:
      'Zero and span are off. A known input is applied at the lower point, then at the upper one; never the other way.',
    minutes: 40,
    fits: (type) => analogue(type) && !/flow, c/i.test(type),
    tools: STANDARD,
    permissions: ['loop in manual', 'bypass of its trips'],
    cautions: PRESSURE,
    steps: (c) => [
      ...beginning(c, PRESSURE),
      ...phaseOf(c, 'asFound', zeroAndSpan(c)),
      decision('Sensor trim, or not'),
      write('lower', `Lower trim at ${say(c, at(c, 0))}`, 'A shift: the slope stays.', 'lowerTrim', {
        apply: at(c, 0),
        fields: [{ name: 'applied', label: 'Applied, by the standard', unit: c.range.unit }],
      }),
      write('upper', `Upper trim at ${say(c, at(c, 100))}`, 'A turn about the lower point.', 'upperTrim', {
        apply: at(c, 100),
        fields: [{ name: 'applied', label: 'Applied, by the standard', unit: c.range.unit }],
      }),
      adjusted,
      ...phaseOf(c, 'asLeft', zeroAndSpan(c)),
      ...ending(c),
    ],
  },
  {
    id: 'output-trim',
    title: 'Output trim at 4 and 20 mA',
    purpose:
      'The current does not follow the digital reading. It is measured in the loop, at 4 first, then at 20.',
    minutes: 30,
    fits: analogue,
    tools: ['loop meter in date, better than the tolerance'],
    permissions: ['loop in manual', 'bypass of its trips'],
    cautions: ELECTRIC,
    steps: (c) => [
      ...beginning(c, ELECTRIC),
      ...phaseOf(c, 'asFound', ends(c)),
      decision('Output trim, or not'),
      write(
        'four',
        'Output trim at 4 mA',
        'The output holds 4 mA now: type what the meter reads.',
        'outputTrim4',
        {
          holdCurrent_mA: 4,
          fields: [{ name: 'measured', label: 'Meter reads', unit: 'mA' }],
        },
      ),
      write(
        'twenty',
        'Output trim at 20 mA',
        'The output holds 20 mA now: type what the meter reads.',
        'outputTrim20',
        {
          holdCurrent_mA: 20,
          fields: [{ name: 'measured', label: 'Meter reads', unit: 'mA' }],
        },
      ),
      release,
      adjusted,
      ...phaseOf(c, 'asLeft', ends(c)),
      ...ending(c),
    ],
  },
  {
    id: 're-range',
    title: 'Re-range by numbers',
    purpose:
      'The device has another range than the documents. No input is needed; every receiver has to follow.',
    minutes: 15,
    fits: analogue,
    tools: ['loop meter'],
    permissions: ['loop in manual', 'bypass of its trips'],
    cautions: ELECTRIC,
    steps: (c) => [
      ...beginning(c, ELECTRIC),
      ...phaseOf(c, 'asFound', ends(c)),
      decision('Re-range, or not'),
      write(
        'range',
        `Set ${say(c, c.range.low)} to ${say(c, c.range.high)}`,
        'As documented. The sensor trim stays as it is.',
        'range',
        {
          fields: [
            { name: 'LRV', label: '4 mA point', unit: c.range.unit },
            { name: 'URV', label: '20 mA point', unit: c.range.unit },
          ],
        },
      ),
      adjusted,
      ...phaseOf(c, 'asLeft', ends(c)),
      ...ending(c),
    ],
  },
  {
    id: 'loop-check',
    title: 'Loop check by held current',
    purpose:
      'Five currents through the wires to the controller: wiring, shunt, card and scaling, without touching the process.',
    minutes: 15,
    fits: (type) => !/switch/i.test(type),
    tools: ['loop meter'],
    permissions: ['loop in manual', 'bypass of its trips'],
    cautions: ELECTRIC,
    steps: (c) => [
      ...beginning(c, ELECTRIC).filter((s) => ['cautions', 'notify', 'manual', 'bypass'].includes(s.id)),
      ...currents([4, 8, 12, 16, 20]),
      release,
      ...ending(c)
        .filter((s) => !['disconnect', 'restore'].includes(s.id))
        .map((s) => (s.id === 'check' ? { ...s, title: 'Does the controller show the process again?' } : s)),
    ],
  },
  {
    id: 'flow-zero',
    title: 'Flow zero',
    purpose: 'Only stopped, full and stable, and only if the residual is larger than its noise.',
    minutes: 25,
    fits: (type) => /flow/i.test(type),
    tools: ['both valves tight', 'five minutes of patience'],
    permissions: ['flow stopped by the operators', 'loop in manual'],
    cautions: ['Hot or cold pipes burn: gloves above 60 °C.', 'The permit is here and names this tag.'],
    steps: (c) => [
      ...beginning(c, [
        'Hot or cold pipes burn: gloves above 60 °C.',
        'The permit is here and names this tag.',
      ]).filter((s) => ['cautions', 'notify', 'manual', 'bypass'].includes(s.id)),
      {
        id: 'stopped',
        kind: 'valve',
        title: 'Stop the flow, keep the pipe full',
        says: 'Downstream valve first, then upstream; wait five minutes. A leaking valve makes a constant, hidden error.',
        hold: ['Both valves are shut and tight.', 'The pipe is full and under pressure.'],
      },
      {
        id: 'asFound-1-read',
        kind: 'read',
        phase: 'asFound',
        title: 'Read the residual flow and its noise',
        says: 'Zero is worth setting only where the residual is larger than the noise.',
        apply: 0,
        fields: [
          { name: 'pv', label: 'Residual flow', unit: c.range.unit },
          { name: 'noise', label: 'Noise, ±', unit: c.range.unit },
        ],
      },
      decision('Set the zero, or leave it'),
      write(
        'zero',
        'Set the flow zero',
        'With the flow stopped, the pipe full and the reading still.',
        'zeroTrim',
        { apply: 0 },
      ),
      { ...adjusted, id: 'adjusted' },
      {
        id: 'asLeft-1-read',
        kind: 'read',
        phase: 'asLeft',
        title: 'Read again',
        says: 'The new residual, before the valves are opened.',
        apply: 0,
        fields: [{ name: 'pv', label: 'Residual flow', unit: c.range.unit }],
      },
      {
        id: 'opened',
        kind: 'valve',
        title: 'Open the valves',
        says: 'Upstream first, slowly.',
        hold: ['Both valves stand as the operators want them.'],
      },
      ...ending(c).filter((s) => !['disconnect', 'restore'].includes(s.id)),
    ],
  },
  {
    id: 'ph-buffers',
    title: 'pH in two buffers',
    purpose: 'Offset and slope from two buffers that bracket the process; each is recognised by its voltage.',
    minutes: 30,
    fits: (type) => /\bph\b/i.test(type),
    tools: ['two buffers in date', 'demineralised water', 'soft paper'],
    permissions: ['loop in manual'],
    cautions: [
      'Acid and alkali burn: goggles and gloves; know the shower.',
      'The permit is here and names this tag.',
    ],
    steps: (c) => [
      ...beginning(c, [
        'Acid and alkali burn: goggles and gloves; know the shower.',
        'The permit is here and names this tag.',
      ]).filter((s) => ['cautions', 'notify', 'manual', 'bypass'].includes(s.id)),
      {
        id: 'asFound-1-read',
        kind: 'read',
        phase: 'asFound',
        title: 'Read in the process, as found',
        says: 'What it shows before the probe is taken out.',
        fields: [{ name: 'pv', label: 'pH shown', unit: null }],
      },
      ...[1, 2].flatMap((n): Step[] => [
        {
          id: `rinse-${n}`,
          kind: 'confirm',
          title: n === 1 ? 'Clean, rinse, dab dry' : 'Rinse again',
          says: 'Demineralised water; never rub. Then a little of the next buffer.',
          hold: ['Rinsed, and with the next buffer.'],
        },
        {
          id: `buffer-${n}`,
          kind: 'read',
          title: `Buffer ${n}`,
          says: 'Immerse glass and junction, wait until it stands still, then type the buffer on the bottle and the reading.',
          fields: [
            { name: 'buffer', label: 'Buffer on the bottle, pH at 25 °C', unit: null },
            { name: 'mV', label: 'Stable reading', unit: 'mV' },
            { name: 't', label: 'Temperature', unit: 'degC' },
          ],
        },
      ]),
      decision('Take the new offset and slope, or keep the old ones'),
      adjusted,
      {
        id: 'asLeft-1-read',
        kind: 'read',
        phase: 'asLeft',
        title: 'Read in the process, as left',
        says: 'Back in place, after it has settled.',
        fields: [{ name: 'pv', label: 'pH shown', unit: null }],
      },
      {
        id: 'locked',
        kind: 'confirm',
        title: 'Lock the device',
        says: 'Used buffer is discarded.',
        hold: ['Locked; used buffer is poured away.'],
      },
      ...ending(c).filter((s) => !['disconnect', 'restore'].includes(s.id)),
    ],
  },
  {
    id: 'relay-trip',
    title: 'Relay trip test',
    purpose:
      'The trip is made to happen with its output bypassed, three times, and its reset is read as well.',
    minutes: 30,
    fits: () => true,
    tools: ['current source or the process itself'],
    permissions: ['bypass of the trip’s output, listed'],
    cautions: [
      'The trip stops a plant: its output is bypassed and somebody watches it.',
      'The permit is here and names this tag.',
    ],
    steps: (c) => [
      ...beginning(c, [
        'The trip stops a plant: its output is bypassed and somebody watches it.',
        'The permit is here and names this tag.',
      ]).filter((s) => ['cautions', 'notify', 'manual', 'bypass'].includes(s.id)),
      ...[1, 2, 3].map((n): Step => ({
        id: `trip-${n}`,
        kind: 'read',
        title: `Trip ${n} of 3`,
        says: 'Ramp slowly towards the trip until the contact moves, then back until it resets.',
        fields: [
          { name: 'trip', label: 'Trips at', unit: c.range.unit },
          { name: 'reset', label: 'Resets at', unit: c.range.unit },
        ],
      })),
      ...ending(c).filter((s) => !['disconnect', 'restore'].includes(s.id)),
    ],
  },
  {
    id: 'configuration',
    title: 'Store the configuration',
    purpose: 'Read all, compare with the record, write what differs, store, read back.',
    minutes: 15,
    fits: (type) => !/switch/i.test(type),
    tools: ['link to the device'],
    permissions: ['loop in manual'],
    cautions: ELECTRIC,
    steps: (c) => [
      ...beginning(c, ELECTRIC).filter((s) => ['cautions', 'notify', 'manual', 'bypass'].includes(s.id)),
      {
        id: 'compared',
        kind: 'confirm',
        title: 'Device compared with the record',
        says: 'Every difference is looked at; a characterization of another sensor is never copied.',
        hold: [
          'What will be overwritten was read, line by line.',
          'The characterization belongs to this sensor.',
        ],
      },
      { ...adjusted, id: 'stored' },
      ...ending(c).filter((s) => !['disconnect', 'restore'].includes(s.id)),
    ],
  },
]

const byId = new Map(PROCEDURES.map((p) => [p.id, p]))
export const procedureOf = (id: string): Procedure | null => byId.get(id) ?? null
/** Those that make sense for a loop of these words. */
export const proceduresFor = (type: string): Procedure[] => PROCEDURES.filter((p) => p.fits(type))
