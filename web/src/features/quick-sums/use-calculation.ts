import { answer, type Calculation } from '@calm/core/calculation'
import { sumFields } from '@calm/core/sums/fields'
import { typedInSentences } from '@calm/core/sums/in-words'
import { sayAnswer, type SaidAnswer } from '@calm/core/sums/say-answer'
import { inputOf, typedFields, type Typed, type Wrong } from '@calm/core/sums/typed'
import { computed, ref } from 'vue'

/** A calculation as it is typed: its fields filled in from the example, its answer or what is wrong, at its place. */
export function useCalculation(c: Calculation) {
  const fields = sumFields(c)
  const typed = ref<Record<string, Typed>>({ ...typedFields(fields, c.example) })
  const told = computed(
    (): {
      input: Record<string, unknown>
      answer: SaidAnswer | null
      wrong: Wrong
      says: readonly string[]
    } => {
      const wrong: Wrong = new Map()
      const input = inputOf(fields, typed.value, wrong)
      if (wrong.size > 0) return { input, answer: null, wrong, says: [] }
      const result = answer(c, input)
      if (result.kind === 'result') return { input, answer: sayAnswer(c, result.result), wrong, says: [] }
      const says: string[] = []
      for (const p of result.problems) {
        if (fields.some((f) => p.where === f.name || p.where.startsWith(`${f.name}.`)))
          wrong.set(p.where, p.says)
        else says.push(p.says)
      }
      return { input, answer: null, wrong, says }
    },
  )
  return {
    fields,
    typed,
    input: computed(() => told.value.input),
    answer: computed(() => told.value.answer),
    wrong: computed(() => told.value.wrong),
    says: computed(() => told.value.says),
    inWords: () => typedInSentences(fields, typed.value),
  }
}
