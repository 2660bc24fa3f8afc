<script setup lang="ts">
import { currentOfFraction } from '@calm/core/signal/current-range'
import type { Chart } from '@calm/core/chart'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { judgeReRange, rangeFigures, tripPlaces } from '@calm/core/scale/re-range'
import { stageOf, type Range } from '@calm/core/signal/stage'
import { computed, ref } from 'vue'
import { useLoop } from '../../loop/loop-store.ts'
import ChartView from '../../ui/ChartView.vue'
import FindingRow from '../../ui/FindingRow.vue'
import NumberField from '../../ui/NumberField.vue'

/** A range that is only being thought about, beside the one that is there. */
const { readonly } = defineProps<{ readonly: boolean }>()
const emit = defineEmits<{ taken: [reason: string] }>()
const loop = useLoop()
const stages = computed(() => loop.draft?.path ?? [])
const before = computed(() => stageOf(stages.value, 'transmitter')?.range ?? null)
const low = ref<number | null>(before.value?.low ?? null)
const high = ref<number | null>(before.value?.high ?? null)
const after = computed((): Range | null =>
  before.value && low.value !== null && high.value !== null
    ? { low: low.value, high: high.value, unit: before.value.unit }
    : null,
)
const trips = computed(() => loop.draft?.trips ?? [])
const findings = computed(() => (after.value ? judgeReRange(stages.value, after.value, trips.value) : []))
const sound = computed(() => after.value !== null && after.value.low !== after.value.high)
const rows = computed(() => {
  if (!before.value || !after.value || !sound.value) return []
  const unit = printedUnit(before.value.unit)
  const [a, b] = [rangeFigures(stages.value, before.value), rangeFigures(stages.value, after.value)]
  const say = (x: number | null, more = '') => (x === null ? 'not known' : `${sayNumber(x, 4)}${more}`)
  return [
    ['Span', say(a.span, ` ${unit}`), say(b.span, ` ${unit}`)],
    ['Turndown', say(a.turndown), say(b.turndown)],
    ['One code of the card', say(a.perCount, ` ${unit}`), say(b.perCount, ` ${unit}`)],
    ['0.01 mA is', say(a.perHundredthMA, ` ${unit}`), say(b.perHundredthMA, ` ${unit}`)],
    ['Accuracy (typical)', say(a.accuracy, ` ${unit}`), say(b.accuracy, ` ${unit}`)],
    ...tripPlaces(before.value, after.value, trips.value).map((t) => [
      t.name,
      `${sayNumber(t.before_mA, 5)} mA`,
      `${sayNumber(t.after_mA, 5)} mA`,
    ]),
  ]
})
const chart = computed((): Chart | null => {
  if (!before.value || !after.value || !sound.value) return null
  const [b, a] = [before.value, after.value]
  const from = Math.min(b.low, b.high, a.low, a.high)
  const to = Math.max(b.low, b.high, a.low, a.high)
  const mA = (r: Range, v: number) => currentOfFraction((v - r.low) / (r.high - r.low))
  const line = (r: Range) =>
    Array.from({ length: 61 }, (_, i) => {
      const v = from + ((to - from) * i) / 60
      return [v, mA(r, v)] as const
    })
  return {
    title: 'Current before and after',
    says: `Loop current over ${printedUnit(b.unit)} for both ranges.`,
    x: { label: 'process', unit: b.unit },
    y: { label: 'loop', unit: 'mA' },
    series: [
      { name: 'now', kind: 'line', points: line(b) },
      { name: 'proposed', kind: 'line', points: line(a) },
      ...tripPlaces(before.value, after.value, trips.value).map((t) => ({
        name: t.name,
        kind: 'limit' as const,
        points: [[t.at, 3.8] as const, [t.at, 20.5] as const],
      })),
    ],
  }
})
const changed = computed(
  () => sound.value && (after.value?.low !== before.value?.low || after.value?.high !== before.value?.high),
)
function take(): void {
  const r = after.value
  if (!r) return
  loop.setField('path.transmitter.range.low', r.low)
  loop.setField('path.transmitter.range.high', r.high)
  emit('taken', `re-ranged to ${sayNumber(r.low)} to ${sayNumber(r.high)} ${printedUnit(r.unit)}`)
}
</script>

<template>
  <div v-if="before" class="two-sides">
    <section class="stack" aria-label="Proposed range">
      <h2>Try another range</h2>
      <p class="small quiet">Nothing is changed until it is taken, and nothing is sent to a device.</p>
      <div class="field-grid">
        <NumberField v-model="low" label="Proposed 4 mA point" :unit="before.unit" :readonly="readonly" />
        <NumberField v-model="high" label="Proposed 20 mA point" :unit="before.unit" :readonly="readonly" />
      </div>
      <table v-if="rows.length > 0">
        <thead>
          <tr>
            <th scope="col"></th>
            <th scope="col">now</th>
            <th scope="col">proposed</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r[0]">
            <th scope="row">{{ r[0] }}</th>
            <td class="mono">{{ r[1] }}</td>
            <td class="mono">{{ r[2] }}</td>
          </tr>
        </tbody>
      </table>
      <div v-if="!readonly" class="row">
        <v-btn :disabled="!changed" @click="take">Take this range</v-btn>
      </div>
    </section>
    <section class="stack" aria-label="What it changes">
      <ChartView v-if="chart" :chart="chart" />
      <FindingRow v-for="f in findings" :key="f.code + f.where.join()" :finding="f" />
    </section>
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: right;
  font-weight: 400;
  padding: 6px 8px;
  border-bottom: var(--line) solid var(--hair);
}
th:first-child {
  text-align: left;
}
</style>
