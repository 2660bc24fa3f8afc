<script setup lang="ts">
import type { Chart as ChartSpec, Series } from '@calm/core/chart'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import {
  BarController,
  BarElement,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
  type ChartData,
  type ChartOptions,
} from 'chart.js'
import { computed } from 'vue'
import { Scatter } from 'vue-chartjs'
import { useTheme } from 'vuetify'

Chart.register(
  BarController,
  BarElement,
  ScatterController,
  LineController,
  LinearScale,
  PointElement,
  LineElement,
  Legend,
  Tooltip,
)

/** Any chart of the core: lines computed, points measured or typed, limits dashed. */
const { chart, height = 260 } = defineProps<{ chart: ChartSpec; height?: number }>()
const theme = useTheme()
const colour = (name: string) => {
  const c = theme.current.value.colors[name]
  return typeof c === 'string' ? c : ''
}
const axis = (a: ChartSpec['x']) => (a.unit ? `${a.label}, ${printedUnit(a.unit)}` : a.label)
/** Lines tell apart by their dashes too, not by colour alone. */
const DASHES = [[], [8, 4], [2, 3], [10, 3, 2, 3]]

function dataset(s: Series, n: number) {
  const data = s.points.map(([x, y]) => ({ x, y }))
  const base = { label: s.name, data }
  switch (s.kind) {
    case 'points':
      return {
        ...base,
        showLine: true,
        borderWidth: 1.5,
        borderColor: colour('copper'),
        pointBackgroundColor: colour('copper'),
        pointRadius: 5,
      }
    case 'limit':
      return {
        ...base,
        showLine: true,
        pointRadius: 0,
        borderWidth: 1,
        borderDash: [6, 4],
        borderColor: colour('quiet'),
      }
    case 'bars':
      return {
        ...base,
        type: 'bar' as const,
        backgroundColor: colour('primary'),
        barPercentage: 1,
        categoryPercentage: 0.96,
      }
    case 'line':
      return {
        ...base,
        showLine: true,
        pointRadius: 0,
        borderWidth: 2,
        borderDash: DASHES[n % DASHES.length] ?? [],
        borderColor: n % 2 === 0 ? colour('primary') : colour('on-surface'),
      }
  }
}
const data = computed((): ChartData<'scatter'> => {
  let n = 0
  // Bars are drawn by the same chart; its types do not know that they can stand among points.
  return {
    datasets: chart.series.map((s) => dataset(s, s.kind === 'line' ? n++ : 0)),
  } as ChartData<'scatter'>
})
/** Bars fill the axis; anything else gets the room that the chart finds good. */
const ends = computed(() => {
  const bars = chart.series.find((s) => s.kind === 'bars')?.points ?? []
  const [first, second, last] = [bars[0], bars[1], bars.at(-1)]
  if (!first || !second || !last) return {}
  const half = (second[0] - first[0]) / 2
  return { min: first[0] - half, max: last[0] + half }
})
const options = computed((): ChartOptions<'scatter'> => {
  const text = { color: colour('on-surface'), font: { family: 'Calm Mono', size: 13 } }
  return {
    animation: false,
    maintainAspectRatio: false,
    scales: {
      x: {
        type: 'linear',
        ...ends.value,
        title: { display: true, text: axis(chart.x), ...text },
        ticks: { ...text, maxTicksLimit: 8 },
        grid: { color: colour('hairline') },
      },
      y: {
        title: { display: true, text: axis(chart.y), ...text },
        ticks: { ...text, maxTicksLimit: 7 },
        grid: { color: colour('hairline') },
      },
    },
    plugins: {
      legend: {
        align: 'end',
        display: chart.series.length > 1,
        labels: { ...text, boxHeight: 1, boxWidth: 24, filter: (i) => !i.text.endsWith(' below') },
      },
      tooltip: {
        callbacks: {
          label: (c) =>
            `${c.dataset.label}: ${sayNumber(c.parsed.y ?? 0, 5)} at ${sayNumber(c.parsed.x ?? 0, 5)}`,
        },
      },
    },
  }
})
</script>

<template>
  <figure>
    <figcaption>{{ chart.title }}</figcaption>
    <div :style="{ height: `${height}px` }">
      <Scatter :data="data" :options="options" :aria-label="chart.says" />
    </div>
  </figure>
</template>

<style scoped>
figcaption {
  font-weight: 600;
  padding-bottom: 4px;
}
</style>
