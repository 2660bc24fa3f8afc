<script setup lang="ts">
import type { Run } from '@calm/core/record/run'

/** What a certificate tells besides what is judged: typed once, offered again at the loop's next verification. */
type Words = NonNullable<Run['started']['circumstances']>
const model = defineModel<Words>({ required: true })
const FIELDS: readonly (readonly [keyof Words, string])[] = [
  ['maker', 'Device: maker'],
  ['model', 'Device: model'],
  ['serial', 'Device: serial number'],
  ['order', 'Order'],
  ['place', 'Place'],
  ['ambient', 'Ambient, as 21 °C, 40 % humidity'],
  ['procedure', 'Procedure'],
]
const set = (name: keyof Words, value: string) => (model.value = { ...model.value, [name]: value })
</script>

<template>
  <details>
    <summary>For the certificate: device, order, place</summary>
    <div class="field-grid words">
      <v-text-field
        v-for="[name, label] in FIELDS"
        :key="name"
        :label="label"
        maxlength="120"
        :model-value="model[name]"
        @update:model-value="set(name, $event)"
      />
    </div>
  </details>
</template>

<style scoped>
summary {
  line-height: 44px;
  cursor: pointer;
}
.words {
  padding-top: 8px;
}
</style>
