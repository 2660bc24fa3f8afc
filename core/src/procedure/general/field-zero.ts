import { adjusted, callAndBypass, decision, TRIM_GATES, write } from '../parts.ts'
import { SEQUENCES } from '../../manifold/manifold.ts'
import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { HOLD_POINTS } from '../order-of-work.ts'
import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure, ProcedureContext, Step } from '../step.ts'
import { allowedOf } from '../allowed.ts'
import { PRESSURE } from './common.ts'
import { appliedField, toolsFor, unfitForZero } from './trims.ts'
import { judgeTrim } from './trim-judgement.ts'

/** Left alone within this share of what is allowed. */
const LEAVE_SHARE = 0.5

function zeroAdvice(run: ProcedureRun): Advice {
  const c = run.started.context
  const { applied = 0, pv = NaN } = valuesOfStep(run, 'asFound-1-read')
  const off = pv - applied
  const T = allowedOf(c).pv
  const told = `At zero it reads ${sayNumber(off, 4)} ${printedUnit(c.range.unit)}, allowed ±${sayNumber(T, 3)}.`
  return Math.abs(off) > LEAVE_SHARE * T
    ? { choice: 'adjust', says: [told] }
    : { choice: 'leave', says: [told, 'Within half of what is allowed: leave it alone.'] }
}

const order = (c: ProcedureContext, which: 'out' | 'back') =>
  c.manifold
    ? SEQUENCES[c.manifold][which].map((m) => `${m.to} ${m.valve}`).join(', then ')
    : which === 'out'
      ? 'close the isolating valve, then vent'
      : 'shut the vent, then open the isolating valve slowly'

const zeroReading = (c: ProcedureContext, phase: 'asFound' | 'asLeft'): Step => ({
  id: `${phase}-1-read`,
  kind: 'read',
  phase,
  work: phase === 'asFound' ? 'finishAsFound' : 'finishAsLeft',
  apply: 0,
  title: phase === 'asFound' ? 'Read at zero' : 'Read at zero again',
  says: 'Equalised or vented, and at rest.',
  gates: ['input', 'still'],
  fields: [
    ...appliedField(c),
    { name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' },
  ],
})

/** Ten steps at the device in the field; the span is not looked at, and the result says so. */
export const FIELD_ZERO: Procedure = {
  id: 'field-zero',
  judges: 'sensor',
  title: 'Field zero',
  purpose:
    'Zero only, at the device, in at most ten steps. It says nothing of the span: afterwards it stands as adjusted, not verified.',
  minutes: 12,
  tools: (c) => (c.manifold ? ['manifold key'] : toolsFor(c).slice(0, 1)),
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: PRESSURE,
  unfit: (c) =>
    c.range.low > 0 || c.range.high < 0
      ? { says: 'Zero lies outside its range: read over the range instead.', instead: 'zero-trim' }
      : unfitForZero(c),
  advise: zeroAdvice,
  judge: judgeTrim,
  steps: (c) => [
    // Without operators the cautions stand by themselves: gloves are not theirs.
    ...(c.way === 'commissioning' || c.way === 'bench' ? callAndBypass(c, PRESSURE).slice(0, 1) : []),
    {
      id: 'begin',
      kind: 'confirm',
      work: 'bypassTrips',
      confirmedBy: 'operator',
      confirmsManual: true,
      title: 'Told, in manual, trips bypassed',
      says: `“Starting on ${c.tag}. Its reading will move.” ${callAndBypass(c, PRESSURE)[0]?.says ?? ''}`,
      hold: [
        ...PRESSURE,
        `The operator confirmed manual for ${c.tag}, by tag.`,
        'Every trip that it feeds is listed and bypassed; there may be none.',
      ],
    },
    {
      id: 'inProcess',
      kind: 'read',
      title: 'Read in the process, as found',
      says: 'What it shows before a valve is touched; the way back is held against it.',
      fields: [{ name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' }],
    },
    {
      id: 'isolate',
      kind: 'valve',
      work: 'vent',
      apply: 0,
      title: c.manifold ? 'Isolate and equalise' : 'Isolate and vent',
      says: `In this order: ${order(c, 'out')}.`,
      hold: HOLD_POINTS.vent ?? [],
    },
    zeroReading(c, 'asFound'),
    decision('Zero, or leave it'),
    write('zero', 'Zero trim', 'Equalised or vented: the true input is zero now.', 'zeroTrim', {
      apply: 0,
      gates: TRIM_GATES.filter((g) => g !== 'limit'),
      fields: [
        ...appliedField(c),
        { name: 'pv', label: 'Transmitter reads', unit: c.range.unit, readsFrom: 'pv' },
      ],
    }),
    adjusted,
    zeroReading(c, 'asLeft'),
    {
      id: 'check',
      kind: 'decide',
      work: 'check',
      title: 'Valves back: does it read what the process is?',
      says: `In this order: ${order(c, 'back')}. Then against what it read before, a neighbour, or the operator.`,
      command: { kind: 'apply', value: null },
      hold: ['Block valves open, equaliser and vents shut, no leak.'],
      choices: [
        { value: 'agrees', title: 'It agrees' },
        { value: 'fails', title: 'It does not' },
      ],
    },
    {
      id: 'close',
      kind: 'tell',
      work: 'close',
      confirmedBy: 'operator',
      title: 'In automatic, operators told',
      says: `${c.tag} is in automatic, its trips are active.`,
      hold: ['Each trip is active again, by its list.', ...(HOLD_POINTS.auto ?? [])],
    },
  ],
}
