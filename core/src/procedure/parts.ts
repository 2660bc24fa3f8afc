import { SEQUENCES } from '../manifold/manifold.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { HOLD_POINTS } from './order-of-work.ts'
import type { AppliedBy, ProcedureContext, Step, StepField } from './step.ts'

const moves = (c: ProcedureContext, which: 'out' | 'back') =>
  c.manifold
    ? SEQUENCES[c.manifold][which].map((m) => `${m.to} ${m.valve}`).join(', then ')
    : which === 'out'
      ? 'close the isolating valve'
      : 'open the isolating valve slowly'

const say = (c: ProcedureContext, x: number) => `${sayNumber(x, 6)} ${printedUnit(c.range.unit)}`

/** From the radio call to a bypassed loop: nothing is opened and nothing connected yet. */
export const callAndBypass = (c: ProcedureContext, cautions: readonly string[]): Step[] => [
  {
    id: 'cautions',
    kind: 'caution',
    title: 'Before you begin',
    says: 'The work can hurt people and trip the plant. Local codes, the permit and the device’s manual decide.',
    hold: cautions,
  },
  {
    id: 'notify',
    kind: 'tell',
    work: 'notify',
    title: 'Tell the operators',
    says: `“Starting on ${c.tag}. Its reading will move and must not be used until I call again.”`,
  },
  {
    id: 'manual',
    kind: 'confirm',
    confirmedBy: 'operator',
    work: 'manual',
    title: 'Controller in manual',
    says: 'In automatic the controller would answer to every reading.',
    hold: [`The operator confirmed manual for ${c.tag}, by tag.`],
  },
  {
    id: 'bypass',
    kind: 'confirm',
    confirmedBy: 'operator',
    work: 'bypassTrips',
    title: 'Trips and interlocks',
    says: 'Every trip and interlock that this loop feeds is listed and bypassed, by authorisation.',
    hold: ['All of them are listed and bypassed; there may be none.'],
  },
]

type Apart = Partial<Pick<Step, 'title' | 'says' | 'hold'>>
/** How each kind of input comes to the sensor, where it is not a pump on a manifold. */
const BY_HAND: Partial<
  Readonly<Record<AppliedBy, Readonly<Record<'isolate' | 'vent' | 'connect' | 'off' | 'back', Apart | null>>>>
> = {
  level: {
    isolate: null,
    vent: null,
    connect: {
      title: 'How the level is moved, and what tells it',
      says: 'By draining and filling, by a target at a measured distance, or by a marked length on the bench.',
      hold: ['Tape, sight glass or target is at its place and can be read.', 'Nobody else moves the level.'],
    },
    off: {
      title: 'Target and tape away',
      says: 'What was put into the beam is out of it.',
      hold: ['Nothing is left in the vessel or in the beam.'],
    },
    back: null,
  },
  resistance: {
    isolate: {
      title: 'The sensor out of the terminals',
      says: 'The well stays in the process. Note the colours before a wire is loosened.',
      hold: ['Terminals and colours are noted.', 'The well is left where it is.'],
    },
    vent: null,
    connect: {
      title: 'Connect the decade',
      says: 'With as many wires as the sensor has, at the same terminals.',
      hold: ['Decade in date, as many wires as the sensor.'],
    },
    off: {
      title: 'Decade off',
      says: 'Its wires out of the terminals.',
      hold: ['The decade is off.'],
    },
    back: {
      title: 'The sensor back in its terminals',
      says: 'By the colours that were noted; each wire pulled.',
      hold: ['The sensor is back, wire by wire.'],
    },
  },
  millivolts: {
    isolate: {
      title: 'The sensor out of the terminals',
      says: 'The well stays in the process. Note which wire is which before one is loosened.',
      hold: ['Terminals and colours are noted.', 'The well is left where it is.'],
    },
    vent: null,
    connect: {
      title: 'Connect the source',
      says: 'Copper to the terminals and the junction’s temperature measured there, or the right extension wire with its own cold junction.',
      hold: ['Source in date, polarity looked at.', 'A thermometer lies at the terminals.'],
    },
    off: { title: 'Source off', says: 'Its wires out of the terminals.', hold: ['The source is off.'] },
    back: {
      title: 'The sensor back in its terminals',
      says: 'By the colours that were noted: exchanged wires read the wrong way.',
      hold: ['The sensor is back, each wire where it was.'],
    },
  },
}

