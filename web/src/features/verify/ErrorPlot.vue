<script setup lang="ts">
import type { Judgement } from '@calm/core/verify/verdict'
import {
  Chart,
  Filler,
  Legend,
  LinearScale,
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

Chart.register(ScatterController, LinearScale, PointElement, LineElement, Filler, Legend, Tooltip)

/** Errors over the range with the tolerance as a band; open marks as found, filled as left. */
const { asFound, asLeft } = defineProps<{ asFound: Judgement | null; asLeft: Judgement | null }>()
const theme = useTheme()

const colour = (name: string) => {
  const c = theme.current.value.colors[name]
  return typeof c === 'string' ? c : ''
}
const pointsOf = (j: Judgement | null) =>
  (j?.points ?? []).filter((p) => p.loop_pct !== null).map((p) => ({ x: p.level_pct, y: p.loop_pct ?? 0 }))
const limits = computed(() => {
  const points = (asLeft ?? asFound)?.points ?? []
  const byLevel = new Map(points.map((p) => [Math.round(p.level_pct * 100) / 100, p.allowed_pct]))
  const sorted = [...byLevel].sort((a, b) => a[0] - b[0])
  const first = sorted[0]
  const last = sorted.at(-1)
  return first && last ? [[-5, first[1]] as const, ...sorted, [105, last[1]] as const] : []
})

const data = computed((): ChartData<'scatter'> => {
  const band = {
    showLine: true,
    pointRadius: 0,
    borderWidth: 1,
    borderDash: [6, 4],
    borderColor: colour('quiet'),
  }
  const series = {
    showLine: true,
    borderWidth: 1.5,
    borderColor: colour('copper'),
    pointBorderColor: colour('copper'),
    pointRadius: 5,
    pointHoverRadius: 7,
  }
  return {
    datasets: [
      {
        label: 'tolerance',
        data: limits.value.map(([x, t]) => ({ x, y: t })),
        ...band,
        fill: '+1',
        backgroundColor: `${colour('primary')}14`,
      },
      { label: 'tolerance below', data: limits.value.map(([x, t]) => ({ x, y: -t })), ...band },
      {
        label: 'as found',
        data: pointsOf(asFound),
        ...series,
        borderDash: [3, 3],
        pointBackgroundColor: colour('surface'),
      },
      { label: 'as left', data: pointsOf(asLeft), ...series, pointBackgroundColor: colour('copper') },
    ],
  }
})
const options = computed((): ChartOptions<'scatter'> => {
  const text = { color: colour('on-surface'), font: { family: 'Calm Mono', size: 13 } }
  const largest = Math.max(
    ...limits.value.map((l) => l[1]),
    ...[...pointsOf(asFound), ...pointsOf(asLeft)].map((p) => Math.abs(p.y)),
    1e-3,
  )
  return {
    animation: false,
    maintainAspectRatio: false,
    scales: {
      x: {
        type: 'linear',
        min: -5,
        max: 105,
        ticks: { ...text, stepSize: 25, includeBounds: false, callback: (v) => `${v} %` },
        grid: { color: colour('hairline') },
      },
      y: {
        min: -largest * 1.2,
        max: largest * 1.2,
        title: { display: true, text: 'error, % of span', ...text },
        ticks: { ...text, maxTicksLimit: 7, includeBounds: false },
        grid: { color: colour('hairline') },
      },
    },
    plugins: {
      legend: {
        align: 'end',
        labels: {
          ...text,
          usePointStyle: true,
          boxHeight: 7,
          boxWidth: 7,
          filter: (i) => i.text !== 'tolerance below',
        },
      },
      tooltip: {
        callbacks: {
          label: (c) =>
            `${c.dataset.label}: ${(c.parsed.y ?? 0).toFixed(3)} % at ${(c.parsed.x ?? 0).toFixed(1)} %`,
        },
      },
    },
  }
})
const words = computed(
  () => [asFound?.sentence, asLeft?.sentence].filter(Boolean).join(' ') || 'No readings yet.',
)
</script>

<template>
  <div class="plot">
    <Scatter :data="data" :options="options" :aria-label="`Error over the range. ${words}`" />
  </div>
</template>

<style scoped>
.plot {
  height: 280px;
}
</style>
