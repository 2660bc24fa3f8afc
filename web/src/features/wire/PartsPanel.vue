<script setup lang="ts">
import { PART_KINDS } from '@calm/core/part/index'
import { PLACES } from '@calm/core/part/part-kind'
import { computed, ref } from 'vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** The parts that are on this bench, and one more. */
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
const kind = ref<string | null>(null)
const kinds = PART_KINDS.map((k) => ({ value: k.kind, title: k.title, place: TITLES[k.place] }))
const rows = computed(() =>
  bench.parts.value.map((p) => ({ id: p.id, title: p.kind.title, label: p.kind.label(p.s) })),
)
function add(): void {
  if (kind.value === null) return
  bench.addPart(kind.value, number)
  kind.value = null
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
      <v-btn type="submit" :disabled="kind === null">Add</v-btn>
    </form>
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
  flex: 1;
}
</style>
