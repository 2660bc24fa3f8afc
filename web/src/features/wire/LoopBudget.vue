<script setup lang="ts">
import { budgetChart } from '@calm/core/wire/budget-chart'
import { sayNumber } from '@calm/core/quantity/round'
import { CABLE_SIZES } from '@calm/core/part/kinds/cable'
import type { Wiring } from '@calm/core/part/wiring'
import { budgetOf, NO_TRIAL, type BudgetTrial } from '@calm/core/wire/budget-from-wiring'
import { loopBudget } from '@calm/core/wire/loop-budget'
import { computed, ref } from 'vue'
import FindingRow from '../../ui/FindingRow.vue'
import NumberField from '../../ui/NumberField.vue'
import ChartView from '../../ui/ChartView.vue'
import { budgetFinding } from './budget-words.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** Volts left at the transmitter over the whole current range, and what would change it. */
const { wiring, lit } = defineProps<{ wiring: Wiring; lit: boolean }>()
// What the set-up says of the display is no trial: it is tried without.
const trial = ref<BudgetTrial>({ ...NO_TRIAL, backlight: lit })
const wired = computed(() => budgetOf(wiring, trial.value))
const budget = computed(() => (wired.value ? loopBudget(wired.value.input) : null))
const finding = computed(() =>
  wired.value && budget.value ? budgetFinding(wired.value, budget.value) : null,
)
const sizes = computed(() =>
  Object.entries(CABLE_SIZES).flatMap(([size, title]) => {
    const b = budgetOf(wiring, { ...trial.value, size })
    const worst = b && loopBudget(b.input).rows.at(-1)
    return worst ? [{ size, title, metres: worst.lMax }] : []
  }),
)
const sizeItems = [
  { value: null, title: 'as wired' },
  ...Object.entries(CABLE_SIZES).map(([value, title]) => ({ value, title })),
]
const HART: Readonly<Record<string, string>> = {
  OK: 'enough for a digital signal',
  MARGINAL: 'a little low for a digital signal (250 Ω is usual)',
  CHECK: 'high for a digital signal: check supply and cable capacitance',
  FAIL: 'no digital signal: it needs 230 to 1100 Ω between communicator and supply',
}
</script>

<template>
  <section v-if="wired && budget" class="two-sides" aria-label="Loop budget">
    <div class="stack">
      <h2>Try</h2>
      <div class="field-grid">
        <NumberField
          :model-value="trial.cable_m ?? wired.input.cable.length"
          label="Cable, one way"
          unit="m"
          @update:model-value="trial = { ...trial, cable_m: $event === null ? null : Math.max(0, $event) }"
        />
        <v-select v-model="trial.size" :items="sizeItems" label="Conductor" />
        <NumberField
          :model-value="trial.hottest_C ?? wired.input.cable.tempC ?? 40"
          label="Hottest cable"
          unit="degC"
          @update:model-value="trial = { ...trial, hottest_C: $event }"
        />
        <NumberField
          :model-value="trial.extra_V"
          label="Options that need more"
          unit="V"
          @update:model-value="trial = { ...trial, extra_V: $event ?? 0 }"
        />
      </div>
      <v-checkbox v-model="trial.hartResistor" label="250 Ω more for a digital signal" />
      <v-checkbox v-model="trial.backlight" label="Display backlight on" />
      <table>
        <caption>
          Where the volts go, besides the cable
        </caption>
        <tbody class="mono">
          <tr v-for="i in wired.items" :key="i.part">
            <th scope="row">{{ i.part }}</th>
            <td>{{ i.volts > 0 ? `${sayNumber(i.volts)} V` : '' }}</td>
            <td>{{ i.ohm > 0 ? `${sayNumber(i.ohm)} Ω` : '' }}</td>
          </tr>
          <tr>
            <th scope="row">cable, both ways</th>
            <td></td>
            <td>{{ sayNumber(budget.rCable, 4) }} Ω</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="stack">
      <FindingRow v-if="finding" :finding="finding" />
      <ChartView :chart="budgetChart(wired, budget)" :height="320" />
      <div v-key-scroll class="scroll" aria-label="Budget at each current, scrolls sideways">
        <table>
          <thead>
            <tr>
              <th scope="col">Current</th>
              <th scope="col">At {{ wired.device }}</th>
              <th scope="col">Left over</th>
              <th scope="col">Largest loop</th>
              <th scope="col">Longest cable</th>
            </tr>
          </thead>
          <tbody class="mono">
            <tr v-for="r in budget.rows" :key="r.i">
              <th scope="row">{{ sayNumber(r.i * 1000) }} mA</th>
              <td>{{ r.vTerm.toFixed(2) }} V</td>
              <td :class="{ bad: r.margin < 0 }">{{ r.margin.toFixed(2) }} V</td>
              <td>{{ r.rMax.toFixed(0) }} Ω</td>
              <td>{{ r.lMax.toFixed(0) }} m</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p class="small">
        <strong>Longest cable at 22.5 mA, one way:</strong>
        <span v-for="s in sizes" :key="s.size" class="mono size"
          >{{ s.title }} {{ s.metres.toFixed(0) }} m</span
        >
      </p>
      <p class="small quiet">
        Signal resistance {{ sayNumber(wired.input.rHart, 4) }} Ω: {{ HART[budget.hart] }}. Supply taken at
        its lowest, {{ sayNumber(wired.input.supplyMin) }} V; every loop counts out and back.
      </p>
    </div>
  </section>
  <p v-else class="quiet">
    There is no transmitter on this bench that lives on the loop’s volts, or nothing that feeds it; so there
    is no budget to work out.
  </p>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
caption {
  text-align: left;
  font-weight: 600;
  padding-bottom: 4px;
}
th,
td {
  padding: 6px 8px;
  border-bottom: var(--line) solid var(--hair);
  text-align: right;
  white-space: nowrap;
}
th[scope='row'] {
  text-align: left;
  font-weight: 400;
}
.bad {
  color: var(--stop);
  font-weight: 700;
}
.size {
  display: inline-block;
  margin-left: 14px;
}
</style>
