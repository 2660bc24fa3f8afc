<script setup lang="ts">
import type { Setting, SettingValue } from '@calm/core/quantity/setting'
import { sayNumber } from '@calm/core/quantity/round'
import { isUnitSymbol, printedUnit } from '@calm/core/quantity/units'

/** Entries that nobody confirmed and that results rest on: each, or all, confirmed by one touch. */
const {
  assumed,
  valueOf,
  readonly = false,
} = defineProps<{
  assumed: readonly Setting[]
  valueOf: (name: string) => SettingValue
  readonly?: boolean
}>()
const emit = defineEmits<{ confirm: [names: readonly string[]] }>()
function say(s: Setting): string {
  const value = valueOf(s.name)
  if (s.kind === 'choice') return s.options.find((o) => o.value === value)?.title ?? String(value)
  if (s.kind === 'flag') return value === true ? 'yes' : 'no'
  if (s.kind !== 'number') return typeof value === 'string' && value !== '' ? value : 'nothing'
  const unit = isUnitSymbol(s.unit) ? printedUnit(s.unit) : s.unit
  return `${sayNumber(Number(value), 7)}${unit === '' ? '' : ` ${unit}`}`
}
</script>

<template>
  <details v-if="assumed.length > 0" class="rests">
    <summary>Rests on {{ assumed.length }} {{ assumed.length === 1 ? 'assumption' : 'assumptions' }}</summary>
    <ul>
      <li v-for="s in assumed" :key="s.name" class="row">
        <span>{{ s.title }}</span>
        <span class="mono assumed">{{ say(s) }}</span>
        <v-btn v-if="!readonly" variant="text" @click="emit('confirm', [s.name])">Confirm</v-btn>
      </li>
    </ul>
    <v-btn
      v-if="!readonly && assumed.length > 1"
      variant="outlined"
      @click="
        emit(
          'confirm',
          assumed.map((s) => s.name),
        )
      "
      >Confirm all {{ assumed.length }}</v-btn
    >
  </details>
</template>

<style scoped>
.rests {
  border: var(--line) dashed var(--accent);
  border-radius: var(--corner);
  padding: 0 12px;
  margin-bottom: 12px;
}
.rests[open] {
  padding-bottom: 12px;
}
ul {
  list-style: none;
  padding: 0;
  margin: 8px 0;
}
li {
  min-height: var(--row);
  border-bottom: var(--line) solid var(--hair);
}
li > :first-child {
  flex: 1;
}
.assumed {
  color: transparent;
  -webkit-text-stroke: 0.7px var(--accent);
}
</style>
