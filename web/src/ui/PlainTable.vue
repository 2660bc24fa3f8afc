<script setup lang="ts">
import type { Table } from '@calm/core/chart'
import { computed } from 'vue'
import { vKeyScroll } from './key-scroll.ts'

/** Any table of the core, for reading and printing. */
const { table } = defineProps<{ table: Table }>()
/** A column of numbers stands at its right in figures of one width; one of words begins at the left. */
const NUMBER = /^[-+±−–<>≤≥~]?\s*\d/
const ofNumbers = computed(() =>
  table.columns.map((_, j) =>
    table.rows.every((r) => r[j] === undefined || r[j] === '' || NUMBER.test(r[j])),
  ),
)
</script>

<template>
  <div v-key-scroll class="scroll">
    <table>
      <caption>
        {{
          table.title
        }}
      </caption>
      <thead>
        <tr>
          <th v-for="(c, j) in table.columns" :key="c" scope="col" :class="{ words: !ofNumbers[j] }">
            {{ c }}
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in table.rows" :key="i">
          <td v-for="(cell, j) in r" :key="j" :class="ofNumbers[j] ? 'mono' : 'words'">{{ cell }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
caption {
  text-align: left;
  font-weight: 600;
  padding-bottom: 4px;
}
th,
td {
  text-align: right;
  font-weight: 400;
  padding: 6px 8px;
  border-bottom: var(--line) solid var(--hair);
}
th:first-child,
td:first-child,
.words {
  text-align: left;
}
</style>
