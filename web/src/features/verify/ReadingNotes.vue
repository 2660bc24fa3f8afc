<script setup lang="ts">
import { loops, urlOf } from '@calm/contract/api/addresses'
import type { ReadingNote } from './reading-notes.ts'

/** What was noted at one reading, with its pictures. */
const { notes, loop } = defineProps<{ notes: readonly ReadingNote[]; loop: string }>()
</script>

<template>
  <ul class="notes">
    <li v-for="n in notes" :key="n.id">
      <strong>{{ n.byName }}:</strong> {{ n.says }}
      <a
        v-for="(p, i) in n.pictures"
        :key="p"
        :href="urlOf(loops.picture, { loop, picture: p })"
        target="_blank"
        rel="noopener"
        >Picture {{ i + 1 }}</a
      >
    </li>
  </ul>
</template>

<style scoped>
.notes {
  list-style: none;
  padding: 0;
}
a {
  display: inline-block;
  padding: 4px 8px;
}
</style>
