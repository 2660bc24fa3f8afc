import type { Typed } from '../quantity/setting.ts'
import type { Family } from './family.ts'
import { FAMILIES } from './index.ts'

/** What the words of a new loop make likely; a person confirms or changes it. */
export interface Guess {
  readonly family: string | null
  /** Entries that the words tell. */
  readonly values: Typed
}

const tokensOf = (words: string): string[] =>
  words
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((w) => w !== '')
/** A longer word may have an ending: thermocouples, switches. */
const LEAST_STEM = 5
const stands = (word: string, among: readonly string[]): boolean =>
  among.some((w) => w === word || (word.length >= LEAST_STEM && w.startsWith(word)))

/** Phrases of a family that the words hold, weakest first: the more words, the stronger. */
function hits(f: Family, among: readonly string[]) {
  return f.usualWords
    .map(([phrase, tells]) => ({ words: tokensOf(phrase), tells: tells ?? {} }))
    .filter(({ words }) => words.every((w) => stands(w, among)))
    .sort((a, b) => a.words.length - b.words.length)
}

/**
 * The one place where the words of a loop are read, once: when it is made or imported. What they tell stands
 * in the document from then on, marked as nobody's confirmation.
 * @param type - the loop's type in the plant's words, which counts first
 * @param signal - its signal, which decides only where the type tells nothing
 */
export function guessFamily(type: string, signal: string): Guess {
  const all = tokensOf(`${type} ${signal}`)
  const best = (among: readonly string[]) =>
    FAMILIES.map((family) => ({ family, strength: hits(family, among).at(-1)?.words.length ?? 0 })).reduce<{
      family: Family | null
      strength: number
    }>((a, b) => (b.strength > a.strength ? b : a), { family: null, strength: 0 }).family
  const family = best(tokensOf(type)) ?? best(all)
  if (!family) return { family: null, values: {} }
  const values: Record<string, Typed[string]> = {}
  for (const { tells } of hits(family, all)) Object.assign(values, tells)
  return { family: family.id, values }
}
