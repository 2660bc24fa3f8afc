<script setup lang="ts">
import type { PartState } from '@calm/core/loop/parts'

/** State by shape, word and colour together: circle, triangle, square, dash. */
const WORDS: Readonly<Record<PartState, string>> = {
  good: 'good',
  look: 'look at it',
  stop: 'not right',
  notYet: 'not yet',
}
const {
  state,
  word = null,
  bare = false,
} = defineProps<{ state: PartState; word?: string | null; bare?: boolean }>()
</script>

<template>
  <span class="mark" :class="state">
    <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true">
      <circle v-if="state === 'good'" cx="7" cy="7" r="5" />
      <path v-else-if="state === 'look'" d="M7 1.5 13 12.5H1Z" />
      <rect v-else-if="state === 'stop'" x="2" y="2" width="10" height="10" />
      <rect v-else x="3" y="6" width="8" height="2" />
    </svg>
    <span :class="{ 'visually-hidden': bare }">{{ word ?? WORDS[state] }}</span>
  </span>
</template>

<style scoped>
.mark {
  display: inline-flex;
  align-items: center;
  gap: 6px;
  white-space: nowrap;
}
svg {
  flex: none;
  fill: currentColor;
}
.good {
  color: var(--good);
}
.look {
  color: var(--look);
}
.stop {
  color: var(--stop);
}
.notYet {
  color: var(--quiet);
}
</style>
