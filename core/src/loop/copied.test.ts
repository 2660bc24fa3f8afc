import { expect, test } from 'vitest'
import { readRow } from '../loop-list/read-row.ts'
import { copied } from './copied.ts'
import { LoopDocument } from './document.ts'
import { factsOf } from './facts.ts'
import { summarise } from './summary.ts'

const row = { tag: 'PT-1', type: 'pressure', signal: '4-20 mA', lrv: '0', urv: '10', unit: 'bar g' }
const { document: read } = readRow({ ...row, tolerance: '0.5', lastCalibrated: '2026-01-02', remark: 'old' })
const known = {
  ...(read as LoopDocument),
  unconfirmed: [],
  setUp: { values: { duty: 'gauge', below_m: 2 }, sensor: '00000000-0000-4000-8000-000000000001' },
}

test('a copy is a whole loop of its own, without what is of one place and device', () => {
  const copy = copied(known, 'PT-2')
  expect(copy).toMatchObject({
    tag: 'PT-2',
    wiring: null,
    lastCalibrated: null,
    remark: '',
    asTyped: {},
    tolerance: known.tolerance,
    setUp: { values: { duty: 'gauge', below_m: 2 } },
  })
  expect(copy.setUp).not.toHaveProperty('sensor')
})
test('nothing of it is good by the other’s work: ranges and entries wait to be confirmed', () => {
  expect(summarise(known, null, []).parts.scale).toBe('good')
  const copy = copied(known, 'PT-2')
  expect(copy.unconfirmed).toEqual(
    expect.arrayContaining([
      'path.transmitter.range.low',
      'path.transmitter.range.high',
      'setUp.values.duty',
      'setUp.values.below_m',
    ]),
  )
  expect(summarise(copy, null, []).parts.scale).not.toBe('good')
  expect(factsOf(known).entries['below_m']).toBe('typed')
  expect(new Set(Object.values(factsOf(copy).entries))).toEqual(new Set(['assumed']))
})
