<script setup lang="ts">
import type { WiredBudget } from '@calm/core/wire/budget-from-wiring'
import type { LoopBudget } from '@calm/core/wire/loop-budget'
import {
  Chart,
  Filler,
  Legend,
  LinearScale,
  LineElement,
  PointElement,
  ScatterController,
  type ChartData,
  type ChartOptions,
} from 'chart.js'
import { computed } from 'vue'
import { Scatter } from 'vue-chartjs'
import { useTheme } from 'vuetify'

Chart.register(ScatterController, LinearScale, PointElement, LineElement, Filler, Legend)

/** Volts at the transmitter falling with the current, and the line it must stay above. */
const { wired, budget } = defineProps<{ wired: WiredBudget; budget: LoopBudget }>()
const theme = useTheme()
const colour = (name: string) => {
  const c = theme.current.value.colors[name]
  return typeof c === 'string' ? c : ''
}
const END_MA = 24
const at = (supply: number, i_mA: number) => supply - wired.input.vDrops - (i_mA / 1000) * budget.rTotal
const data = computed((): ChartData<'scatter'> => {
  const line = (supply: number) => [0, END_MA].map((x) => ({ x, y: at(supply, x) }))
  return {
    datasets: [
      {
        label: `at ${wired.device}, supply at its lowest`,
        data: line(wired.input.supplyMin),
        showLine: true,
        pointRadius: 0,
        borderWidth: 2.5,
        borderColor: colour('primary'),
      },
      {
        label: 'supply at its highest',
        data: line(wired.input.supplyMax),
        showLine: true,
        pointRadius: 0,
        borderWidth: 1,
        borderDash: [2, 4],
        borderColor: colour('primary'),
      },
      {
        label: `${wired.device} needs`,
        data: [
          { x: 0, y: wired.input.vLift },
          { x: END_MA, y: wired.input.vLift },
        ],
        showLine: true,
        pointRadius: 0,
        borderWidth: 2,
        borderDash: [8, 4],
        borderColor: colour('error'),
        fill: 'start',
        backgroundColor: `${colour('error')}14`,
      },
      {
        label: '4, 20, 21.5, 22.5 mA',
        data: budget.rows.map((r) => ({ x: r.i * 1000, y: r.vTerm })),
        pointRadius: 5,
        pointBackgroundColor: colour('surface'),
        pointBorderColor: colour('primary'),
        pointBorderWidth: 2,
      },
    ],
  }
})
const options = computed((): ChartOptions<'scatter'> => {
  const text = { color: colour('on-surface'), font: { family: 'Calm Mono', size: 13 } }
  return {
    animation: false,
    maintainAspectRatio: false,
    scales: {
      x: {
        min: 0,
        max: END_MA,
        title: { display: true, text: 'loop current, mA', ...text },
        ticks: { ...text, stepSize: 4 },
        grid: { color: colour('hairline') },
      },
      y: {
        min: 0,
        suggestedMax: wired.input.supplyMax + 2,
        title: { display: true, text: 'V', ...text },
        ticks: text,
        grid: { color: colour('hairline') },
      },
    },
    plugins: { legend: { position: 'bottom', labels: { ...text, boxWidth: 24, boxHeight: 2 } } },
  }
})
</script>

<template>
  <div class="plot">
    <Scatter
      :data="data"
      :options="options"
      :aria-label="`Volts at ${wired.device}: ${budget.rows.map((r) => `${(r.i * 1000).toFixed(1)} mA ${r.vTerm.toFixed(2)} V`).join(', ')}; it needs ${wired.input.vLift} V.`"
    />
  </div>
</template>

<style scoped>
.plot {
  height: 320px;
}
</style>
