<script setup lang="ts">
import { sayNumber, withUncertainty } from '@calm/core/quantity/round'
import { budgetTable, type ComparisonExtras } from '@calm/core/verify/comparison-budget'
import { riskOf, sayRisk, type DecisionRule } from '@calm/core/verify/decision'
import { toleranceAt, type Tolerance } from '@calm/core/verify/tolerance'
import { computed } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import PlainTable from '../../ui/PlainTable.vue'
import StateMark from '../../ui/StateMark.vue'
import type { useBudget } from './use-budget.ts'

/** How sure the comparison is, line by line, and whether that is enough for the tolerance. */
const { budget, span, tolerance, rule } = defineProps<{
  budget: ReturnType<typeof useBudget>
  /** Span of the range, in its unit: what a tolerance in that unit is held against. */
  span: number
  tolerance: Tolerance
  rule: DecisionRule
}>()
const extras = defineModel<ComparisonExtras>('extras', { required: true })
const set = (name: keyof ComparisonExtras, value: number | null) =>
  (extras.value = { ...extras.value, [name]: value })
const made = computed(() => budget.made.value)
const table = computed(() => budgetTable(made.value.lines, made.value.budget))
const U = computed(() => budget.agreed.value?.U_pct ?? 0)
/** Tolerance in the middle of the range, % of span: the ratio is told for one place. */
const T_pct = computed(() => (100 * toleranceAt(tolerance, span, span / 2)) / span)
const ratio = computed(() => (U.value > 0 ? T_pct.value / U.value : null))
const risk = computed(() => riskOf(rule, T_pct.value, U.value))
const ENOUGH = 4
const FIELDS: readonly (readonly [keyof ComparisonExtras, string, string | null])[] = [
  ['repeat_pct', 'Scatter of repeated readings, % of span', null],
  ['repeats', 'Readings it was taken from', null],
  ['temperature_pct_C', 'Temperature effect, % of span per °C', null],
  ['temperature_C', '°C away from the calibration', null],
  ['height_m', 'Height to the device known to ±', 'm'],
  ['density_kg_m3', 'Density of what fills the line', 'kg/m3'],
  ['shunt_pct', 'Volts are read: resistor known to ±, %', null],
]
</script>

<template>
  <section class="stack budget" aria-label="Uncertainty">
    <p v-for="m in made.missing" :key="m" class="missing">{{ m }}</p>
    <p v-if="made.missing.length > 0" class="quiet">
      No uncertainty is claimed while something is missing: the verdict will say that it was not stated.
    </p>
    <template v-if="made.lines.length > 0">
      <p v-if="made.missing.length === 0">
        The comparison is known to
        <strong class="mono">±{{ withUncertainty(0, U).uncertainty }} %</strong> of span (k =
        {{ sayNumber(made.budget.k, 4) }}).
        <StateMark
          v-if="ratio !== null"
          :state="ratio >= ENOUGH ? 'good' : ratio >= 1 ? 'look' : 'stop'"
          :word="`tolerance is ${sayNumber(ratio, 2)} times that`"
        />
      </p>
      <p v-if="risk" class="small">{{ sayRisk(risk) }}</p>
      <PlainTable :table="table" />
      <div class="row">
        <v-btn v-if="budget.share.value === null" variant="text" @click="budget.start"
          >Prove it by trials</v-btn
        >
        <template v-else>
          <v-progress-linear
            :model-value="100 * budget.share.value"
            height="8"
            color="primary"
            aria-label="Trials done"
          />
          <v-btn variant="text" @click="budget.cancel">Cancel</v-btn>
        </template>
      </div>
      <p v-if="budget.tried.value" role="status">
        {{ (budget.tried.value.result.blocks * 10_000).toLocaleString('en') }} trials:
        {{ sayNumber(budget.tried.value.result.low, 3) }} to
        {{ sayNumber(budget.tried.value.result.high, 3) }} % in 95 of 100 cases.
        {{
          budget.tried.value.validated
            ? 'The formula holds.'
            : 'The formula is not borne out to two digits: the trials’ interval is used.'
        }}
        <span class="small quiet">Seed {{ budget.tried.value.result.seed }}.</span>
      </p>
    </template>
    <details>
      <summary>What adds to it</summary>
      <div class="field-grid">
        <NumberField
          v-for="[name, label, unit] in FIELDS"
          :key="name"
          :label="label"
          :unit="unit"
          :model-value="extras[name]"
          @update:model-value="set(name, $event)"
        />
      </div>
    </details>
  </section>
</template>

<style scoped>
.budget {
  padding: 12px 16px;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.missing {
  padding: 6px 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
</style>
