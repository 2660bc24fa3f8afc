import type { Setting } from '../quantity/setting.ts'

/**
 * After what a plant names its 24 V inputs: after the way the current takes in the card, or after the sensor that
 * drives it. The two use the same words the other way round, so neither stands without the arrow and the common.
 */
export const INPUT_WORDS = ['card', 'sensor'] as const
export type InputWords = (typeof INPUT_WORDS)[number]
export const INPUT_WORDS_SAYS: Readonly<Record<InputWords, string>> = {
  card: 'after the card: current into it is sinking',
  sensor: 'after the sensor: one that switches to plus is sourcing',
}

/** The plant's word for an input; empty where the common decides. @param mode - which way current flows in the card */
export function inputWord(mode: string, words: InputWords): string {
  if (mode !== 'sink' && mode !== 'source') return ''
  return (mode === 'sink') === (words === 'card') ? 'sinking' : 'sourcing'
}

/** A setting of a part with the plant's word behind each way of an input; any other setting as it is. */
export const withInputWord = (s: Setting, kind: string, words: InputWords): Setting =>
  kind === 'digital-input' && s.name === 'mode' && s.kind === 'choice'
    ? {
        ...s,
        options: s.options.map((o) => {
          const word = inputWord(o.value, words)
          return word === '' ? o : { ...o, title: `${o.title} (${word})` }
        }),
      }
    : s
