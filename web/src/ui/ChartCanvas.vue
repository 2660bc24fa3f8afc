<script setup lang="ts">
import type { Chart as ChartSpec } from '@calm/core/chart'
import {
  BarController,
  BarElement,
  Chart,
  Filler,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
} from 'chart.js'
import { computed, onBeforeUnmount, onMounted, shallowRef, useTemplateRef, watch } from 'vue'
import { useTheme } from 'vuetify'
import { chartData, chartOptions } from './chart-config.ts'

Chart.register(
  BarController,
  BarElement,
  Filler,
  ScatterController,
  LineController,
  LinearScale,
  PointElement,
  LineElement,
  Legend,
  Tooltip,
)

/** The drawing of a chart; apart, because its library is large and no reading waits for it. */
const { chart } = defineProps<{ chart: ChartSpec }>()
const theme = useTheme()
const colour = (name: string) => {
  const c = theme.current.value.colors[name]
  return typeof c === 'string' ? c : ''
}
const data = computed(() => chartData(chart, colour))
const options = computed(() => chartOptions(chart, colour))

const canvas = useTemplateRef('canvas')
const drawn = shallowRef<Chart<'scatter'> | null>(null)
onMounted(() => {
  if (canvas.value)
    drawn.value = new Chart(canvas.value, { type: 'scatter', data: data.value, options: options.value })
})
watch([data, options], () => {
  if (!drawn.value) return
  drawn.value.data = data.value
  drawn.value.options = options.value
  drawn.value.update()
})
onBeforeUnmount(() => drawn.value?.destroy())
</script>

<template>
  <canvas ref="canvas" role="img" :aria-label="chart.says" />
</template>
