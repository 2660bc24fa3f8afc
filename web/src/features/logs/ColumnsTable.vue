<script setup lang="ts">
import type { Mapping } from '@calm/contract/logs'
import { COLUMN_KINDS, type ColumnKind } from '@calm/core/logs/sniff/sniff'
import UnitPicker from '../../ui/UnitPicker.vue'

/** What each column of a file is: told by its head, corrected by hand. */
const { samples } = defineProps<{
  /** What stands in the first rows of each column. */
  samples: readonly (readonly string[])[]
}>()
const columns = defineModel<Mapping['columns']>({ required: true })

const WORDS: Readonly<Record<ColumnKind, string>> = {
  time: 'time',
  date: 'date',
  clock: 'clock',
  value: 'values',
  quality: 'signal quality',
  text: 'leave out',
}
const KINDS = COLUMN_KINDS.map((value) => ({ value, title: WORDS[value] }))
function change(at: number, to: Partial<Mapping['columns'][number]>): void {
  columns.value = columns.value.map((c, i) => (i === at ? { ...c, ...to } : c))
}
</script>

<template>
  <ol class="columns">
    <li v-for="(c, i) in columns" :key="i" class="card">
      <p class="mono small quiet cut">
        {{
          (samples[i] ?? [])
            .filter((s) => s !== '')
            .slice(0, 3)
            .join('   ') || 'nothing'
        }}
      </p>
      <v-text-field
        :model-value="c.name"
        :label="`Column ${i + 1}`"
        hide-details
        @update:model-value="change(i, { name: $event })"
      />
      <v-select
        :model-value="c.kind"
        :items="KINDS"
        label="is"
        hide-details
        @update:model-value="change(i, { kind: $event })"
      />
      <UnitPicker
        v-if="c.kind === 'value'"
        :model-value="c.unit ?? ''"
        any
        label="Unit"
        @update:model-value="change(i, { unit: $event === '' ? null : $event })"
      />
    </li>
  </ol>
</template>

<style scoped>
.columns {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 12px;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
}
.card {
  display: grid;
  gap: 8px;
  align-content: start;
  padding: 12px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.cut {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
