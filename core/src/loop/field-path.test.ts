import fc from 'fast-check'
import { expect, it } from 'vitest'
import { fieldAt, withField } from './field-path.ts'

const LOOP = {
  tag: 'PT-1',
  path: [
    { kind: 'transmitter', range: { low: 0, high: 10, unit: 'bar' } },
    { kind: 'shunt', resistance_ohm: 250 },
  ],
  setUp: { values: { od_mm: 100, wall: [1, 2] } },
}

it.each([
  ['tag', 'PT-2', { ...LOOP, tag: 'PT-2' }],
  [
    'path.shunt.resistance_ohm',
    249,
    { ...LOOP, path: [LOOP.path[0], { kind: 'shunt', resistance_ohm: 249 }] },
  ],
  ['setUp.values.od_mm', undefined, { ...LOOP, setUp: { values: { wall: [1, 2] } } }],
  ['setUp.values.wall.1', undefined, { ...LOOP, setUp: { values: { od_mm: 100, wall: [1] } } }],
  ['setUp.values.wall.2', 3, { ...LOOP, setUp: { values: { od_mm: 100, wall: [1, 2, 3] } } }],
  ['path.isolator.range.low', 1, LOOP],
  ['remark.first', 1, LOOP],
  ['tag.first', 1, LOOP],
])('%s becomes %j', (path, value, expected) => {
  const before = structuredClone(LOOP)
  expect(withField(LOOP, path, value)).toEqual(expected)
  expect(LOOP).toEqual(before)
})

it('shares with the original whatever is not on the way to the field', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('tag', 'path.transmitter.range.low', 'path.shunt.resistance_ohm', 'setUp.values.od_mm'),
      fc.integer(),
      (path, value) => {
        const changed = withField(LOOP, path, value)
        expect(fieldAt(changed, path)).toBe(value)
        const [first] = path.split('.')
        for (const key of ['path', 'setUp'] as const) expect(changed[key] === LOOP[key]).toBe(key !== first)
      },
    ),
  )
})
