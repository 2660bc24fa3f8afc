<script setup lang="ts">
import { THERMOCOUPLES, type Thermocouple } from '@calm/core/family/temperature/thermocouple'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit, unitOf } from '@calm/core/quantity/units'
import { appliedSpan } from '@calm/core/record/applied-law'
import type { AppliedLaw } from '@calm/core/record/kinds/applied'
import type { Range } from '@calm/core/signal/stage'
import { computed, ref, watch } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import UnitPicker from '../../ui/UnitPicker.vue'

/** What the standard gives: the loop's own quantity, or another one that stands for it. */
const { range, sensor } = defineProps<{
  range: Range
  /** The sensor that the loop's set-up tells: pt100, pt1000 or the letter of a thermocouple; null where it tells none. */
  sensor: string | null
}>()
const model = defineModel<AppliedLaw | null>({ required: true })
const usable = defineModel<boolean>('usable', { default: true })

const isTemperature = unitOf(range.unit).dimension === 'temperature'
const couple = ref<Thermocouple>(THERMOCOUPLES.find((t) => t === sensor) ?? 'K')
const r0 = ref<number | null>(sensor === 'pt1000' ? 1000 : 100)
const junction = ref<number | null>(null)
const unit = ref('V')
const low = ref<number | null>(null)
const high = ref<number | null>(null)
type Choice = 'own' | 'resistance' | 'thermocouple' | 'linear'
const choice = ref<Choice>('own')
const items = computed(() => [
  { value: 'own', title: `The loop’s own quantity, ${printedUnit(range.unit)}` },
  ...(isTemperature
    ? [
        { value: 'resistance', title: 'Resistance: a decade in Ω' },
        { value: 'thermocouple', title: 'Voltage: a source in mV' },
      ]
    : []),
  { value: 'linear', title: 'Another quantity, in proportion: V, mA, Hz, mm, kg …' },
])
const law = computed((): AppliedLaw | string | null => {
  switch (choice.value) {
    case 'own':
      return null
    case 'resistance':
      return r0.value !== null && r0.value > 0 && r0.value <= 10_000
        ? { kind: 'resistance', r0_ohm: r0.value }
        : 'Type the resistance at 0 °C, above 0 and at most 10 000 Ω.'
    case 'thermocouple':
      return junction.value !== null && junction.value >= -40 && junction.value <= 100
        ? { kind: 'thermocouple', type: couple.value, junction_C: junction.value }
        : 'Measure the temperature at the terminals and type it, -40 to 100 °C: the voltage to set follows from it.'
    case 'linear':
      return low.value !== null && high.value !== null && low.value !== high.value
        ? { kind: 'linear', unit: unit.value, low: low.value, high: high.value }
        : 'Type what is set for both ends of the range; they must differ.'
  }
})
const span = computed(() =>
  law.value !== null && typeof law.value !== 'string' ? appliedSpan(law.value, range) : null,
)
const says = computed(() => {
  if (typeof law.value === 'string') return law.value
  return law.value !== null && span.value === null
    ? `The table does not reach over ${sayNumber(range.low)} to ${sayNumber(range.high)} ${printedUnit(range.unit)}.`
    : null
})
watch(
  [law, says],
  () => {
    usable.value = says.value === null
    model.value = typeof law.value === 'string' ? null : law.value
  },
  { immediate: true },
)
</script>

<template>
  <v-select v-model="choice" :items="items" label="The standard gives" />
  <div v-if="choice === 'resistance'" class="field-grid">
    <NumberField v-model="r0" label="Resistance at 0 °C" unit="ohm" />
  </div>
  <div v-else-if="choice === 'thermocouple'" class="field-grid">
    <v-select v-model="couple" :items="[...THERMOCOUPLES]" label="Thermocouple type" />
    <NumberField v-model="junction" label="At the terminals" unit="degC" />
  </div>
  <template v-else-if="choice === 'linear'">
    <UnitPicker v-model="unit" label="It is set in" any />
    <div class="field-grid">
      <NumberField
        v-model="low"
        :label="`Set for ${sayNumber(range.low)} ${printedUnit(range.unit)}`"
        :unit="unit"
      />
      <NumberField
        v-model="high"
        :label="`Set for ${sayNumber(range.high)} ${printedUnit(range.unit)}`"
        :unit="unit"
      />
    </div>
  </template>
  <p v-if="says" class="says small" role="status">{{ says }}</p>
  <p v-else-if="span" class="quiet small">
    Over the range {{ sayNumber(span.low, 5) }} to {{ sayNumber(span.high, 5) }}
    {{ printedUnit(span.unit) }} are set; each point says how much.
  </p>
</template>

<style scoped>
.says {
  padding: 6px 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
</style>
