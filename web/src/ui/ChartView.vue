<script setup lang="ts">
import type { Chart as ChartSpec } from '@calm/core/chart'
import { defineAsyncComponent } from 'vue'
import { whenIdle } from './when-idle.ts'

const ChartCanvas = defineAsyncComponent(async () => {
  await whenIdle()
  return import('./ChartCanvas.vue')
})

/**
 * Any chart of the core on screen. Its place is kept from the first moment; nothing jumps when it is drawn, and what
 * draws it comes after the words that are to be read.
 */
const { chart, height = 260 } = defineProps<{ chart: ChartSpec; height?: number }>()
</script>

<template>
  <figure>
    <figcaption>{{ chart.title }}</figcaption>
    <div class="drawing" :style="{ height: `${height}px` }">
      <ChartCanvas :chart="chart" />
    </div>
  </figure>
</template>

<style scoped>
figcaption {
  font-weight: 600;
  padding-bottom: 4px;
}
.drawing {
  position: relative;
}
</style>
