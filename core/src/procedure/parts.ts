import { SEQUENCES } from '../manifold/manifold.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { HOLD_POINTS } from './order-of-work.ts'
import type { ProcedureContext, Step, StepField } from './step.ts'

const moves = (c: ProcedureContext, which: 'out' | 'back') =>
  c.manifold
    ? SEQUENCES[c.manifold][which].map((m) => `${m.to} ${m.valve}`).join(', then ')
    : which === 'out'
      ? 'close the isolating valve'
      : 'open the isolating valve slowly'

/** From the radio call to a device that is ready for the standard. */
export function beginning(c: ProcedureContext, cautions: readonly string[]): Step[] {
  return [
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
    {
      id: 'isolate',
      kind: 'valve',
      work: 'isolate',
      title: 'Isolate from the process',
      says: `In this order: ${moves(c, 'out')}.`,
      hold: HOLD_POINTS.isolate ?? [],
    },
    {
      id: 'vent',
      kind: 'valve',
      work: 'vent',
      title: 'Vent, slowly, to a safe place',
      says: 'A closed valve is no proof of zero pressure.',
      hold: HOLD_POINTS.vent ?? [],
    },
    {
      id: 'connect',
      kind: 'confirm',
      work: 'connect',
      title: 'Connect the standard',
      says: 'Pump and reference on the test port, milliammeter in the loop: circuit dead, lead in the mA jack, DC, then power.',
      hold: HOLD_POINTS.connect ?? [],
    },
  ]
}

/** Reading fields of an analogue loop. */
export const readingFields = (c: ProcedureContext, apply: number): StepField[] => [
  { name: 'applied', label: 'Applied', unit: c.range.unit, preset: apply, readsFrom: 'standard' },
  { name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' },
  { name: 'mA', label: 'Loop current', unit: 'mA', readsFrom: 'current' },
]

const say = (c: ProcedureContext, x: number) => `${sayNumber(x, 6)} ${printedUnit(c.range.unit)}`

/** Apply, wait until it stands still, read: one point of a phase. */
export function point(c: ProcedureContext, phase: 'asFound' | 'asLeft', value: number, n: number): Step[] {
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
      id: `${phase}-${n}-wait`,
      kind: 'wait',
      phase,
      title: 'Wait until it stands still',
      says: 'Slope and scatter decide, not patience.',
      apply: value,
    },
    {
      id: `${phase}-${n}-read`,
      kind: 'read',
      phase,
      title: `Read at ${say(c, value)}`,
      says: 'The standard first, then the transmitter, then the loop.',
      apply: value,
      fields: readingFields(c, value),
    },
  ]
}

/** All points of a phase, with the work's events around them. */
export function phaseOf(c: ProcedureContext, phase: 'asFound' | 'asLeft', levels: readonly number[]): Step[] {
  const points = levels.flatMap((x, i) => point(c, phase, x, i + 1))
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
  ...more,
})
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

/** From the standard back to automatic and the second radio call. */
export function ending(c: ProcedureContext): Step[] {
  return [
    {
      id: 'disconnect',
      kind: 'confirm',
      work: 'disconnect',
      command: { kind: 'apply', value: null },
      title: 'Vent and take off the standard',
      says: 'Pressure in the hose first, then the hose; the loop’s link back in its terminals.',
      hold: ['The standard is vented and off; the loop is closed again.'],
    },
    {
      id: 'restore',
      kind: 'valve',
      work: 'restore',
      title: 'Valves back',
      says: `In this order: ${moves(c, 'back')}.`,
      hold: ['Block valves open, equaliser and vents shut, no leak.'],
    },
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
      says: `“${c.tag} is yours again: in automatic, trips active, reading good.”`,
    },
  ]
}
