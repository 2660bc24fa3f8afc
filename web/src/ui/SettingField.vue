<script setup lang="ts">
import { labelOf, type Setting, type SettingValue, type TableRows } from '@calm/core/quantity/setting'
import { computed } from 'vue'
import type { WantedUnits } from '@calm/core/quantity/asked-in'
import { shownIn, valueIn } from '@calm/core/quantity/shown-in'
import { isUnitSymbol } from '@calm/core/quantity/units'
import NumberField from './NumberField.vue'
import TableField from './TableField.vue'

/** One entry of a set-up, whatever its kind. */
const {
  setting,
  value,
  loopUnit = null,
  units = {},
  error = null,
  typed = null,
  assumed = false,
  readonly = false,
} = defineProps<{
  setting: Setting
  value: SettingValue
  /** Unit of the loop: an entry of the same kind is shown and typed in it. */
  loopUnit?: string | null
  /** Units that the plant wants for others. */
  units?: WantedUnits
  error?: string | null
  /** As somebody typed it, with its unit. */
  typed?: string | null
  /** Nobody typed or confirmed it. */
  assumed?: boolean
  readonly?: boolean
}>()
/** A longer list is found by typing. */
const MANY = 8
const unit = computed(() => (setting.kind === 'number' ? shownIn(setting.unit, loopUnit, units) : ''))
const named = computed(() => labelOf(setting.title))
const below = computed(() =>
  [assumed ? 'assumed' : null, named.value.hint].filter((x) => x !== null).join('; '),
)
const emit = defineEmits<{ set: [name: string, value: SettingValue]; typed: [name: string, text: string] }>()
/** Who opens a list and takes what stands there has chosen it: the list itself tells only of another one. */
function same(chosen: unknown): void {
  if (chosen === value && !readonly) emit('set', setting.name, value)
}
</script>

<template>
  <NumberField
    v-if="setting.kind === 'number'"
    :model-value="valueIn(Number(value), setting.unit, unit)"
    :label="setting.unit && !isUnitSymbol(setting.unit) ? `${named.label}, ${setting.unit}` : named.label"
    :hint="named.hint"
    :unit="isUnitSymbol(setting.unit) ? unit : null"
    :error="error"
    :typed="typed"
    :unconfirmed="assumed"
    :readonly="readonly"
    @update:model-value="$event !== null && emit('set', setting.name, valueIn($event, unit, setting.unit))"
    @typed="emit('typed', setting.name, $event)"
  />
  <v-autocomplete
    v-else-if="setting.kind === 'choice' && setting.options.length > MANY"
    :model-value="String(value)"
    :items="setting.options"
    :label="named.label"
    :error-messages="error ?? undefined"
    :messages="below"
    :readonly="readonly"
    auto-select-first
    @update:model-value="$event && emit('set', setting.name, String($event))"
  >
    <template #item="{ props: row }">
      <v-list-item v-bind="row" @click="same(row['value'])" />
    </template>
  </v-autocomplete>
  <v-select
    v-else-if="setting.kind === 'choice'"
    :model-value="String(value)"
    :items="setting.options"
    :label="named.label"
    :error-messages="error ?? undefined"
    :messages="below"
    :readonly="readonly"
    @update:model-value="emit('set', setting.name, String($event))"
  >
    <template #item="{ props: row }">
      <v-list-item v-bind="row" @click="same(row['value'])" />
    </template>
  </v-select>
  <v-checkbox
    v-else-if="setting.kind === 'flag'"
    :model-value="value === true"
    :label="assumed ? `${setting.title} (assumed)` : setting.title"
    :readonly="readonly"
    @update:model-value="emit('set', setting.name, $event === true)"
  />
  <TableField
    v-else-if="setting.kind === 'table'"
    :setting="setting"
    :value="Array.isArray(value) ? (value as TableRows) : []"
    :error="error"
    :readonly="readonly"
    @set="emit('set', setting.name, $event)"
  />
  <v-text-field
    v-else
    :model-value="String(value)"
    :label="named.label"
    :error-messages="error ?? undefined"
    :messages="named.hint ?? undefined"
    :readonly="readonly"
    class="mono-field"
    autocomplete="off"
    @update:model-value="emit('set', setting.name, $event)"
  />
</template>
