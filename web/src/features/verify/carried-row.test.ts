import type { Run } from '@calm/core/record/run'
import { expect, test } from 'vitest'
import { carriedRow } from './carried-row.ts'

const plan = [0, 50, 100].map((level_pct, index) => ({ index, level_pct, direction: 'up' as const }))
const started = {
  inputRange: { low: 0, high: 10, unit: 'bar(g)' },
  outputRange: { low: 0, high: 1000, unit: 'kPa' },
} as Run['started']
const read = (value: number) => ({ value, typed: String(value) })

test.each([
  ['nothing begun', null, null],
  ['nothing read', { plan, asFound: {}, asLeft: {}, started }, null],
  ['an emptied row is no reading', { plan, asFound: { 0: {} }, asLeft: {}, started }, null],
  [
    'the last row of the plan that was read, each value at its station',
    {
      plan,
      asFound: { 1: { applied: read(5), loopCurrent_mA: read(12.01) }, 0: { applied: read(0) } },
      asLeft: {},
      started,
    },
    {
      ink: 'measured',
      values: { IN: { text: '5', unit: 'bar(g)' }, MA: { text: '12.01', unit: 'mA' } },
      from: 'Read: as found, point 2.',
    },
  ],
])('%s', (_what, run, carried) => expect(carriedRow(run, 'asFound')).toEqual(carried))

test('as left is not mixed with as found', () => {
  const run = { plan, asFound: { 2: { pv: read(9.9) } }, asLeft: { 0: { pv: read(0.1) } }, started }
  expect(carriedRow(run, 'asLeft')).toMatchObject({
    values: { PV: { text: '0.1', unit: 'bar(g)' } },
    from: 'Read: as left, point 1.',
  })
})
