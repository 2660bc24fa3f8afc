import { sayNumber } from '../../quantity/round.ts'
import { adjusted, callAndBypass, checkAndCall, decision, write } from '../parts.ts'
import { heldReadingsOf, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure, Step } from '../step.ts'
import { allowedOf } from '../allowed.ts'
import { ELECTRIC, hold, needsCurrent, release } from './common.ts'
import { judgeOutput } from './trim-judgement.ts'

/** Within this share of what is allowed it is left alone. */
const LEAVE_SHARE = 0.5

function outputAdvice(run: ProcedureRun): Advice {
  const T = allowedOf(run.started.context).mA
  const points = heldReadingsOf(run, 'asFound')
  const worst = Math.max(0, ...points.map((p) => Math.abs(p.mA - p.held)))
  const says = points.map(
    (p) =>
      `At ${sayNumber(p.held)} mA the meter reads ${sayNumber(p.mA, 5)} mA, ${sayNumber(p.mA - p.held, 3)} mA off.`,
  )
  return worst > LEAVE_SHARE * T
    ? { choice: 'adjust', says: [...says, 'The current does not follow: output trim.'] }
    : {
        choice: 'leave',
        says: [
          ...says,
          `Within half of what is allowed, ±${sayNumber(T, 3)} mA: leave it alone. If the reading is wrong, it is the sensor: never hide that with the output.`,
        ],
        instead: ['sensor-trim'],
      }
}

const measured = (phase: 'asFound' | 'asLeft', mA: number): Step[] => [
  hold(`${phase}-${mA}`, mA, { phase }),
  {
    id: `${phase}-${mA}-read`,
    kind: 'read',
    phase,
    title: `Measure at ${mA.toFixed(3)} mA, ${phase === 'asFound' ? 'as found' : 'as left'}`,
    says: 'The meter in the loop, once it stands still.',
    holdCurrent_mA: mA,
    gates: ['held', 'still'],
    fields: [{ name: 'mA', label: 'Meter reads', unit: 'mA', readsFrom: 'current' }],
  },
]
const trimAt = (id: string, mA: 4 | 20): Step[] => [
  hold(id, mA, { adjusting: true }),
  write(
    id,
    `Output trim at ${mA} mA`,
    `The output holds ${mA} mA now: write what the meter reads.`,
    mA === 4 ? 'outputTrim4' : 'outputTrim20',
    {
      holdCurrent_mA: mA,
      steady: 'measured',
      gates: ['asFound', 'authority', 'held', 'still'],
      fields: [{ name: 'measured', label: 'Meter reads', unit: 'mA', readsFrom: 'current' }],
    },
  ),
]

export const OUTPUT_TRIM: Procedure = {
  id: 'output-trim',
  judges: 'output',
  title: 'Output trim at 4 and 20 mA',
  purpose:
    'The current does not follow the device’s own reading. Nothing of the process is opened: the output holds 4 mA, then 20, and a meter in the loop tells what really flows.',
  minutes: 25,
  tools: ['loop meter in date, better than the tolerance'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  needs: (c) => [needsCurrent(c)],
  advise: outputAdvice,
  judge: judgeOutput,
  steps: (c) => [
    ...callAndBypass(c, ELECTRIC),
    {
      id: 'meterIn',
      kind: 'confirm',
      title: 'The meter into the loop',
      says: 'In series, or at the test terminals. The device’s own reading is looked at first: what is wrong there is the sensor, and no output trim may hide it.',
      hold: ['The circuit was dead while the meter went in.', 'Lead in the mA jack, DC, range above 20 mA.'],
    },
    ...measured('asFound', 4),
    ...measured('asFound', 20),
    decision('Output trim, or not'),
    ...trimAt('four', 4),
    ...trimAt('twenty', 20),
    adjusted,
    ...[4, 12, 20].flatMap((mA) => measured('asLeft', mA)),
    release,
    {
      id: 'meterOut',
      kind: 'confirm',
      title: 'The meter out again',
      says: 'Circuit dead, link closed, lead back in the volt jack.',
      hold: ['The loop is closed again and alive.'],
    },
    ...checkAndCall(c),
  ],
}
