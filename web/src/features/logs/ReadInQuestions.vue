<script setup lang="ts">
import type { Mapping } from '@calm/contract/logs'
import type { Undecided } from './undecided.ts'

/** What nothing in the file tells: asked, since a guess would be a thousand times, or a month, wrong. */
defineProps<{ questions: readonly Undecided[] }>()
const emit = defineEmits<{ answer: [to: Partial<Mapping>] }>()
</script>

<template>
  <div v-for="q in questions" :key="q.says" class="question">
    <p>{{ q.says }}</p>
    <div class="row">
      <v-btn v-for="c in q.choices" :key="c.title" variant="outlined" @click="emit('answer', c.to)">{{
        c.title
      }}</v-btn>
    </div>
  </div>
</template>

<style scoped>
.question {
  padding: 10px 14px;
  border: var(--line) solid var(--look);
  border-radius: var(--corner);
}
.question p {
  margin: 0 0 8px;
}
</style>
