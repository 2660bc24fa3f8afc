<script setup lang="ts">
import { calmLine, type CalmStep } from '@calm/core/signal/calm-line'
import { computed } from 'vue'

/** The calm line small and without words: flat when a loop agrees with itself. */
const {
  steps,
  width = 96,
  height = 22,
} = defineProps<{ steps: readonly CalmStep[]; width?: number; height?: number }>()
const points = computed(() =>
  calmLine(steps, width - 6, height - 6)
    .map(([x, y]) => `${x + 3},${y + 3}`)
    .join(' '),
)
</script>

<template>
  <svg
    :width="width"
    :height="height"
    :viewBox="`0 0 ${width} ${height}`"
    :class="{ stepped: steps.length > 0 }"
    aria-hidden="true"
  >
    <polyline
      :points="points"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-linejoin="round"
      stroke-linecap="round"
    />
  </svg>
</template>

<style scoped>
svg {
  color: var(--quiet);
}
.stepped {
  color: var(--stop);
}
</style>
