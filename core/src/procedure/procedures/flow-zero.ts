import { adjusted, decision, write } from '../parts.ts'
import type { Procedure } from '../step.ts'
import { beginningClosed, endingClosed, HOT, OPEN_FLOW, residual, STOP_FLOW } from './common.ts'

export const FLOW_ZERO: Procedure = {
  id: 'flow-zero',
  title: 'Flow zero',
  purpose: 'Only stopped, full and stable, and only if the residual is larger than its noise.',
  minutes: 25,
  fits: (type) => /flow/i.test(type),
  tools: ['both valves tight', 'five minutes of patience'],
  permissions: ['flow stopped by the operators', 'loop in manual'],
  cautions: HOT,
  steps: (c) => [
    ...beginningClosed(c, HOT),
    STOP_FLOW,
    residual(c),
    decision('Set the zero, or leave it'),
    write(
      'zero',
      'Set the flow zero',
      'With the flow stopped, the pipe full and the reading still.',
      'zeroTrim',
      { apply: 0 },
    ),
    { ...adjusted, id: 'adjusted' },
    {
      id: 'asLeft-1-read',
      kind: 'read',
      phase: 'asLeft',
      title: 'Read again',
      says: 'The new residual, before the valves are opened.',
      apply: 0,
      fields: [{ name: 'pv', label: 'Residual flow', unit: c.range.unit }],
    },
    OPEN_FLOW,
    ...endingClosed(c),
  ],
}
