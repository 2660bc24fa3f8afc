<script setup lang="ts">
import type { Chart, Table } from '@calm/core/chart'
import type { Family, Vessel } from '@calm/core/family/family'
import type { SetUp } from '@calm/core/family/set-up'
import { shownOn, tableIn } from '@calm/core/loop/shown-result'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { usePlantUnits } from '../../loop/use-plant-units.ts'
import ChartView from '../../ui/ChartView.vue'
import PlainTable from '../../ui/PlainTable.vue'
import { saveCsv } from '../../ui/save-csv.ts'
import type { PointsOrder, PointsReport } from './points.worker.ts'

/** The table of a transmitter that has only so many points: the best places for them, and what error is left. */
const { family, setUp, vessel, tag, loopUnit } = defineProps<{
  family: Family
  setUp: SetUp
  vessel: Vessel
  tag: string
  loopUnit: string | null
}>()
const units = usePlantUnits()

const found = shallowRef<PointsReport>(null)
const busy = ref(false)
let worker: Worker | null = null
function stop(): void {
  worker?.terminate()
  worker = null
  busy.value = false
}
function start(): void {
  stop()
  busy.value = true
  worker = new Worker(new URL('./points.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = ({ data }: MessageEvent<PointsReport>) => {
    found.value = data
    stop()
  }
  const order: PointsOrder = { family: family.id, values: { ...setUp.values } }
  worker.postMessage(order)
}
watch(() => setUp.values, start, { immediate: true })
onScopeDispose(stop)

const STEPS = 200
/** How far the straight lines between the points are from the vessel, % of full. */
const left = computed(() => {
  const f = found.value
  if (!f) return []
  const base = vessel.volume_m3(0)
  return Array.from({ length: STEPS + 1 }, (_, i) => {
    const x = i / STEPS
    const k = Math.max(
      1,
      f.points.findIndex(([p]) => p >= x),
    )
    const [[x0, v0], [x1, v1]] = [f.points[k - 1] ?? [0, 0], f.points[k] ?? [1, 1]]
    const line = v0 + ((v1 - v0) * (x - x0)) / (x1 - x0)
    return [100 * x, 100 * (line - (vessel.volume_m3(x) - base) / f.full_m3)] as const
  })
})
const curve = computed((): Chart | null =>
  found.value
    ? {
        title: 'Error left between the points',
        says: `At the most ${sayNumber(found.value.error * 100, 3)} % of full.`,
        x: { label: 'level', unit: '%' },
        y: { label: 'error of volume', unit: '%' },
        series: [
          { name: 'left', kind: 'line', points: left.value },
          { name: 'points', kind: 'points', points: found.value.points.map(([x]) => [x * 100, 0] as const) },
        ],
      }
    : null,
)
const table = computed((): Table | null => {
  const f = found.value
  if (!f) return null
  const own = {
    title: 'To be keyed in',
    columns: ['point', 'level, %', 'level, m', 'volume, %', 'volume, m³'],
    rows: f.points.map(([x, v], i) => [
      String(i + 1),
      roundText(x * 100, 3),
      roundText(x * f.span_m, 4),
      roundText(v * 100, 3),
      roundText(v * f.full_m3, 6),
    ]),
  }
  return tableIn(own, shownOn(loopUnit, units.value))
})
function csv(): void {
  if (!table.value) return
  void saveCsv(`${tag}-tank-table.csv`, [table.value.columns, ...table.value.rows])
}
</script>

<template>
  <section class="stack" aria-label="Tank table">
    <p v-if="busy || !found" role="status">Placing {{ vessel.rows }} points for the smallest error …</p>
    <template v-else>
      <p class="answer">
        {{ vessel.rows }} points leave at most
        <strong class="mono">{{ sayNumber(found.error * 100, 3) }} %</strong> of full; {{ vessel.rows }} equal
        steps would leave {{ sayNumber(found.equalStepsError * 100, 3) }} %.
      </p>
      <div class="two-sides">
        <div class="stack">
          <PlainTable v-if="table" :table="table" />
          <div class="row no-print">
            <v-btn @click="csv">Table (CSV)</v-btn>
          </div>
        </div>
        <ChartView v-if="curve" :chart="curve" />
      </div>
      <p class="small quiet">
        Every point lies on the true curve, so each row can be checked on site. Straight lines join them, as
        in the device.
      </p>
    </template>
  </section>
</template>

<style scoped>
.answer {
  font-size: var(--size-l);
}
</style>
