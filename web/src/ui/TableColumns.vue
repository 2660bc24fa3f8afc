<script setup lang="ts">
/** What each column of somebody's table holds: suggested, corrected by hand, with its first cells below. */
const { headings, rows, mapping, items } = defineProps<{
  headings: readonly string[]
  /** Below the heading row. */
  rows: readonly (readonly string[])[]
  /** By column; null is left out. */
  mapping: readonly (string | null)[]
  items: readonly { readonly value: string; readonly title: string }[]
}>()
/** A column and what it holds; null where it is left out. */
const emit = defineEmits<{ hold: [column: number, value: string | null] }>()
const LEFT_OUT = 'none'
const SHOWN_ROWS = 3
const firstCells = (column: number) =>
  rows
    .slice(0, SHOWN_ROWS)
    .map((r) => r[column] ?? '')
    .join(' · ')
</script>

<template>
  <div class="field-grid" role="group" aria-label="What each column holds">
    <v-select
      v-for="(h, i) in headings"
      :key="i"
      :model-value="mapping[i] ?? LEFT_OUT"
      :items="[...items, { value: LEFT_OUT, title: 'left out' }]"
      :label="h.trim() || `Column ${i + 1}`"
      :hint="firstCells(i)"
      persistent-hint
      @update:model-value="emit('hold', i, $event === LEFT_OUT ? null : $event)"
    />
  </div>
</template>
