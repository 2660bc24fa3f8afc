import { sensors } from '@calm/contract/api/addresses'
import { computed } from 'vue'
import { useLive } from './live-cache.ts'

/** The plant's sensors as they are now. */
export function useSensors() {
  const live = useLive(sensors.list, {})
  return { all: computed(() => live.data.value ?? []), trouble: live.says }
}
