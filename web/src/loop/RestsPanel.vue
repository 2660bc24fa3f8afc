<script setup lang="ts">
import { sayEntry } from '@calm/core/family/sensor-choice'
import type { Setting, SettingValue } from '@calm/core/quantity/setting'

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
</script>

<template>
  <details v-if="assumed.length > 0" class="rests">
    <summary>Rests on {{ assumed.length }} {{ assumed.length === 1 ? 'assumption' : 'assumptions' }}</summary>
    <ul>
      <li v-for="s in assumed" :key="s.name" class="row">
        <span>{{ s.title }}</span>
        <span class="mono assumed">{{ sayEntry(s, valueOf(s.name)) }}</span>
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
