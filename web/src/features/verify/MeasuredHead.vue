<script setup lang="ts">
import { PULSES_PER, type PulsesPer } from '@calm/core/verify/measured-reference'
import { printedUnit } from '@calm/core/quantity/units'
import NumberField from '../../ui/NumberField.vue'
import type { MeasuredHow } from './use-comparison.ts'

/** What holds for all runs of a catch or of a draw-down, and how well each is known. */
const { by } = defineProps<{ by: 'weighed' | 'drawn' | 'counted'; needsDensity: boolean }>()
const how = defineModel<MeasuredHow>({ required: true })
const set = (name: Exclude<keyof MeasuredHow, 'per'>, value: number | null) =>
  (how.value = { ...how.value, [name]: value })
</script>

<template>
  <div class="field-grid">
    <template v-if="by === 'weighed'">
      <NumberField
        v-if="needsDensity"
        label="Density of what is caught"
        unit="kg/m3"
        :model-value="how.density_kg_m3"
        @update:model-value="set('density_kg_m3', $event)"
      />
      <NumberField
        v-if="needsDensity"
        label="Density known to ± %"
        :model-value="how.densityU_pct"
        @update:model-value="set('densityU_pct', $event)"
      />
      <NumberField
        label="Scale, ±"
        unit="kg"
        :model-value="how.massU_kg"
        @update:model-value="set('massU_kg', $event)"
      />
    </template>
    <template v-else-if="by === 'counted'">
      <NumberField label="Pulses for one unit" :model-value="how.K" @update:model-value="set('K', $event)" />
      <v-select
        label="They count"
        hide-details
        :items="PULSES_PER.map((value) => ({ value, title: printedUnit(value) }))"
        :model-value="how.per"
        @update:model-value="(per: PulsesPer) => (how = { ...how, per })"
      />
      <NumberField
        label="Factor known to ± %"
        :model-value="how.KU_pct"
        @update:model-value="set('KU_pct', $event)"
      />
    </template>
    <template v-else>
      <NumberField
        label="Inner diameter of the tank"
        unit="m"
        :model-value="how.diameter_m"
        @update:model-value="set('diameter_m', $event)"
      />
      <NumberField
        label="Diameter, ±"
        unit="m"
        :model-value="how.diameterU_m"
        @update:model-value="set('diameterU_m', $event)"
      />
      <NumberField
        label="Each level, ±"
        unit="m"
        :model-value="how.levelU_m"
        @update:model-value="set('levelU_m', $event)"
      />
    </template>
    <NumberField
      label="Start and stop, ±"
      unit="s"
      :model-value="how.startStop_s"
      @update:model-value="set('startStop_s', $event)"
    />
  </div>
</template>
