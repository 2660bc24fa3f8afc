<script setup lang="ts">
import { equipment, loops } from '@calm/contract/api/addresses'
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { useLive } from '../api/live-cache.ts'
import { ENTRIES } from './search/entries.ts'
import { finder, type Entry } from './search/finder.ts'
import { BENCHES } from './benches.ts'

/** Reaches every loop, bench, procedure, calculation, place, part, instrument, word and action by typing. */
const { actions } = defineProps<{
  /** What can be done from anywhere, by its name. */
  actions: readonly (Entry & { readonly run: () => void })[]
}>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const rows = useLive(loops.list, {})
const instruments = useLive(equipment.list, {})
const chosen = ref<string | null>(null)
const typed = shallowRef('')

const find = computed(() =>
  finder(rows.data.value ?? [], BENCHES, [
    ...ENTRIES,
    ...actions,
    ...(instruments.data.value ?? []).map((e): Entry => ({
      id: `instrument ${e.id}`,
      sort: 'instrument',
      title: `${e.name}  ${e.serial}`,
      hint: 'instrument',
      to: '/instruments',
    })),
  ]),
)
const items = computed(() => find.value(typed.value))
function go(id: string | null): void {
  const entry = items.value.find((e) => e.id === id)
  if (!entry) return
  emit('close')
  if (entry.to !== undefined) void router.push(entry.to)
  else actions.find((a) => a.id === id)?.run()
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="search-title"
    max-width="600"
    @update:model-value="emit('close')"
  >
    <v-card class="stack">
      <h2 id="search-title">Go to</h2>
      <v-autocomplete
        v-model="chosen"
        v-model:search="typed"
        :items="items"
        item-value="id"
        item-title="title"
        no-filter
        label="A tag, “FT-101 verify”, a procedure, a sum, a word"
        autofocus
        auto-select-first
        menu-icon=""
        no-data-text="Nothing matches."
        @update:model-value="go"
      >
        <template #item="{ props: p, item }"><v-list-item v-bind="p" :subtitle="item.hint" /></template>
      </v-autocomplete>
    </v-card>
  </v-dialog>
</template>
