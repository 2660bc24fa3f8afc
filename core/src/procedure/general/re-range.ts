import { sayNumber } from '../../quantity/round.ts'
import { adjusted, callAndBypass, checkAndCall, decision, write } from '../parts.ts'
import { wrote, type Outcome } from '../outcome.ts'
import { valuesOfStep, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure, ProcedureContext, Step } from '../step.ts'
import { allowedOf } from '../allowed.ts'
import { ELECTRIC, hold, needsCurrent, release, say } from './common.ts'
import { judgeReceiver } from './trim-judgement.ts'

/** Two ends that differ by less than this share of the span are the same. */
const SAME_SHARE = 1e-4
function isDocumented(
  c: ProcedureContext,
  { LRV = NaN, URV = NaN }: Readonly<Record<string, number>>,
): boolean {
  const span = Math.abs(c.range.high - c.range.low)
  return Math.max(Math.abs(LRV - c.range.low), Math.abs(URV - c.range.high)) <= SAME_SHARE * span
}
const sayRange = (c: ProcedureContext, { LRV = NaN, URV = NaN }: Readonly<Record<string, number>>) =>
  `${sayNumber(LRV, 6)} to ${say(c, URV)}`

function rangeAdvice(run: ProcedureRun): Advice {
  const c = run.started.context
  const found = valuesOfStep(run, 'asFound-range')
  return isDocumented(c, found)
    ? { choice: 'leave', says: [`It has ${sayRange(c, found)}, as documented.`] }
    : {
        choice: 'adjust',
        says: [
          `It has ${sayRange(c, found)}; documented is ${sayNumber(c.range.low, 6)} to ${say(c, c.range.high)}.`,
        ],
      }
}

function judgeRange(run: ProcedureRun): Outcome {
  const c = run.started.context
  const adjusted = wrote(run)
  const values = valuesOfStep(run, adjusted ? 'asLeft-range' : 'asFound-range')
  if (values['LRV'] === undefined)
    return adjusted
      ? { result: 'notVerified', says: ['Nobody has read the range back.'] }
      : { result: 'notDone', says: ['Nothing was read and nothing changed.'] }
  if (!isDocumented(c, values))
    return { result: 'out', says: [`It has ${sayRange(c, values)}, not what is documented.`] }
  if (!adjusted) return { result: 'untouched', says: [`It has ${sayRange(c, values)}, as documented.`] }
  const receiver = judgeReceiver(run, 'asLeft')
  if (!receiver)
    return {
      result: 'notVerified',
      says: ['The range is as documented; what the receiver shows was not judged.'],
    }
  return receiver.result === 'out'
    ? receiver
    : { result: 'adjusted', says: [`Read back: ${sayRange(c, values)}.`, ...receiver.says] }
}

const ends = (c: ProcedureContext): NonNullable<Step['fields']> => [
  { name: 'LRV', label: '4 mA point', unit: c.range.unit, readsFrom: 'LRV' },
  { name: 'URV', label: '20 mA point', unit: c.range.unit, readsFrom: 'URV' },
]
const documentedEnds = (c: ProcedureContext): NonNullable<Step['fields']> => [
  { name: 'LRV', label: '4 mA point', unit: c.range.unit, preset: c.range.low },
  { name: 'URV', label: '20 mA point', unit: c.range.unit, preset: c.range.high },
]

/** Held currents at both ends and in the middle, with what the receiver shows. */
const followed = (c: ProcedureContext): Step[] =>
  [4, 12, 20].flatMap((mA) => [
    hold(`asLeft-${mA}`, mA, { phase: 'asLeft' }),
    {
      id: `asLeft-${mA}-read`,
      kind: 'read',
      phase: 'asLeft',
      title: `What the receiver shows at ${mA.toFixed(3)} mA`,
      says: 'The meter in the loop, then the receiver.',
      holdCurrent_mA: mA,
      gates: ['held', 'still'],
      fields: [
        { name: 'mA', label: 'Meter reads', unit: 'mA', readsFrom: 'current', within: allowedOf(c).mA },
        { name: 'shown', label: 'Receiver shows', unit: c.receiver?.unit ?? null },
      ],
    },
  ])

export const RE_RANGE: Procedure = {
  id: 're-range',
  judges: 'output',
  title: 'Re-range by numbers',
  purpose:
    'The device has another range than the documents. No input is needed; every receiver has to follow.',
  minutes: 20,
  tools: ['loop meter in date'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  needs: (c) => [needsCurrent(c)],
  advise: rangeAdvice,
  judge: judgeRange,
  steps: (c) => [
    ...callAndBypass(c, ELECTRIC),
    {
      id: 'asFound-range',
      kind: 'read',
      phase: 'asFound',
      title: 'The range that it has',
      says: 'Read from the device, not from its label.',
      fields: ends(c),
    },
    decision('Re-range, or not'),
    write(
      'range',
      `Set ${say(c, c.range.low)} to ${say(c, c.range.high)}`,
      'As documented. The sensor trim stays as it is.',
      'range',
      { fields: documentedEnds(c) },
    ),
    adjusted,
    {
      id: 'receivers',
      kind: 'confirm',
      adjusting: true,
      title: 'Everything that follows it',
      says: 'A receiver left at its old scale shows a wrong number that looks right.',
      hold: [
        'Controller and displays have the same range.',
        'Trips and alarms are set again for it.',
        'Damping and cutoff were looked at.',
      ],
    },
    {
      id: 'asLeft-range',
      kind: 'read',
      phase: 'asLeft',
      title: 'Read the range back',
      says: 'From the device, after it was stored.',
      fields: ends(c),
    },
    ...followed(c),
    { ...release, adjusting: true },
    ...checkAndCall(c),
  ],
}
