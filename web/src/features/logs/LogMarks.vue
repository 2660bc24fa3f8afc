<script setup lang="ts">
import type { LogMark } from './log-marks.ts'
import { sayLogTime, type TimesAs } from './say-time.ts'

/** What people marked in a log; a touch goes there. */
const { marks, times } = defineProps<{ marks: readonly LogMark[]; times: TimesAs }>()
const emit = defineEmits<{ go: [at: number] }>()
</script>

<template>
  <ul v-if="marks.length > 0" class="marks" aria-label="Marks">
    <li v-for="m in marks" :key="m.id">
      <button type="button" @click="emit('go', m.at)">
        <span class="mono small">{{ sayLogTime(m.at, times) }}</span>
        <span>{{ m.says }}</span>
        <span class="quiet small">{{ m.byName }}</span>
      </button>
    </li>
  </ul>
</template>

<style scoped>
.marks {
  list-style: none;
  padding: 0;
}
li {
  border-bottom: var(--line) solid var(--hair);
}
button {
  width: 100%;
  min-height: var(--row);
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 12px;
  padding: 4px 0;
  border: 0;
  background: transparent;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
}
</style>
