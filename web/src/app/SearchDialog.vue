<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { CATALOGUE } from '@calm/core/catalogue'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useLive } from '../api/live-cache.ts'
import { BENCHES } from './benches.ts'

/** Reaches every loop, bench, calculation and place by typing. */
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const { data } = useLive(loops.list, {})
const rows = computed(() => data.value ?? [])
const chosen = ref<string | null>(null)

const items = computed(() => [
  { value: '/loops', title: 'Loops', subtitle: 'place' },
  { value: '/loops/import', title: 'Import a loop list', subtitle: 'action' },
  { value: '/equipment', title: 'Test equipment', subtitle: 'place' },
  { value: '/quick-sums', title: 'Signal path without a loop', subtitle: 'quick sum' },
  ...rows.value.map((l) => ({
    value: `/loops/${encodeURIComponent(l.tag)}`,
    title: `${l.tag}  ${l.service}`,
    subtitle: l.area,
  })),
  ...rows.value.flatMap((l) =>
    BENCHES.map((b) => ({
      value: `/loops/${encodeURIComponent(l.tag)}/${b.id}`,
      title: `${l.tag}  ${b.title}`,
      subtitle: 'bench',
    })),
  ),
  ...CATALOGUE.map((c) => ({ value: `/quick-sums/${c.name}`, title: c.title, subtitle: 'quick sum' })),
])
function go(to: string | null): void {
  if (to === null) return
  emit('close')
  void router.push(to)
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="search-title"
    max-width="560"
    @update:model-value="emit('close')"
  >
    <v-card class="stack">
      <h2 id="search-title">Go to</h2>
      <v-autocomplete
        v-model="chosen"
        :items="items"
        label="Tag, bench, calculation or place"
        autofocus
        auto-select-first
        menu-icon=""
        @update:model-value="go"
      >
        <template #item="{ props: p, item }"><v-list-item v-bind="p" :subtitle="item.subtitle" /></template>
      </v-autocomplete>
    </v-card>
  </v-dialog>
</template>
