import { describe, expect, test } from 'vitest'
import { z } from 'zod'
import { answer } from './calculation.ts'
import { CATALOGUE } from './catalogue.ts'
import { LoopDocument } from './loop/document.ts'
import './plain-issues.ts'

const said = (schema: z.ZodType, value: unknown) =>
  schema.safeParse(value).error?.issues.map((i) => i.message) ?? []

test.each([
  ['a number', z.number(), 'x', 'This must be a number.'],
  ['nothing', z.number(), undefined, 'This is missing.'],
  ['an endless number', z.number(), Infinity, 'This number is too large.'],
  ['too much', z.number().max(5), 9, 'This must be 5 or less.'],
  ['not more', z.number().positive(), 0, 'This must be more than 0.'],
  ['a broken number', z.int(), 1.5, 'This must be a whole number.'],
  ['an empty text', z.string().min(1), '', 'This must not be empty.'],
  ['a long text', z.string().max(1), 'ab', 'At most 1 character.'],
  ['too few', z.array(z.number()).min(2), [], 'At least 2 entries.'],
  ['another word', z.enum(['a', 'b']), 'c', 'This must be one of “a”, “b”.'],
  ['a strange name', z.strictObject({}), { b: 1 }, 'This does not belong here: “b”.'],
  ['no date', z.iso.date(), 'x', 'This must be a date, as 2026-11-23.'],
  [
    'none of them',
    z.union([z.literal(1), z.literal(2)]),
    5,
    'This is not one of the values that are possible here.',
  ],
  ['its own words', z.number('Type a number.'), 'x', 'Type a number.'],
] as const)('%s is told in plain words', (_what, schema, value, says) =>
  expect(said(schema, value)).toEqual([says]),
)

const VALIDATORS = /Invalid|expected|received|Too (small|big)|Unrecognized|<=|>=|undefined|NaN/
const WRONG: readonly unknown[] = ['x', null, -1e9, 1e300, [], {}, true, '', [null], undefined]

describe('no validator’s own English', () => {
  test.each(CATALOGUE.map((c) => [c.name, c] as const))(
    '%s, each value replaced by wrong ones',
    (_name, c) => {
      const example = c.example as Record<string, unknown>
      const told = Object.keys(example).flatMap((name) =>
        WRONG.flatMap((value) => {
          const a = answer(c, { ...example, [name]: value })
          return a.kind === 'refused' ? a.problems.map((p) => p.says) : []
        }),
      )
      expect(told.filter((says) => VALIDATORS.test(says))).toEqual([])
    },
  )
  test('a loop with everything wrong', () => {
    const fields = Object.keys(LoopDocument.shape)
    const told = WRONG.flatMap((value) =>
      said(LoopDocument, Object.fromEntries(fields.map((f) => [f, value]))),
    )
    expect(told.length).toBeGreaterThan(50)
    expect(told.filter((says) => VALIDATORS.test(says))).toEqual([])
  })
})
