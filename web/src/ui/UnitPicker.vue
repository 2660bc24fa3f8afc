<script setup lang="ts">
import { unitsLike } from '@calm/core/quantity/unit-search'
import { findUnit, printedUnit } from '@calm/core/quantity/units'
import { computed, shallowRef } from 'vue'

/** A unit of the kind that is there, however people write it; what is common stands first. */
const {
  label = 'Unit',
  readonly = false,
  any = false,
} = defineProps<{
  label?: string
  readonly?: boolean
  /** Units of every kind are offered. */
  any?: boolean
}>()
const model = defineModel<string>({ required: true })
const typed = shallowRef('')
const items = computed(() => {
  const now = findUnit(model.value)
  // What stands in the field is not what is looked for.
  const asked = typed.value === printedUnit(model.value) ? '' : typed.value
  return unitsLike(asked, any ? null : (now?.dimension ?? null)).map((u) => ({
    value: u.symbol,
    title: printedUnit(u.symbol),
    group: u.dimension.replace(/_/g, ' '),
  }))
})
</script>

<template>
  <v-autocomplete
    v-model="model"
    v-model:search="typed"
    :items="items"
    no-filter
    :label="label"
    :readonly="readonly"
    class="mono-field"
    auto-select-first
    no-data-text="No unit is written like that."
    :menu-icon="readonly ? '' : undefined"
  >
    <template #item="{ props: p, item }">
      <v-list-item v-bind="p" :subtitle="item.group" />
    </template>
  </v-autocomplete>
</template>
