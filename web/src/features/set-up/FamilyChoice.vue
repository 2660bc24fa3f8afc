<script setup lang="ts">
import type { Family } from '@calm/core/family/family'
import { computed, ref } from 'vue'

/** What kind of meter the loop is. The list's words made it likely; here a person says it. */
const {
  family,
  families,
  entries,
  readonly = false,
} = defineProps<{
  family: Family | null
  families: readonly Family[]
  /** Entries that another kind would take away. */
  entries: number
  readonly?: boolean
}>()
const emit = defineEmits<{ become: [id: string] }>()
const items = computed(() => families.map((f) => ({ value: f.id, title: f.title })))
const asked = ref<string | null>(null)
const askedTitle = computed(() => families.find((f) => f.id === asked.value)?.title ?? '')
function choose(id: string | null): void {
  if (id === null || id === family?.id) asked.value = null
  else if (entries === 0) emit('become', id)
  else asked.value = id
}
function change(): void {
  if (asked.value !== null) emit('become', asked.value)
  asked.value = null
}
</script>

<template>
  <div class="stack">
    <v-select
      :model-value="asked ?? family?.id ?? null"
      :items="items"
      label="This loop is"
      placeholder="not chosen yet"
      persistent-placeholder
      :readonly="readonly"
      hide-details
      @update:model-value="choose($event)"
    />
    <div v-if="asked !== null" class="row" role="alert">
      <span
        >Changing to {{ askedTitle }} loses the {{ entries }} {{ entries === 1 ? 'entry' : 'entries' }} of
        this set-up.</span
      >
      <v-btn variant="outlined" color="error" @click="change">Change it</v-btn>
      <v-btn variant="text" @click="asked = null">Leave it</v-btn>
    </div>
  </div>
</template>
