import { Generator } from '@calm/core/statistics/generator'
import { expect, test } from 'vitest'
import { DEEPEST, tooDeep } from './depth.ts'

const nested = (n: number, inside = '') => '['.repeat(n) + inside + ']'.repeat(n)

test.each<[what: string, text: string, isDeep: boolean]>([
  ['as deep as allowed', nested(DEEPEST), false],
  ['one more', nested(DEEPEST + 1), true],
  ['brackets in a text are none', JSON.stringify(nested(500)), false],
  ['behind a text they are', `{"a":"x","b":${nested(DEEPEST)}}`, true],
  ['behind a text that ends in a backslash', `{"a":${JSON.stringify('x\\')},"b":${nested(DEEPEST)}}`, true],
  ['a quote that is a sign of the text', JSON.stringify(`"${nested(500)}`), false],
  ['a text without an end', `"${nested(500)}`, false],
  ['side by side', `[${Array.from({ length: 500 }, () => nested(3)).join(',')}]`, false],
])('%s', (_, text, isDeep) => {
  expect(tooDeep(text)).toBe(isDeep)
})

test('whatever signs stand in its texts, only the nesting counts', () => {
  const g = new Generator(64)
  const signs = ['"', '\\', '[', ']', '{', '}', 'x', ' ', '\n']
  const word = () =>
    Array.from(
      { length: Math.floor(12 * g.uniform()) },
      () => signs[Math.floor(signs.length * g.uniform())],
    ).join('')
  for (let k = 0; k < 2000; k++) {
    const deep = DEEPEST - 3 + Math.floor(6 * g.uniform())
    let value: unknown = word()
    for (let n = 0; n < deep; n++) value = g.uniform() < 0.5 ? [word(), value] : { [word()]: value }
    expect(tooDeep(JSON.stringify(value))).toBe(deep > DEEPEST)
  }
})
