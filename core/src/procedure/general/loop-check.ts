import { callAndBypass, checkAndCall } from '../parts.ts'
import { RESULT_STATE, type Outcome } from '../outcome.ts'
import type { ProcedureRun } from '../run.ts'
import type { Procedure, ProcedureContext, Step } from '../step.ts'
import { ELECTRIC, hold, needsCurrent, release } from './common.ts'
import { judgeReceiver } from './trim-judgement.ts'

const currents = (c: ProcedureContext, list: readonly number[]): Step[] =>
  list.flatMap((mA, i): Step[] => [
    hold(`current-${i + 1}`, mA),
    {
      id: `current-${i + 1}-read`,
      kind: 'read',
      phase: 'asFound',
      title: `Read at ${mA.toFixed(3)} mA`,
      says: 'Meter in the loop, then what the controller shows.',
      holdCurrent_mA: mA,
      gates: ['held', 'still'],
      fields: [
        { name: 'mA', label: 'Loop current measured', unit: 'mA', readsFrom: 'current' },
        { name: 'shown', label: 'Controller shows', unit: c.receiver?.unit ?? null },
      ],
    },
  ])

function judgeLoop(run: ProcedureRun): Outcome {
  const judged = judgeReceiver(run, 'asFound')
  if (!judged)
    return {
      result: 'notJudged',
      says: ['Nobody has told what the receiver should show: enter its range on Scale.'],
    }
  return RESULT_STATE[judged.result] === 'good'
    ? { ...judged, says: [...judged.says, 'From the output on only: the sensor was not looked at.'] }
    : judged
}

export const LOOP_CHECK: Procedure = {
  id: 'loop-check',
  judges: 'output',
  title: 'Loop check by held current',
  purpose:
    'Five currents through the wires to the controller: wiring, shunt, card and scaling, without touching the process.',
  minutes: 15,
  tools: ['loop meter in date'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  needs: (c) => [needsCurrent(c)],
  judge: judgeLoop,
  steps: (c) => [
    ...callAndBypass(c, ELECTRIC),
    ...currents(c, [4, 8, 12, 16, 20]),
    release,
    ...checkAndCall(c).map((s) =>
      s.id === 'check' ? { ...s, title: 'Does the controller show the process again?' } : s,
    ),
  ],
}
