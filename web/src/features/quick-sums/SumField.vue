<script setup lang="ts">
import type { SumField } from '@calm/core/sums/fields'
import { emptyRow, typedFields, type Typed, type TypedFields } from '@calm/core/sums/typed'
import { mdiClose, mdiPlus } from '@mdi/js'
import { computed } from 'vue'

/** One input of a calculation; what lies in it is drawn by itself again. */
const { field, wrong, at } = defineProps<{
  field: SumField
  /** What is wrong, by place. */
  wrong: ReadonlyMap<string, string>
  /** The place of this field in the input. */
  at: string
}>()
const typed = defineModel<Typed>({ required: true })

const text = computed({
  get: () => (typeof typed.value === 'string' ? typed.value : ''),
  set: (value) => (typed.value = value),
})
const list = computed(() => (Array.isArray(typed.value) ? (typed.value as Typed[]) : []))
const inside = computed((): TypedFields =>
  typeof typed.value === 'object' && !Array.isArray(typed.value) ? (typed.value as TypedFields) : {},
)
const label = computed(() => (field.required ? field.title : `${field.title} (may stay empty)`))
const says = computed(() => wrong.get(at))
const variant = computed(() =>
  field.kind === 'variant' ? (field.variants.find((v) => v.value === inside.value[field.by]) ?? null) : null,
)
const put = (name: string, value: Typed) => (typed.value = { ...inside.value, [name]: value })
const putRow = (i: number, name: string, value: Typed) =>
  (typed.value = list.value.map((row, k) => (k === i ? { ...(row as TypedFields), [name]: value } : row)))
function addRow(): void {
  if (field.kind === 'rows') typed.value = [...list.value, emptyRow(field.columns)]
}
const cell = (row: Typed, name: string): Typed => (row as TypedFields)[name] ?? ''
function become(value: string): void {
  const next = field.kind === 'variant' ? field.variants.find((v) => v.value === value) : undefined
  if (next && field.kind === 'variant')
    typed.value = { ...typedFields(next.fields, inside.value), [field.by]: value }
}
</script>

<template>
  <v-text-field
    v-if="field.kind === 'number' || field.kind === 'text' || field.kind === 'numbers'"
    v-model="text"
    :label="label"
    class="mono-field"
    :suffix="field.unit || undefined"
    :inputmode="field.kind === 'number' ? 'decimal' : 'text'"
    :hint="field.kind === 'numbers' ? 'Numbers with spaces between them.' : undefined"
    :error-messages="says"
    autocomplete="off"
  />
  <v-select
    v-else-if="field.kind === 'choice'"
    v-model="text"
    :items="field.choices"
    :label="label"
    :clearable="!field.required"
    :error-messages="says"
  />
  <v-select
    v-else-if="field.kind === 'choices'"
    :model-value="list"
    :items="field.choices"
    :label="label"
    multiple
    :error-messages="says"
    @update:model-value="typed = $event"
  />
  <v-checkbox v-else-if="field.kind === 'flag'" v-model="typed" :label="field.title" :error-messages="says" />
  <fieldset v-else-if="field.kind === 'group' || field.kind === 'variant'" class="stack group">
    <legend>{{ field.title }}</legend>
    <v-select
      v-if="field.kind === 'variant'"
      :model-value="variant?.value"
      :items="[...field.variants]"
      :label="field.title"
      @update:model-value="become"
    />
    <SumField
      v-for="f in field.kind === 'group' ? field.fields : (variant?.fields ?? [])"
      :key="f.name"
      :field="f"
      :wrong="wrong"
      :at="`${at}.${f.name}`"
      :model-value="inside[f.name] ?? ''"
      @update:model-value="put(f.name, $event)"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
  </fieldset>
  <fieldset v-else-if="field.kind === 'rows'" class="stack group">
    <legend>{{ label }}</legend>
    <div v-for="(row, i) in list" :key="i" class="line">
      <SumField
        v-for="c in field.columns"
        :key="c.name"
        :field="c"
        :wrong="wrong"
        :at="`${at}.${i}.${c.name}`"
        :model-value="cell(row, c.name)"
        @update:model-value="putRow(i, c.name, $event)"
      />
      <v-btn
        variant="text"
        :icon="mdiClose"
        :aria-label="`Remove row ${i + 1}`"
        @click="typed = list.filter((_row, k) => k !== i)"
      />
    </div>
    <div>
      <v-btn variant="text" :prepend-icon="mdiPlus" @click="addRow">Another row</v-btn>
    </div>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
  </fieldset>
</template>

<style scoped>
.group {
  border: 0;
  border-left: 3px solid var(--hair);
  padding: 4px 0 4px 14px;
  margin: 0;
  min-width: 0;
}
legend {
  font-weight: 600;
  padding: 0 0 6px;
}
.line {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(130px, 1fr)) 48px;
  gap: 8px;
  align-items: start;
}
.wrong {
  color: var(--stop);
}
</style>
