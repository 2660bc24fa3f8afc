import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { usePreferences } from '../api/preferences.ts'

/** Where the ranges are the work the line is open; elsewhere it gives the room away. */
const OPEN_ON: Readonly<Record<string, boolean>> = { scale: true }

/** Whether the signal path of a bench is small; what a person chose on a bench stays so, at whatever device. */
export function usePathSize(bench: MaybeRefOrGetter<string>) {
  const { mine, change } = usePreferences()
  const small = computed(() => mine.value.smallPath[toValue(bench)] ?? OPEN_ON[toValue(bench)] !== true)
  const fold = (): void =>
    change({ ...mine.value, smallPath: { ...mine.value.smallPath, [toValue(bench)]: !small.value } })
  return { small, fold }
}
