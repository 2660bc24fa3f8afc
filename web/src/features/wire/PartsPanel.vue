<script setup lang="ts">
import { ownParts } from '@calm/contract/api/addresses'
import { PART_KINDS } from '@calm/core/part/index'
import { PLACES } from '@calm/core/part/part-kind'
import { computed, ref } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import OwnPartsList from './OwnPartsList.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** The parts that are on this bench, and more of them. */
const {
  bench,
  number,
  readonly = false,
} = defineProps<{
  bench: WiringBench
  /** The loop's number: new parts are named after it. */
  number: string
  readonly?: boolean
}>()
const TITLES: Readonly<Record<(typeof PLACES)[number], string>> = {
  field: 'field',
  box: 'junction box',
  run: 'cable',
  cabinet: 'cabinet',
  rack: 'supply and receivers',
  tool: 'tool',
}
/** What stands before the name of one of the plant's own in the list. */
const OWN = 'own '
const MOST_AT_ONCE = 10
const own = useLive(ownParts.list, {})
const kind = ref<string | null>(null)
const count = ref(1)
const COUNTS = Array.from({ length: MOST_AT_ONCE }, (_, i) => i + 1)
const kinds = computed(() => [
  ...(own.data.value ?? []).map((p) => ({ value: OWN + p.title, title: p.title, place: 'the plant’s own' })),
  ...PART_KINDS.map((k) => ({ value: k.kind, title: k.title, place: TITLES[k.place] })),
])
const rows = computed(() =>
  bench.parts.value.map((p) => ({ id: p.id, title: p.kind.title, label: p.kind.label(p.s) })),
)
function add(): void {
  const chosen = kind.value
  if (chosen === null) return
  const mine = own.data.value?.find((p) => OWN + p.title === chosen)
  bench.addParts(mine ?? chosen, number, count.value)
  kind.value = null
  count.value = 1
}
</script>

<template>
  <section class="stack" aria-label="Parts">
    <h2>Parts</h2>
    <ul>
      <li v-for="p in rows" :key="p.id">
        <button
          type="button"
          class="part"
          :class="{ chosen: bench.selection.value?.kind === 'part' && bench.selection.value.id === p.id }"
          @click="bench.select({ kind: 'part', id: p.id })"
        >
          <span class="mono">{{ p.id }}</span>
          <span>{{ p.title }}</span>
          <span class="quiet small">{{ p.label }}</span>
        </button>
      </li>
    </ul>
    <form v-if="!readonly" class="row add" @submit.prevent="add">
      <v-autocomplete v-model="kind" :items="kinds" label="Add a part" auto-select-first>
        <template #item="{ props: p, item }">
          <v-list-item v-bind="p" :subtitle="item.place" />
        </template>
      </v-autocomplete>
      <v-select v-model="count" :items="COUNTS" label="How many" class="count" />
      <v-btn type="submit" :disabled="kind === null">Add</v-btn>
    </form>
    <OwnPartsList v-if="own.data.value" :parts="own.data.value" :readonly="readonly" />
  </section>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
}
.part {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  gap: 0 12px;
  width: 100%;
  min-height: var(--target);
  align-content: center;
  text-align: left;
  border: 0;
  border-bottom: var(--line) solid var(--hair);
  background: transparent;
  color: var(--ink);
  font: inherit;
  padding: 4px 8px;
  cursor: pointer;
}
.part .small {
  grid-column: 2;
}
.chosen {
  box-shadow: inset 3px 0 0 var(--accent);
}
.add > :first-child {
  flex: 1 1 180px;
}
.count {
  flex: 0 0 104px;
}
</style>
