<script setup lang="ts">
import { PULSES_PER, type Measured, type PulsesPer } from '@calm/core/verify/measured-reference'
import { printedUnit } from '@calm/core/quantity/units'
import { computed } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import type { MeasuredHow } from './use-comparison.ts'

/** What holds for all runs of a catch, a draw-down or a count, and how well each is known. */
const { by, needsDensity } = defineProps<{ by: Measured['by']; needsDensity: boolean }>()
const how = defineModel<MeasuredHow>({ required: true })
interface Field {
  readonly name: Exclude<keyof MeasuredHow, 'per'>
  readonly label: string
  readonly unit?: string
  /** Asked for only where the density plays a part. */
  readonly ofDensity?: true
}
const FIELDS: Readonly<Record<Measured['by'], readonly Field[]>> = {
  weighed: [
    { name: 'density_kg_m3', label: 'Density of what is caught', unit: 'kg/m3', ofDensity: true },
    { name: 'densityU_pct', label: 'Density known to ± %', ofDensity: true },
    { name: 'massU_kg', label: 'Scale, ±', unit: 'kg' },
  ],
  counted: [
    { name: 'K', label: 'Pulses for one unit' },
    { name: 'KU_pct', label: 'Factor known to ± %' },
  ],
  drawn: [
    { name: 'diameter_m', label: 'Inner diameter of the tank', unit: 'm' },
    { name: 'diameterU_m', label: 'Diameter, ±', unit: 'm' },
    { name: 'levelU_m', label: 'Each level, ±', unit: 'm' },
  ],
}
const CLOCK: Field = { name: 'startStop_s', label: 'Start and stop, ±', unit: 's' }
const fields = computed(() => [...FIELDS[by].filter((f) => needsDensity || !f.ofDensity), CLOCK])
</script>

<template>
  <div class="field-grid">
    <v-select
      v-if="by === 'counted'"
      label="They count"
      hide-details
      :items="PULSES_PER.map((value) => ({ value, title: printedUnit(value) }))"
      :model-value="how.per"
      @update:model-value="(per: PulsesPer) => (how = { ...how, per })"
    />
    <NumberField
      v-for="f in fields"
      :key="f.name"
      :label="f.label"
      :unit="f.unit ?? null"
      :model-value="how[f.name]"
      @update:model-value="how = { ...how, [f.name]: $event }"
    />
  </div>
</template>
