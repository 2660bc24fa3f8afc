<script setup lang="ts">
import type { PastColumn } from '@calm/core/record/past/read-past'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { appliedAt, loopScale } from '@calm/core/verify/reading-errors'
import { computed, ref } from 'vue'
import { useLoop } from './loop-store.ts'

/** One earlier certificate as it is read off its paper: it joins the table, and is looked at and kept with it. */
const emit = defineEmits<{ add: [rows: Partial<Record<PastColumn, string>>[]] }>()
const loop = useLoop()
const scale = computed(() => loopScale(loop.detail?.document.path ?? []))
const unit = (u: string | undefined) => (u === undefined ? '' : printedUnit(u))
interface Point {
  readonly applied: string
  readonly found: string
  readonly left: string
}
const LEVELS = [0, 25, 50, 75, 100]
const empty = (): Point[] =>
  LEVELS.map((level) => ({
    applied: scale.value ? sayNumber(appliedAt(scale.value, level), 6) : '',
    found: '',
    left: '',
  }))
const on = ref('')
const number = ref('')
const by = ref('')
const points = ref<Point[]>(empty())
const read = computed(() => points.value.filter((p) => p.found.trim() !== '' && p.applied.trim() !== ''))
function change(i: number, more: Partial<Point>): void {
  points.value = points.value.map((p, k) => (k === i ? { ...p, ...more } : p))
}
function add(): void {
  emit(
    'add',
    read.value.map((p, i) => ({
      ...p,
      // The paper is told once, in its first row.
      ...(i === 0 ? { on: on.value, number: number.value, by: by.value } : {}),
    })),
  )
  on.value = ''
  number.value = ''
  points.value = empty()
}
const COLUMNS = [
  { of: 'applied', title: 'Applied' },
  { of: 'found', title: 'As found' },
  { of: 'left', title: 'As left' },
] as const
</script>

<template>
  <div class="stack">
    <div class="field-grid">
      <v-text-field v-model="on" label="Day of the certificate" type="date" hide-details />
      <v-text-field v-model="number" label="Its number" maxlength="60" hide-details />
      <v-text-field v-model="by" label="Done by" maxlength="120" hide-details />
    </div>
    <table>
      <thead>
        <tr>
          <th v-for="c in COLUMNS" :key="c.of" scope="col">
            {{ c.title }}
            <span class="quiet mono small">{{
              unit(c.of === 'applied' ? scale?.input.unit : scale?.output.unit)
            }}</span>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(p, i) in points" :key="i">
          <td v-for="c in COLUMNS" :key="c.of">
            <v-text-field
              :model-value="p[c.of]"
              class="mono-field"
              inputmode="decimal"
              maxlength="30"
              :aria-label="`${c.title}, point ${i + 1}`"
              hide-details
              @update:model-value="change(i, { [c.of]: $event })"
            />
          </td>
        </tr>
      </tbody>
    </table>
    <div class="row">
      <v-btn variant="text" @click="points = [...points, { applied: '', found: '', left: '' }]"
        >Another point</v-btn
      >
      <v-btn :disabled="on === '' || read.length === 0" @click="add">Add it to the table</v-btn>
    </div>
  </div>
</template>

<style scoped>
table {
  width: 100%;
  border-spacing: 6px;
}
th {
  text-align: left;
}
</style>