const opening = (c: ProcedureContext): Record<'isolate' | 'vent' | 'connect', Step> => ({
  isolate: {
    id: 'isolate',
    kind: 'valve',
    work: 'isolate',
    title: 'Isolate from the process',
    says: `In this order: ${moves(c, 'out')}.`,
    hold: HOLD_POINTS.isolate ?? [],
  },
  vent: {
    id: 'vent',
    kind: 'valve',
    work: 'vent',
    title: 'Vent, slowly, to a safe place',
    says: 'A closed valve is no proof of zero pressure.',
    hold: HOLD_POINTS.vent ?? [],
  },
  connect: {
    id: 'connect',
    kind: 'confirm',
    work: 'connect',
    title: 'Connect the standard',
    says: 'Pump and reference on the test port, milliammeter in the loop: circuit dead, lead in the mA jack, DC, then power.',
    hold: HOLD_POINTS.connect ?? [],
  },
})

/** From the radio call to a device that is ready for the standard. */
export function beginning(c: ProcedureContext, cautions: readonly string[]): Step[] {
  const other = c.appliedBy ? BY_HAND[c.appliedBy] : undefined
  const steps = opening(c)
  return [
    ...callAndBypass(c, cautions),
    ...(['isolate', 'vent', 'connect'] as const).flatMap((name): Step[] => {
      const change = other?.[name]
      return change === null ? [] : [{ ...steps[name], ...change }]
    }),
  ]
}

