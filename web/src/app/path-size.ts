import { useLocalStorage } from '@vueuse/core'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'

/** Where the ranges are the work the line is open; elsewhere it gives the room away. */
const OPEN_ON: Readonly<Record<string, boolean>> = { scale: true }

/**
 * Whether the signal path of a bench is small; what a person chose on a bench stays so for that person at this device.
 */
export function usePathSize(person: MaybeRefOrGetter<string | null>, bench: MaybeRefOrGetter<string>) {
  const chosen = useLocalStorage<Record<string, boolean>>('calm-path-small', {}, { writeDefaults: false })
  const key = computed(() => `${toValue(person) ?? ''}/${toValue(bench)}`)
  const small = computed(() => chosen.value[key.value] ?? OPEN_ON[toValue(bench)] !== true)
  function fold(): void {
    chosen.value = { ...chosen.value, [key.value]: !small.value }
  }
  return { small, fold }
}
