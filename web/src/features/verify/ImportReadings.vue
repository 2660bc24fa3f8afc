<script setup lang="ts">
import { readReadings, type ReadReadings } from '@calm/core/verify/read-readings'
import Papa from 'papaparse'
import { ref } from 'vue'
import { readTextFile } from '../../ui/read-text-file.ts'

/** Readings from a file or pasted text, shown before they are taken. */
const { units, planSize } = defineProps<{ units: { input: string; output: string }; planSize: number }>()
const emit = defineEmits<{ take: [readings: ReadReadings]; close: [] }>()
const text = ref('')
const read = ref<ReadReadings | null>(null)
const says = ref<string | null>(null)

function look(): void {
  says.value = null
  if (text.value.trim() === '') {
    read.value = null
    return
  }
  const { data } = Papa.parse<string[]>(text.value.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' })
  read.value = readReadings(data, units)
  if (read.value.plan && read.value.rows.length !== planSize)
    says.value = `These are ${read.value.rows.length} readings; the plan of this run has ${planSize}. Begin a run with the matching plan.`
}
async function choose(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  try {
    text.value = await readTextFile(file)
    look()
  } catch (error) {
    says.value = error instanceof Error ? error.message : 'The file cannot be read.'
  }
}
const usable = () => read.value !== null && read.value.plan !== null && says.value === null
</script>

<template>
  <v-dialog
    :model-value="true"
    persistent
    aria-labelledby="readings-title"
    @update:model-value="emit('close')"
  >
    <v-card class="stack">
      <h2 id="readings-title">Import readings</h2>
      <v-file-input
        label="Readings (CSV)"
        accept=".csv,.txt,text/csv"
        variant="outlined"
        hide-details
        prepend-icon=""
        :clearable="false"
        @update:model-value="choose"
      />
      <v-textarea
        v-model="text"
        label="or paste them here, heading row first"
        rows="6"
        class="mono-field"
        @update:model-value="look"
      />
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <p v-for="f in read?.findings ?? []" :key="f.says" class="wrong" role="alert">{{ f.says }}</p>
      <p v-if="usable()" role="status">
        {{ read?.rows.length }} readings fit the plan. Values are converted to the loop’s units; what was
        written is kept.
      </p>
      <div class="row">
        <v-btn color="primary" variant="flat" :disabled="!usable()" @click="read && emit('take', read)"
          >Take these readings</v-btn
        >
        <v-btn variant="text" @click="emit('close')">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