/** Reading fields of an analogue loop. */
export const readingFields = (c: ProcedureContext): StepField[] => [
  { name: 'applied', label: 'Applied', unit: c.range.unit, readsFrom: 'standard' },
  { name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' },
  { name: 'mA', label: 'Loop current', unit: 'mA', readsFrom: 'current' },
]

/** The level of a tank cannot be set to a hair: what the tape says counts. */
const readGates = (c: ProcedureContext): NonNullable<Step['gates']> =>
  c.appliedBy === 'level' && c.linked === false ? ['still', 'limit'] : ['input', 'still', 'limit']

/** Apply, let it come to rest, read: one point of a phase. */
export function point(
  c: ProcedureContext,
  phase: 'asFound' | 'asLeft',
  value: number,
  n: number,
  more: Partial<Step> = {},
): Step[] {
  const words = phase === 'asFound' ? 'as found' : 'as left'
  return [
    {
      id: `${phase}-${n}-apply`,
      kind: 'apply',
      phase,
      title: `Apply ${say(c, value)}, ${words}`,
      says: 'From the side of the direction you work in; back off ten percent when it overshoots.',
      apply: value,
    },
    {
      id: `${phase}-${n}-read`,
      kind: 'read',
      phase,
      title: `Read at ${say(c, value)}`,
      says: 'The standard first, then the transmitter, then the loop.',
      apply: value,
      gates: readGates(c),
      fields: readingFields(c),
      ...more,
    },
  ]
}

/** All points of a phase, with the work's events around them. */
export function phaseOf(
  c: ProcedureContext,
  phase: 'asFound' | 'asLeft',
  levels: readonly number[],
  more: (value: number) => Partial<Step> = () => ({}),
): Step[] {
  const points = levels.flatMap((x, i) => point(c, phase, x, i + 1, more(x)))
  const found = phase === 'asFound'
  return [
    ...(found
      ? [
          {
            id: 'asFound-start',
            kind: 'confirm' as const,
            work: 'startAsFound' as const,
            phase,
            title: 'As found, before anything moves',
            says: 'What it reads now is the only proof of how good the last year was.',
          },
        ]
      : []),
    ...points,
    {
      id: `${phase}-finish`,
      kind: 'confirm',
      phase,
      work: found ? 'finishAsFound' : 'finishAsLeft',
      title: found ? 'Close as found' : 'Close as left',
      says: found
        ? 'After this it stays as it is, for good.'
        : 'The as-left readings decide, not the prediction.',
    },
  ]
}

/** Adjust or leave alone, from the closed as-found. */
export const decision = (title: string): Step => ({
  id: 'decide',
  kind: 'decide',
  title,
  judged: true,
  says: 'The smallest right action, from the readings just closed.',
  choices: [
    { value: 'adjust', title: 'Adjust' },
    { value: 'leave', title: 'Leave it alone' },
  ],
})

/** Accept or report, where nothing is adjusted: the result follows the readings all the same. */
export const acceptOrReport = (says: string, accept = 'Accept', report = 'Report'): Step => ({
  id: 'decide',
  judged: true,
  kind: 'decide',
  title: 'Accept, or report',
  says,
  choices: [
    { value: 'accept', title: accept },
    { value: 'report', title: report },
  ],
})

/** Puts the input of a trim on before it is written: as-found may have ended anywhere else. */
export const applyFor = (c: ProcedureContext, id: string, value: number): Step => ({
  id: `${id}-apply`,
  kind: 'apply',
  adjusting: true,
  title: `Apply ${say(c, value)} for the trim`,
  says: 'The device takes what stands at it now for this value.',
  apply: value,
})

export const write = (
  id: string,
  title: string,
  says: string,
  adjustment: NonNullable<Step['adjustment']>,
  more: Partial<Step> = {},
): Step => ({
  id,
  kind: 'write',
  title,
  says,
  adjustment,
  gates: ['asFound', 'authority'],
  ...more,
})
/** What has to hold before a device is told what stands at it. */
export const TRIM_GATES: NonNullable<Step['gates']> = ['asFound', 'authority', 'input', 'still', 'limit']

export const adjusted: Step = {
  id: 'adjusted',
  kind: 'confirm',
  work: 'adjust',
  title: 'Store it',
  says: 'What is not stored is lost at the next power cycle. Store, then read back and compare.',
  hold: ['Stored in the device and read back.'],
  adjusting: true,
  label: 'Store',
  command: { kind: 'store' },
}

/** What it reads in the process again, and the second radio call. */
export const checkAndCall = (c: ProcedureContext): Step[] => [
  {
    id: 'check',
    kind: 'decide',
    work: 'check',
    title: 'Does it read what the process is?',
    says: 'Against a neighbour, the other side, or what the operator knows.',
    choices: [
      { value: 'agrees', title: 'It agrees' },
      { value: 'fails', title: 'It does not' },
    ],
  },
  {
    id: 'unbypass',
    kind: 'confirm',
    confirmedBy: 'operator',
    work: 'unbypass',
    title: 'Trips and interlocks active again',
    says: 'Each one that was bypassed, by its list.',
    hold: HOLD_POINTS.unbypass ?? [],
  },
  {
    id: 'auto',
    kind: 'confirm',
    confirmedBy: 'operator',
    work: 'auto',
    title: 'Back to automatic',
    says: 'The operator takes it back.',
    hold: HOLD_POINTS.auto ?? [],
  },
  {
    id: 'close',
    kind: 'tell',
    work: 'close',
    title: 'Tell the operators',
    says: `${c.tag} is in automatic, its trips are active.`,
  },
]

/** From the standard back to automatic and the second radio call. */
export function ending(c: ProcedureContext): Step[] {
  const other = c.appliedBy ? BY_HAND[c.appliedBy] : undefined
  const off: Step = {
    id: 'disconnect',
    kind: 'confirm',
    work: 'disconnect',
    command: { kind: 'apply', value: null },
    title: 'Vent and take off the standard',
    says: 'Pressure in the hose first, then the hose; the loop’s link back in its terminals.',
    hold: ['The standard is vented and off; the loop is closed again.'],
    ...other?.off,
  }
  const back: Step = {
    id: 'restore',
    kind: 'valve',
    work: 'restore',
    title: 'Valves back',
    says: `In this order: ${moves(c, 'back')}.`,
    hold: ['Block valves open, equaliser and vents shut, no leak.'],
    ...other?.back,
  }
  return [off, ...(other?.back === null ? [] : [back]), ...checkAndCall(c)]
}
