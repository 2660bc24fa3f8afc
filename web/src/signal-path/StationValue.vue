<script setup lang="ts">
import { printedUnit } from '@calm/core/quantity/units'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { nextTick, ref, useTemplateRef } from 'vue'
import type { ShownStation, SignalPathWork } from './use-signal-path.ts'

/** One station's value on the line, to be typed over; arrow keys go to its neighbours. */
const { path, shown, at } = defineProps<{ path: SignalPathWork; shown: ShownStation; at: number }>()
const editing = ref(false)
const draft = ref('')
const field = useTemplateRef<HTMLInputElement>('field')

function begin(): void {
  editing.value = true
  draft.value = path.origin.value === at && path.typed.value !== null ? path.typed.value : shown.text
  void nextTick(() => field.value?.select())
}
function input(event: Event): void {
  draft.value = (event.target as HTMLInputElement).value
  path.type(at, draft.value)
}
function end(): void {
  // A wrong text stays in its field until it is mended.
  if (path.trouble.value === null) editing.value = false
}
function go(by: 1 | -1, event: KeyboardEvent): void {
  const mine = event.target as HTMLInputElement
  const atEdge = by < 0 ? mine.selectionStart === 0 : mine.selectionEnd === mine.value.length
  const whole = mine.selectionStart === 0 && mine.selectionEnd === mine.value.length
  if (!whole && !atEdge) return
  event.preventDefault()
  const all = [...(mine.closest('.stations')?.querySelectorAll('input') ?? [])]
  all[all.indexOf(mine) + by]?.focus()
}
</script>

<template>
  <span v-if="shown.sign" class="sign mono">{{ shown.sign }}</span>
  <input
    ref="field"
    class="mono"
    :class="{ origin: shown.isOrigin, wrong: path.trouble.value?.at === at }"
    inputmode="decimal"
    autocomplete="off"
    :value="editing ? draft : shown.text"
    :size="Math.max(3, shown.text.length)"
    :aria-label="`${STATION_NAMES[shown.station.kind]}, ${printedUnit(shown.station.unit)}`"
    :aria-invalid="path.trouble.value?.at === at"
    :data-station="shown.station.id"
    @focus="begin"
    @input="input"
    @blur="end"
    @keydown.left="go(-1, $event)"
    @keydown.right="go(1, $event)"
  />
</template>

<style scoped>
input {
  width: 100%;
  min-width: 0;
  border: 0;
  border-bottom: var(--line) solid transparent;
  background: transparent;
  color: var(--ink);
  padding: 0;
}
input:hover {
  border-bottom-color: var(--hair);
}
.origin {
  color: var(--accent);
  border-bottom-color: var(--accent);
}
.wrong {
  color: var(--stop);
  border-bottom: 2px solid var(--stop);
}
.sign {
  padding-right: 4px;
}
</style>
