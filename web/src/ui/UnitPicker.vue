<script setup lang="ts">
import { unitsLike } from '@calm/core/quantity/unit-search'
import { findUnit, printedUnit } from '@calm/core/quantity/units'
import { bareWater, waterColumn } from '@calm/core/quantity/water-column'
import { settings } from '@calm/contract/api/addresses'
import { computed, shallowRef } from 'vue'
import { useLive } from '../api/live-cache.ts'
import { useSession } from '../api/session-store.ts'
import WaterQuestion from './WaterQuestion.vue'

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
const session = useSession()
const rules = useLive(settings.rules, () => (session.person ? {} : null))
const water = computed(() => rules.data.value?.water ?? null)
/** Asked where it matters first: somebody looks for a water column and the plant has not said how it counts them. */
const asksWater = computed(
  () =>
    !readonly &&
    session.mayWrite &&
    rules.data.value?.water === null &&
    (bareWater(typed.value) !== null || waterColumn(model.value) !== null),
)
const items = computed(() => {
  const now = findUnit(model.value)
  // What stands in the field is not what is looked for.
  const asked = typed.value === printedUnit(model.value) ? '' : typed.value
  return unitsLike(asked, any ? null : (now?.dimension ?? null), water.value).map((u) => ({
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
    no-data-text="No unit matches."
    :menu-icon="readonly ? '' : undefined"
  >
    <template v-if="asksWater" #prepend-item><WaterQuestion /></template>
    <template #item="{ props: p, item }">
      <v-list-item v-bind="p" :subtitle="item.group" />
    </template>
  </v-autocomplete>
</template>
