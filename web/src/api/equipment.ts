import { equipment } from '@calm/contract/api/addresses'
import type { Equipment } from '@calm/contract/equipment'
import { readEquipment, type EquipmentFunction } from '@calm/core/verify/equipment-spec'
import { computed } from 'vue'
import { useLive } from './live-cache.ts'

export type KnownEquipment = Equipment & { readonly functions: readonly EquipmentFunction[] }

/** The plant's test equipment, each with what its words say it can do. */
export function useEquipment() {
  const live = useLive(equipment.list, {})
  /** Retired ones among them: papers still name them. */
  const register = computed((): readonly KnownEquipment[] =>
    (live.data.value ?? []).map((e) => {
      const read = readEquipment(e)
      return { ...e, functions: read.kind === 'read' ? read.functions : [] }
    }),
  )
  /** Those that are in use. */
  const all = computed(() => register.value.filter((e) => !e.retired))
  return {
    register,
    all,
    instruments: computed(() => all.value.filter((e) => e.valid && !e.retired)),
    trouble: live.says,
  }
}
