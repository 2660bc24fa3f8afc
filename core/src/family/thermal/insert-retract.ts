import type { Outcome } from '../../procedure/outcome.ts'
import { callAndBypass, checkAndCall } from '../../procedure/parts.ts'
import { valuesOfStep, type ProcedureRun } from '../../procedure/run.ts'
import {
  toldNumber,
  type Procedure,
  type ProcedureContext,
  type Step,
  type StepField,
} from '../../procedure/step.ts'
import { sayNumber } from '../../quantity/round.ts'

const LINE_OF_FIRE = [
  'Nobody stands in line with the stem: pressure pushes it out when the ferrule is loose.',
  'The packing can leak hot or toxic gas towards the face: goggles, gas meter, wind in the back.',
  'The permit is here and names this tag.',
]
/** A mark at the packing is read to this, mm; and the arrow stands along the flow within this, degrees. */
const [MARK_MM, TURN_DEG] = [3, 2] as const

const force = (c: ProcedureContext): string => {
  const N = toldNumber(c, 'force_N')
  return Number.isFinite(N)
    ? `The pressure pushes with ${sayNumber(N, 3)} N${c.told?.['needsRestraint'] === 'yes' ? ': a hand does not hold that' : ''}.`
    : 'Nobody has told the pressure: work out the force on Set up first.'
}
const markField = (c: ProcedureContext, name: 'inserted_mm' | 'clear_mm'): StepField => {
  const value = toldNumber(c, name)
  return {
    name: 'mark_mm',
    label: 'Mark at the packing',
    unit: 'mm',
    wanted: () => (Number.isFinite(value) ? { value, within: MARK_MM } : null),
  }
}
/** A mark is held against the stack of fittings where somebody has told it. */
const markGates = (c: ProcedureContext, name: 'inserted_mm' | 'clear_mm'): NonNullable<Step['gates']> =>
  Number.isFinite(toldNumber(c, name)) ? ['input'] : []

const restraintOn = (c: ProcedureContext): Step => ({
  id: 'restraint',
  kind: 'confirm',
  title: 'Restraint or retractor on',
  says: `${force(c)} It is on before anything is loosened.`,
  hold: ['Restraint or retractor is on and holds; nobody stands in line.'],
})
const leakTest = (id: string, title: string): Step => ({
  id,
  kind: 'decide',
  title,
  says: 'Soap on packing and threads. A leak that grows is the ferrule about to let go.',
  choices: [
    { value: 'tight', title: 'It is tight' },
    { value: 'leaks', title: 'It leaks' },
  ],
})
const isTight = (run: ProcedureRun): boolean =>
  run.done.every((d) => !d.step.id.startsWith('leak') || d.choice === 'tight')

/** What stops before it begins: a probe that does not pass its valve. */
const unfit = (c: ProcedureContext) => {
  const problem = c.told?.['stackProblem']
  return typeof problem === 'string' ? { says: problem, instead: null } : null
}

function judgeInserted(run: ProcedureRun): Outcome {
  const { mark_mm, turn_deg = 0 } = valuesOfStep(run, 'pushed')
  if (mark_mm === undefined) return { result: 'notDone', says: ['It was not pushed in to its mark.'] }
  const wanted = toldNumber(run.started.context, 'inserted_mm')
  const says = [`Mark at ${sayNumber(mark_mm)} mm, arrow ${sayNumber(turn_deg)}° off the flow.`]
  if (!isTight(run)) return { result: 'out', says: [...says, 'It leaks at its packing.'] }
  if (!Number.isFinite(wanted))
    return {
      result: 'notJudged',
      says: [...says, 'Nobody has told where the mark belongs: enter the stack on Set up.'],
    }
  return Math.abs(mark_mm - wanted) <= MARK_MM && Math.abs(turn_deg) <= TURN_DEG
    ? {
        result: 'asPlanned',
        says: [...says, `It belongs at ${sayNumber(wanted)} mm; tight at both leak tests.`],
      }
    : {
        result: 'out',
        says: [...says, `It belongs at ${sayNumber(wanted)} ±${MARK_MM} mm, within ${TURN_DEG}°.`],
      }
}

