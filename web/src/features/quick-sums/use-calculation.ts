import { answer, type Calculation } from '@calm/core/calculation'
import { sumFields, type SumField } from '@calm/core/sums/fields'
import { sayAnswer, type SaidAnswer } from '@calm/core/sums/say-answer'
import { inputOf, typedFields, type Typed, type TypedFields, type Wrong } from '@calm/core/sums/typed'
import { computed, ref } from 'vue'

/** What the values of a form are called, one line each; what was left empty is left out. */
function lines(fields: readonly SumField[], typed: TypedFields): string[] {
  return fields.flatMap((f) => {
    const value: Typed | undefined = typed[f.name]
    if (f.kind === 'choice') {
      const title = f.choices.find((c) => c.value === value)?.title
      return title === undefined ? [] : [`${f.title}: ${title}.`]
    }
    if (typeof value === 'string')
      return value.trim() === '' ? [] : [`${f.title}: ${value.trim()}${f.unit === '' ? '' : ` ${f.unit}`}.`]
    if (f.kind === 'group' && typeof value === 'object')
      return lines(f.fields, value as TypedFields).map((line) => `${f.title}, ${line}`)
    if (f.kind === 'rows' && Array.isArray(value))
      return (value as TypedFields[]).map(
        (row, i) => `${f.title} ${i + 1}: ${lines(f.columns, row).join(' ')}`,
      )
    return []
  })
}

/** A calculation as it is typed: its fields filled in from the example, its answer or what is wrong, at its place. */
export function useCalculation(c: Calculation) {
  const fields = sumFields(c)
  const typed = ref<Record<string, Typed>>({ ...typedFields(fields, c.example) })
  const told = computed((): { answer: SaidAnswer | null; wrong: Wrong; says: readonly string[] } => {
    const wrong: Wrong = new Map()
    const input = inputOf(fields, typed.value, wrong)
    if (wrong.size > 0) return { answer: null, wrong, says: [] }
    const result = answer(c, input)
    if (result.kind === 'result') return { answer: sayAnswer(c, result.result), wrong, says: [] }
    const says: string[] = []
    for (const p of result.problems) {
      if (fields.some((f) => p.where === f.name || p.where.startsWith(`${f.name}.`)))
        wrong.set(p.where, p.says)
      else says.push(p.says)
    }
    return { answer: null, wrong, says }
  })
  return {
    fields,
    typed,
    answer: computed(() => told.value.answer),
    wrong: computed(() => told.value.wrong),
    says: computed(() => told.value.says),
    inWords: () => lines(fields, typed.value),
  }
}
