import type { Mapping } from '@calm/contract/logs'
import { rowReader } from '@calm/core/logs/sniff/read-rows'
import { sniff } from '@calm/core/logs/sniff/sniff'
import { describe, expect, test } from 'vitest'
import { undecidedOf } from './undecided.ts'

/** What is asked of a file, and what its first value becomes by each answer. */
function asked(lines: readonly string[], answered: readonly (keyof Mapping)[] = []) {
  const told = sniff(lines)
  if (!told) throw new Error('nothing sniffed')
  const mapping = told.mapping as Mapping
  const fields = mapping.columns.map((_, i) =>
    lines.slice(mapping.headerLines).map((l) => l.split(mapping.delimiter)[i] ?? ''),
  )
  return undecidedOf(told, mapping, fields, new Set(answered)).map((q) => ({
    says: q.says,
    answers: q.choices.map((c) => {
      const row = rowReader({ ...mapping, ...c.to })(
        lines[mapping.headerLines] ?? '',
        mapping.headerLines + 1,
      )
      return [c.title, row?.kind === 'row' ? row : null] as const
    }),
  }))
}
const rows = (value: (i: number) => string, time = (i: number) => `2026-11-01 00:00:0${i}`) => [
  'Time;Flow [m3/h]',
  ...Array.from({ length: 8 }, (_, i) => `${time(i)};${value(i)}`),
]

describe('what nothing in a file tells is asked', () => {
  test.each([
    ['point', (i: number) => `5${i}.904`, '50.904'],
    ['comma', (i: number) => `5${i},904`, '50,904'],
  ])('three digits behind every %s', (_, value, written) => {
    const [question] = asked(rows(value))
    expect(question?.says).toContain(`What is ${written}?`)
    expect(question?.answers.map(([title, row]) => [title, row?.values[0]])).toEqual([
      ['50.904', 50.904],
      ['50904', 50_904],
    ])
  })
  test('day or month', () => {
    const [question] = asked(
      rows(
        (i) => `4${i}.5`,
        (i) => `01/02/2026 00:00:0${i}`,
      ),
    )
    expect(question?.says).toContain('in 01/02/2026 00:00:00')
    expect(
      question?.answers.map(([title, row]) => [
        title,
        row && new Date(row.t ?? 0).toISOString().slice(0, 10),
      ]),
    ).toEqual([
      ['day, month', '2026-02-01'],
      ['month, day', '2026-01-02'],
    ])
  })
})
test.each([
  ['one value decides', rows((i) => (i === 3 ? '7.5' : `5${i}.904`)), []],
  ['below one', rows((i) => `0.90${i}`), []],
  ['answered', rows((i) => `5${i}.904`), ['decimal']],
] as const)('not asked: %s', (_, lines, answered) => {
  expect(asked(lines, answered)).toEqual([])
})
