import { settings } from '@calm/contract/api/addresses'
import type { WantedUnits } from '@calm/core/quantity/asked-in'
import { computed, type ComputedRef } from 'vue'
import { useLive } from '../api/live-cache.ts'

/** The units in which the plant wants entries and results. */
export function usePlantUnits(): ComputedRef<WantedUnits> {
  const rules = useLive(settings.rules, {})
  return computed(() => rules.data.value?.units ?? {})
}
