<script setup lang="ts">
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref, watch } from 'vue'

/**
 * A number with its unit. Takes a decimal comma or point and another unit of the same kind behind the
 * number; keeps what was typed and shows the value used beside it. Empty is null, never 0.
 */
const {
  label,
  unit = null,
  typed = null,
  error = null,
  hint = null,
  unconfirmed = false,
  readonly = false,
} = defineProps<{
  label: string
  unit?: string | null
  /** The text a person typed for this value, if it is known. */
  typed?: string | null
  error?: string | null
  /** Said below the field where nothing else has to be. */
  hint?: string | null
  unconfirmed?: boolean
  readonly?: boolean
}>()
const model = defineModel<number | null>({ required: true })
const emit = defineEmits<{
  typed: [text: string]
  /** What stands in the field is no value: who acts by it at once has to wait until it is mended. */
  wrong: [isWrong: boolean]
}>()

const shown = (value: number | null) => (value === null ? '' : sayNumber(value, 12))
const text = ref(typed !== null && same(read(typed).value, model.value) ? typed : shown(model.value))

/** A value that went through another unit and back is the same. */
function same(a: number | null, b: number | null): boolean {
  return a === b || (a !== null && b !== null && Math.abs(a - b) <= 1e-9 * Math.abs(b))
}

interface Read {
  readonly value: number | null
  readonly says: string | null
  readonly hint: string | null
}

function read(input: string): Read {
  const parsed = parseQuantity(input, unit)
  if (parsed.kind === 'empty') return { value: null, says: null, hint: null }
  if (parsed.kind === 'refused') return { value: null, says: parsed.says, hint: null }
  const { value, converted, doubt } = parsed
  const hint = converted && unit ? `= ${sayNumber(value, 7)} ${printedUnit(unit)}` : null
  return { value, says: null, hint: doubt ? `used as ${sayNumber(value, 9)}; ${doubt}` : hint }
}

const now = computed(() => read(text.value))
const below = computed(() => [unconfirmed ? 'assumed' : null, hint].filter((x) => x !== null).join('; '))

function onInput(value: string): void {
  text.value = value
  const r = read(value)
  emit('wrong', r.says !== null)
  // A wrong text stays to be mended; the last good value goes on being used.
  if (r.says !== null) return
  model.value = r.value
  emit('typed', value.trim())
}

watch(model, (value) => {
  if (now.value.says === null && !same(now.value.value, value)) text.value = shown(value)
})
</script>

<template>
  <v-text-field
    :model-value="text"
    :label="label"
    :suffix="unit ? printedUnit(unit) : undefined"
    :error-messages="now.says ?? error ?? undefined"
    :messages="now.hint ?? below"
    :readonly="readonly"
    :class="['mono-field', 'number', { unconfirmed }]"
    inputmode="decimal"
    autocomplete="off"
    @update:model-value="onInput"
  />
</template>

<style scoped>
.number :deep(input) {
  color: var(--accent);
}
.unconfirmed :deep(input) {
  color: transparent;
  -webkit-text-stroke: 0.7px var(--accent);
}
</style>
