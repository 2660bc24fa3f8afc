import { adjusted, beginning, decision, ending, phaseOf, write } from '../parts.ts'
import type { Procedure } from '../step.ts'
import { trimAdvice } from './trim-advice.ts'
import { at, ELECTRIC, ends, PRESSURE, release, say, STANDARD, zeroAndSpan } from './common.ts'

export const ZERO_TRIM: Procedure = {
  id: 'zero-trim',
  title: 'Zero trim',
  purpose:
    'The reading is off by the same amount everywhere. With no input applied it is told that this is zero.',
  minutes: 20,
  tools: STANDARD,
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: PRESSURE,
  advise: trimAdvice('zeroTrim'),
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
}

export const SENSOR_TRIM: Procedure = {
  id: 'sensor-trim',
  title: 'Lower and upper sensor trim',
  purpose:
    'Zero and span are off. A known input is applied at the lower point, then at the upper one; never the other way.',
  minutes: 40,
  tools: STANDARD,
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: PRESSURE,
  advise: trimAdvice('sensorTrim', 'zeroTrim'),
  steps: (c) => [
    ...beginning(c, PRESSURE),
    ...phaseOf(c, 'asFound', zeroAndSpan(c)),
    decision('Sensor trim, or not'),
    write('lower', `Lower trim at ${say(c, at(c, 0))}`, 'A shift: the slope stays.', 'lowerTrim', {
      apply: at(c, 0),
      fields: [
        {
          name: 'applied',
          label: 'Applied, by the standard',
          unit: c.range.unit,
          preset: at(c, 0),
          readsFrom: 'standard',
        },
      ],
    }),
    write('upper', `Upper trim at ${say(c, at(c, 100))}`, 'A turn about the lower point.', 'upperTrim', {
      apply: at(c, 100),
      fields: [
        {
          name: 'applied',
          label: 'Applied, by the standard',
          unit: c.range.unit,
          preset: at(c, 100),
          readsFrom: 'standard',
        },
      ],
    }),
    adjusted,
    ...phaseOf(c, 'asLeft', zeroAndSpan(c)),
    ...ending(c),
  ],
}

export const OUTPUT_TRIM: Procedure = {
  id: 'output-trim',
  title: 'Output trim at 4 and 20 mA',
  purpose:
    'The current does not follow the digital reading. It is measured in the loop, at 4 first, then at 20.',
  minutes: 30,
  tools: ['loop meter in date, better than the tolerance'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  advise: trimAdvice('outputTrim'),
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
        fields: [{ name: 'measured', label: 'Meter reads', unit: 'mA', readsFrom: 'current' }],
      },
    ),
    write(
      'twenty',
      'Output trim at 20 mA',
      'The output holds 20 mA now: type what the meter reads.',
      'outputTrim20',
      {
        holdCurrent_mA: 20,
        fields: [{ name: 'measured', label: 'Meter reads', unit: 'mA', readsFrom: 'current' }],
      },
    ),
    release,
    adjusted,
    ...phaseOf(c, 'asLeft', ends(c)),
    ...ending(c),
  ],
}

export const RE_RANGE: Procedure = {
  id: 're-range',
  title: 'Re-range by numbers',
  purpose:
    'The device has another range than the documents. No input is needed; every receiver has to follow.',
  minutes: 15,
  tools: ['loop meter'],
  permissions: ['loop in manual', 'bypass of its trips'],
  cautions: ELECTRIC,
  advise: trimAdvice('rerange'),
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
          { name: 'LRV', label: '4 mA point', unit: c.range.unit, preset: c.range.low },
          { name: 'URV', label: '20 mA point', unit: c.range.unit, preset: c.range.high },
        ],
      },
    ),
    adjusted,
    ...phaseOf(c, 'asLeft', ends(c)),
    ...ending(c),
  ],
}
