import { adjusted, decision, write } from '../../procedure/parts.ts'
import { sayNumber } from '../../quantity/round.ts'
import { flowAdvice } from '../../procedure/general/flow-zero.ts'
import { seriesOf, type ProcedureRun } from '../../procedure/run.ts'
import type { Advice, Procedure, Step } from '../../procedure/step.ts'
import {
  beginningClosed,
  endingClosed,
  HOT,
  OPEN_FLOW,
  residual,
  STOP_FLOW,
} from '../../procedure/general/common.ts'

const scan = (path: 1 | 2): Step => ({
  id: `scan-${path}`,
  kind: 'read',
  series: 'scan',
  title: path === 1 ? 'Scan: signal and speed of sound' : 'Second path: signal and speed of sound',
  says: 'After two minutes without a hand on the sensors. The speed of sound is the proof of wall, liner and liquid.',
  fields: [
    { name: 'signal_pct', label: 'Signal', unit: '%', readsFrom: { signal: 'signal_pct' } },
    {
      name: 'soundSpeed_m_s',
      label: 'Speed of sound measured',
      unit: 'm/s',
      readsFrom: { signal: 'soundSpeed_m_s' },
    },
    { name: 'expected_m_s', label: 'Speed of sound expected (from Set up)', unit: 'm/s' },
  ],
})

const LEAST_SIGNAL_PCT = 40
/** Speed of sound off by more than this: wall, liner, liquid or temperature is not what was keyed in. */
const SOUND_SPEED_OFF = 0.03

function clampOnAdvice(run: ProcedureRun): Advice {
  const scans = seriesOf(run, 'scan')
  const says = scans.flatMap((values, i) => {
    const { signal_pct = 0, soundSpeed_m_s: c = NaN, expected_m_s: expected = NaN } = values
    const off = (c - expected) / expected
    return [
      ...(signal_pct < LEAST_SIGNAL_PCT
        ? [
            `Path ${i + 1}: the signal is ${sayNumber(signal_pct, 3)} %, below ${LEAST_SIGNAL_PCT} %: couplant, paint, or spacing.`,
          ]
        : []),
      ...(Math.abs(off) > SOUND_SPEED_OFF
        ? [
            `Path ${i + 1}: the speed of sound is ${sayNumber(100 * off, 2)} % off: wall, liner, liquid or temperature is not as keyed in. Correct that before any zero.`,
          ]
        : []),
    ]
  })
  const flow = flowAdvice(run)
  return says.length > 0 ? { choice: 'leave', says } : flow
}

export const CLAMP_ON_START_UP: Procedure = {
  id: 'clamp-on-start-up',
  title: 'Clamp-on start-up',
  purpose: 'From mounted sensors to a flow one can believe: signal, speed of sound, second path, zero.',
  minutes: 40,
  tools: ['settings sheet of this loop', 'couplant', 'steel rule', 'cloth'],
  permissions: ['loop in manual', 'flow stopped for the zero, if it can be'],
  cautions: HOT,
  advise: clampOnAdvice,
  steps: (c) => [
    ...beginningClosed(c, HOT),
    {
      id: 'mounted',
      kind: 'confirm',
      title: 'Sensors where the sheet says',
      says: 'Spacing between the faces by the rule, clock position not at the top, bare metal under the couplant.',
      hold: [
        'Spacing measured on both sides and as on the sheet.',
        'No air under the faces: couplant squeezed out all round.',
        'Pipe, wall, liner and liquid keyed in as on the sheet.',
      ],
    },
    scan(1),
    {
      id: 'paths',
      kind: 'decide',
      title: 'Is there a second path?',
      says: 'Two paths halve what swirl and a bend nearby do.',
      choices: [
        { value: 'one', title: 'One path' },
        { value: 'two', title: 'A second path' },
      ],
      recommends: 'one',
      jumps: { one: 'canStop' },
    },
    scan(2),
    {
      id: 'canStop',
      kind: 'decide',
      title: 'Can the flow be stopped for the zero?',
      says: 'Where it cannot, the zero stays as it is and the sheet says so.',
      choices: [
        { value: 'yes', title: 'It can be stopped' },
        { value: 'no', title: 'It cannot be stopped' },
      ],
      recommends: 'yes',
      jumps: { no: 'flowing' },
    },
    STOP_FLOW,
    residual(c),
    decision('Set the zero, or leave it'),
    write('zero', 'Set the flow zero', 'Stopped, full and still.', 'zeroTrim', { apply: 0 }),
    adjusted,
    OPEN_FLOW,
    {
      id: 'flowing',
      kind: 'read',
      phase: 'asLeft',
      title: 'With the flow back: what it reads',
      says: 'Against a pump curve, a tank, another meter or what the operator knows.',
      fields: [
        { name: 'pv', label: 'It reads', unit: c.range.unit, readsFrom: 'pv' },
        { name: 'known', label: 'What is known of the flow', unit: c.range.unit },
      ],
    },
    ...endingClosed(c),
  ],
}
