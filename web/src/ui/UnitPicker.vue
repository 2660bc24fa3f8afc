<script setup lang="ts">
import { printedUnit, UNITS } from '@calm/core/quantity/units'

/** Any unit of the product, found by typing. */
const { label = 'Unit', readonly = false } = defineProps<{ label?: string; readonly?: boolean }>()
const model = defineModel<string>({ required: true })
const items = UNITS.map((u) => ({
  value: u.symbol,
  title: printedUnit(u.symbol),
  group: u.dimension.replace(/_/g, ' '),
}))
</script>

<template>
  <v-autocomplete
    v-model="model"
    :items="items"
    :label="label"
    :readonly="readonly"
    class="mono-field"
    auto-select-first
    :menu-icon="readonly ? '' : undefined"
  >
    <template #item="{ props: p, item }">
      <v-list-item v-bind="p" :subtitle="item.group" />
    </template>
  </v-autocomplete>
</template>
