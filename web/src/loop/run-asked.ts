import { computed, type ComputedRef } from 'vue'
import { useRoute } from 'vue-router'

/** An earlier verification or procedure that the address asks for; null: the newest. */
export function useRunAsked(): ComputedRef<string | null> {
  const route = useRoute()
  return computed(() => (typeof route.query['run'] === 'string' ? route.query['run'] : null))
}
