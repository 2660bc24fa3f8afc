import type { Calculation } from '../calculation.ts'
import { sayNumber } from '../quantity/round.ts'
import { ANSWER_WORDS, SUMS } from './words.ts'

/** One value of an answer: its title, the value rounded as it can be measured, its unit. */
export interface AnswerLine {
  readonly title: string
  readonly value: string
  readonly unit: string
}
export interface AnswerTable {
  readonly columns: readonly { readonly title: string; readonly unit: string }[]
  readonly rows: readonly (readonly string[])[]
}
export interface SaidAnswer {
  readonly lines: readonly AnswerLine[]
  readonly tables: readonly AnswerTable[]
}

/** More digits than anybody can measure are noise. */
const DIGITS = 6
const MOST_ROWS = 100

/** “Bore | mm” as title and unit. */
export function titleAndUnit(words: string): { readonly title: string; readonly unit: string } {
  const [title = '', unit = ''] = words.split(' | ')
  return { title, unit }
}
const isObject = (x: unknown): x is Record<string, unknown> =>
  typeof x === 'object' && x !== null && !Array.isArray(x)

function sayWith(words: Readonly<Record<string, string>>, x: unknown): string {
  if (x === null || x === undefined) return ''
  if (typeof x === 'number') return sayNumber(x, DIGITS)
  if (typeof x === 'boolean') return x ? 'yes' : 'no'
  if (typeof x === 'string') return words[x] ?? ANSWER_WORDS[x] ?? x
  return Array.isArray(x) ? x.map((y) => sayWith(words, y)).join(', ') : ''
}

/** An answer in words: single values as lines, lists of several values each as tables; what is not there is left out. */
export function sayAnswer(c: Pick<Calculation, 'name'>, result: unknown): SaidAnswer {
  const words = SUMS[c.name]?.gives ?? {}
  const say = (x: unknown) => sayWith(SUMS[c.name]?.says ?? {}, x)
  const named = (path: string) => titleAndUnit(words[path] ?? '')
  const lines: AnswerLine[] = []
  const tables: AnswerTable[] = []
  const walk = (x: unknown, path: string): void => {
    if (isObject(x)) {
      for (const [key, value] of Object.entries(x)) walk(value, path === '' ? key : `${path}.${key}`)
      return
    }
    const list = Array.isArray(x) ? (x as unknown[]) : null
    const [first] = list ?? []
    if (list && (isObject(first) || Array.isArray(first))) {
      const keys = Object.keys(first)
      const cells = (row: unknown) => keys.map((k) => say((row as Record<string, unknown>)[k]))
      tables.push({
        columns: keys.map((k) => named(`${path}.${k}`)),
        rows: list.slice(0, MOST_ROWS).map(cells),
      })
      return
    }
    const value = say(x)
    if (value !== '') lines.push({ ...named(path), value })
  }
  walk(result, '')
  return { lines, tables }
}

/** The same as sentences, to be copied or kept. */
export const answerInSentences = ({ lines, tables }: SaidAnswer): string[] => [
  ...lines.map((l) => `${l.title}: ${l.value}${l.unit === '' ? '' : ` ${l.unit}`}.`),
  ...tables.flatMap((t) =>
    t.rows.map((row) => `${row.map((cell, i) => `${t.columns[i]?.title ?? ''} ${cell}`.trim()).join(', ')}.`),
  ),
]
