import { expect, test } from 'vitest'
import { inputWord, withInputWord, type InputWords } from './input-words.ts'
import { digitalInput } from './kinds/digital-input.ts'

test.each<[mode: string, words: InputWords, word: string]>([
  ['sink', 'card', 'sinking'],
  ['source', 'card', 'sourcing'],
  ['sink', 'sensor', 'sourcing'],
  ['source', 'sensor', 'sinking'],
  ['bidir', 'card', ''],
  ['bidir', 'sensor', ''],
])('an input in which current flows as “%s”, named after the %s: “%s”', (mode, words, word) => {
  expect(inputWord(mode, words)).toBe(word)
})

test('the word never stands without the arrow and the common', () => {
  const titles = digitalInput.settings.flatMap((s) => {
    const named = withInputWord(s, 'digital-input', 'sensor')
    return named.kind === 'choice' && named.name === 'mode' ? named.options.map((o) => o.title) : []
  })
  expect(titles).toEqual([
    'arrow into the card, common at 0 V (sourcing)',
    'arrow out of the card, common at +24 V (sinking)',
    'either way, the common decides',
  ])
})
