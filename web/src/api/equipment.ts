import type { Equipment } from '@calm/contract/equipment'
import { readEquipment, type EquipmentFunction } from '@calm/core/verify/equipment-spec'
import { computed, ref } from 'vue'
import { api, sayProblem } from './http.ts'

export type KnownEquipment = Equipment & { readonly functions: readonly EquipmentFunction[] }

/** The plant's test equipment, each with what its words say it can do. */
export function useEquipment() {
  const all = ref<readonly KnownEquipment[]>([])
  const trouble = ref<string | null>(null)
  async function load(): Promise<void> {
    try {
      all.value = (await api<Equipment[]>('GET', '/api/equipment')).map((e) => {
        const read = readEquipment(e)
        return { ...e, functions: read.kind === 'read' ? read.functions : [] }
      })
      trouble.value = null
    } catch (error) {
      trouble.value = sayProblem(error)
    }
  }
  void load()
  return { all, instruments: computed(() => all.value.filter((e) => e.valid)), trouble, load }
}
