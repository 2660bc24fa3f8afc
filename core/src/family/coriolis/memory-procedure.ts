import { HOT } from '../../procedure/general/common.ts'
import { flowAdvice, flowZeroSteps, judgeFlowZero } from '../../procedure/general/flow-zero.ts'
import { flowing, flowKnown } from '../../procedure/general/known-flow.ts'
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

const told = (c: ProcedureContext, name: string): string => {
  const value = c.told?.[name]
  return typeof value === 'string' ? value : ''
}
/** From the plate: the bore in the unit the device asks for, factor and frequency with every decimal. */
const plate = (c: ProcedureContext, which: 'keyed' | 'read'): StepField[] =>
  (
    [
      ['bore', `Tube bore, ${told(c, 'boreUnit') || 'in the unit of the device'}`],
      ['flowFactor', 'Flow factor'],
      ['driveFrequency', 'Excitation frequency'],
    ] as const
  ).map(([name, label]) => {
    const documented = toldNumber(c, name)
    return {
      name,
      label,
      unit: null,
      ...(which === 'read' ? { readsFrom: { signal: name } } : {}),
      wanted: (run) => {
        const value = which === 'read' ? (valuesOfStep(run, 'plate')[name] ?? documented) : documented
        return Number.isFinite(value) ? { value, within: 1e-9 * Math.abs(value) } : null
      },
    }
  })
/** Every figure against what it has to be, digit by digit: a decimal less is another meter. */
function differs(run: ProcedureRun, step: 'plate' | 'readBack', c: ProcedureContext): string[] {
  const values = valuesOfStep(run, step)
  return plate(c, step === 'plate' ? 'keyed' : 'read').flatMap((f) => {
    const wanted = f.wanted?.(run)
    const value = values[f.name]
    return wanted && value !== undefined && Math.abs(value - wanted.value) > wanted.within
      ? [`${f.label}: ${sayNumber(value, 12)} where ${sayNumber(wanted.value, 12)} belongs.`]
      : []
  })
}

function judgeMemory(run: ProcedureRun): Outcome {
  const c = run.started.context
  if (!run.done.some((d) => d.step.id === 'readBack'))
    return { result: 'notDone', says: ['What was keyed in was not read back: the meter does not measure.'] }
  const wrong = [...differs(run, 'plate', c), ...differs(run, 'readBack', c)]
  if (wrong.length > 0) return { result: 'out', says: wrong }
  const read = 'Bore, factor and frequency read back as they were keyed in, digit by digit.'
  const zero = judgeFlowZero(run)
  if (zero.result === 'out' || zero.result === 'notDone' || zero.result === 'notVerified')
    return { ...zero, says: [read, ...zero.says] }
  const flow = flowKnown(run)
  if (!flow)
    return { result: 'notVerified', says: [read, ...zero.says, 'The flow was not held against a known one.'] }
  if (!flow.good) return { result: 'out', says: [read, ...zero.says, flow.says] }
  const untold = ['bore', 'flowFactor', 'driveFrequency'].filter((n) => !Number.isFinite(toldNumber(c, n)))
  return untold.length > 0
    ? {
        result: 'notVerified',
        says: [
          read,
          ...zero.says,
          flow.says,
          'The set-up does not hold the whole plate: what was keyed in was held against itself.',
        ],
      }
    : { result: 'adjusted', says: [read, ...zero.says, flow.says] }
}

const PLATE = ['bore', 'flowFactor', 'driveFrequency'] as const
const LOST = [
  ['Flow direction', 'a reversed meter reads nothing'],
  ['Spans and units of mass flow, volume flow, density and temperature', 'units first'],
  ['Totalizers: function, direction; what they had counted is gone and written down', ''],
  ['Current output on, with its ends and its failure action', 'off by default'],
  ['Other outputs', ''],
  ['Cutoff, never 0', ''],
] as const

const steps = (c: ProcedureContext): Step[] => [
  ...callAndBypass(c, HOT),
  {
    id: 'alarm',
    kind: 'confirm',
    title: 'The alarm that it shows, written down',
    says: 'Nothing of the old set-up can be trusted; the last totals are gone.',
    hold: ['Alarm and time are noted; operations know that the totals begin anew.'],
    needsNote: 'What the device shows',
  },
  {
    id: 'plate',
    kind: 'read',
    title: 'From the plate, keyed into the device',
    says: `The bore in the unit the device asks for${told(c, 'boreSays') ? `: ${told(c, 'boreSays')}` : ''}. Factor and frequency with every decimal. ${told(c, 'access') ? `Access code ${told(c, 'access')}.` : 'It asks for its access code.'}`,
    fields: plate(c, 'keyed'),
    keysIn: true,
    command: ({ values }) => ({
      kind: 'keyIn',
      lines: Object.fromEntries(
        PLATE.flatMap((name) =>
          values[name] === undefined ? [] : [[told(c, `${name}Line`) || name, String(values[name])]],
        ),
      ),
    }),
  },
  {
    id: 'readBack',
    kind: 'read',
    title: 'Read back from the device, digit by digit',
    says: 'What its display shows, not what was meant.',
    gates: ['digits'],
    fields: plate(c, 'read'),
  },
  {
    id: 'lost',
    kind: 'confirm',
    title: 'What is lost with it, keyed in again',
    says: 'In this order, by the settings sheet.',
    hold: LOST.map(([what, trap]) => (trap === '' ? `${what}.` : `${what}: ${trap}.`)),
  },
  {
    id: 'stored',
    kind: 'confirm',
    work: 'adjust',
    command: { kind: 'store' },
    title: 'Store it, power off and on',
    says: 'What comes back after the supply is what it has.',
    hold: ['After the power cycle it shows the same.'],
  },
  ...flowZeroSteps(c),
  flowing(c),
  ...checkAndCall(c),
]

export const MEMORY_LOST: Procedure = {
  id: 'memory-lost',
  judges: 'sensor',
  title: 'Memory lost: keyed in again from the plate',
  purpose:
    'The sensor’s memory is gone. Bore, factor and frequency are keyed in from its plate and read back digit by digit, then all that is lost with them; then a zero, and a comparison.',
  minutes: 60,
  tools: ['plate or certificate of this sensor', 'settings sheet of this loop', 'access code'],
  permissions: ['flow stopped by the operators', 'loop in manual', 'bypass of its trips'],
  cautions: HOT,
  advise: flowAdvice,
  judge: judgeMemory,
  steps,
}
