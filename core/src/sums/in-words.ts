import type { Calculation } from '../calculation.ts'
import { sumFields, type SumField } from './fields.ts'
import { answerInSentences, sayAnswer } from './say-answer.ts'
import { typedFields, type Typed, type TypedFields } from './typed.ts'

/** What the values of a form are called, one line each; what was left empty is left out. */
export function typedInSentences(fields: readonly SumField[], typed: TypedFields): string[] {
  return fields.flatMap((f) => {
    const value: Typed | undefined = typed[f.name]
    if (f.kind === 'choice') {
      const title = f.choices.find((c) => c.value === value)?.title
      return title === undefined ? [] : [`${f.title}: ${title}.`]
    }
    if (typeof value === 'string')
      return value.trim() === '' ? [] : [`${f.title}: ${value.trim()}${f.unit === '' ? '' : ` ${f.unit}`}.`]
    if (f.kind === 'group' && typeof value === 'object')
      return typedInSentences(f.fields, value as TypedFields).map((line) => `${f.title}, ${line}`)
    if (f.kind === 'variant' && typeof value === 'object') {
      const chosen = f.variants.find((v) => v.value === (value as TypedFields)[f.by])
      return chosen
        ? [`${f.title}: ${chosen.title}.`, ...typedInSentences(chosen.fields, value as TypedFields)]
        : []
    }
    if (f.kind === 'flag') return value === true ? [`${f.title}: yes.`] : []
    if (f.kind === 'choices' && Array.isArray(value)) {
      const titles = f.choices
        .filter((c) => (value as readonly Typed[]).includes(c.value))
        .map((c) => c.title)
      return titles.length === 0 ? [] : [`${f.title}: ${titles.join(', ')}.`]
    }
    if (f.kind === 'rows' && Array.isArray(value))
      return (value as TypedFields[]).map(
        (row, i) => `${f.title} ${i + 1}: ${typedInSentences(f.columns, row).join(' ')}`,
      )
    return []
  })
}

/** A sum that was done, in words: what went in and what came out. */
export interface SumInWords {
  readonly asked: readonly string[]
  readonly answer: readonly string[]
}

/** The same for an input and its result, as a record keeps them. */
export const sumInWords = (c: Calculation, input: unknown, result: unknown): SumInWords => {
  const fields = sumFields(c)
  return {
    asked: typedInSentences(fields, typedFields(fields, input)),
    answer: answerInSentences(sayAnswer(c, result)),
  }
}