export const INSERT: Procedure = {
  id: 'probe-insert',
  judges: 'stem',
  title: 'Insert the probe',
  purpose:
    'Through the valve into the pipe under pressure: restraint, packing, leak test, mark, arrow, lock.',
  minutes: 30,
  tools: ['restraint or retractor', 'spanners for packing and lock', 'soap', 'gas meter', 'a second person'],
  secondPerson: 'throughout',
  permissions: ['work at the pressurised pipe', 'loop in manual'],
  cautions: LINE_OF_FIRE,
  unfit,
  judge: judgeInserted,
  steps: (c) => [
    ...callAndBypass(c, LINE_OF_FIRE),
    {
      id: 'looked',
      kind: 'confirm',
      title: 'Gas, pressure, valve and stem',
      says: force(c),
      hold: [
        'Gas and pressure are known; the valve’s bore is wider than the probe.',
        'The marks “inserted”, “clear” and “out” are on the stem, by the stack of fittings.',
        'A second person is here.',
      ],
    },
    restraintOn(c),
    {
      id: 'packed',
      kind: 'confirm',
      title: 'Packing hand tight, probe against the closed valve',
      says: 'It still slides.',
      hold: ['Packing hand tight; the valve is still closed.'],
    },
    {
      id: 'opened',
      kind: 'valve',
      title: 'Open the valve, slowly',
      says: 'All the way: a half open ball cuts the element.',
      hold: ['The valve is fully open.'],
    },
    leakTest('leak-1', 'Leak test at the packing'),
    {
      id: 'pushed',
      kind: 'read',
      title: 'In to the mark, arrow along the flow',
      says: 'Pushed or wound in; read the mark at the face of the packing, and how far the arrow stands off the flow.',
      gates: markGates(c, 'inserted_mm'),
      fields: [
        markField(c, 'inserted_mm'),
        { name: 'turn_deg', label: 'Arrow off the flow, degrees', unit: null },
      ],
    },
    {
      id: 'locked',
      kind: 'confirm',
      title: 'Lock it, tighten the packing',
      says: 'The mark and the arrow do not move while it is tightened.',
      hold: ['Locked and tight; mark and arrow are where they were.'],
    },
    leakTest('leak-2', 'Leak test again'),
    {
      id: 'restraintLocked',
      kind: 'confirm',
      title: 'Restraint locked',
      says: 'It stays on as long as the probe is in.',
      hold: ['The restraint is locked.'],
    },
    ...checkAndCall(c),
  ],
}

function judgeRetracted(run: ProcedureRun): Outcome {
  const { mark_mm } = valuesOfStep(run, 'drawn')
  if (mark_mm === undefined) return { result: 'notDone', says: ['It was not drawn back to its mark.'] }
  if (!run.done.some((d) => d.step.id === 'vented'))
    return { result: 'notDone', says: ['Zero pressure was not proved behind the valve.'] }
  const says = `Drawn to ${sayNumber(mark_mm)} mm, the valve closed behind it, vented and proved at zero.`
  return Number.isFinite(toldNumber(run.started.context, 'clear_mm'))
    ? { result: 'asPlanned', says: [says] }
    : { result: 'notJudged', says: [says, 'Nobody has told where “clear” is: enter the stack on Set up.'] }
}

export const RETRACT: Procedure = {
  id: 'probe-retract',
  judges: 'stem',
  title: 'Retract the probe',
  purpose:
    'Out of the pressurised pipe: restraint first, out to the “clear” mark, only then the valve, vent, prove zero.',
  minutes: 25,
  tools: ['restraint or retractor', 'spanners for packing and lock', 'soap', 'gas meter', 'a second person'],
  secondPerson: 'throughout',
  permissions: ['work at the pressurised pipe', 'loop in manual', 'bypass of its trips'],
  cautions: LINE_OF_FIRE,
  unfit,
  judge: judgeRetracted,
  steps: (c) => [
    ...callAndBypass(c, LINE_OF_FIRE),
    restraintOn(c),
    {
      id: 'loosened',
      kind: 'confirm',
      title: 'Loosen the lock, then the packing a little',
      says: force(c),
      hold: ['The restraint carries it; it slides.'],
    },
    {
      id: 'drawn',
      kind: 'read',
      title: 'Out to the “clear” mark',
      says: 'Never close the valve before: it shears the probe. Read the mark at the face of the packing.',
      gates: markGates(c, 'clear_mm'),
      fields: [markField(c, 'clear_mm')],
    },
    {
      id: 'closed',
      kind: 'valve',
      title: 'Close the valve',
      says: 'It turns all the way without force; if it does not, the probe is in its way.',
      hold: ['The valve is closed and turned freely.'],
    },
    {
      id: 'vented',
      kind: 'valve',
      title: 'Vent, prove zero',
      says: 'Between valve and packing; a closed valve is no proof.',
      hold: ['Vented to a safe place; the gauge shows zero and stays there.'],
    },
    {
      id: 'out',
      kind: 'confirm',
      title: 'Out, or left behind its valve',
      says: 'For the nitrogen check it stays behind the closed valve.',
      hold: ['Capped, or left with its restraint on.'],
    },
    ...checkAndCall(c).filter((s) => s.id !== 'check'),
  ],
}
