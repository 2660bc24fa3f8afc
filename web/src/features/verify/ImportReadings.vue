<script setup lang="ts">
import type { PlanPoint } from '@calm/core/verify/plan'
import {
  readReadings,
  suggestReadings,
  type ReadingsColumn,
  type ReadReadings,
} from '@calm/core/verify/read-readings'
import Papa from 'papaparse'
import { computed, ref } from 'vue'
import { readTextFile } from '../../ui/read-text-file.ts'
import TableColumns from '../../ui/TableColumns.vue'
import { setting, type ReadingColumn } from './phases.ts'

/** Readings from a file or pasted text: what each column holds is suggested, corrected by hand, and shown before it is taken. */
const { units, plan, applied } = defineProps<{
  units: { input: string; output: string }
  /** What is applied, or what is set for it. */
  applied: ReadingColumn
  plan: readonly PlanPoint[]
}>()
const emit = defineEmits<{ take: [readings: ReadReadings]; close: [] }>()
const text = ref('')
const says = ref<string | null>(null)
const chosen = ref<Record<number, ReadingsColumn>>({})
const records = computed(() =>
  text.value.trim() === ''
    ? []
    : Papa.parse<string[]>(text.value.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' }).data,
)
const headings = computed(() => records.value[0] ?? [])
const mapping = computed(() => {
  const suggested = suggestReadings(headings.value)
  return headings.value.map((_, i): ReadingsColumn =>
    i in chosen.value ? (chosen.value[i] ?? null) : (suggested[i] ?? null),
  )
})
const read = computed(() =>
  records.value.length > 0
    ? readReadings(records.value, { ...units, applied: applied.unit }, plan, mapping.value)
    : null,
)
const HOLDS: readonly { readonly value: NonNullable<ReadingsColumn>; readonly title: string }[] = [
  { value: 'applied', title: 'What was applied' },
  { value: 'pv', title: 'Transmitter' },
  { value: 'loopCurrent_mA', title: 'Loop current' },
  { value: 'controller', title: 'Controller' },
  { value: 'direction', title: 'Rising or falling' },
  { value: 'unit', title: 'Unit of the column before' },
]
function hold(i: number, value: string | null): void {
  // Left out by hand is another thing than not known.
  chosen.value = { ...chosen.value, [i]: HOLDS.find((h) => h.value === value)?.value ?? null }
}
async function choose(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  says.value = null
  try {
    text.value = await readTextFile(file)
    chosen.value = {}
  } catch (error) {
    says.value = error instanceof Error ? error.message : 'The file cannot be read.'
  }
}
/** Settings of the standard that stand for nothing: told by row, never left out in silence. */
const meaningless = computed(() =>
  (read.value?.rows ?? []).flatMap(({ values: { applied: set } }, i) =>
    set && setting(set, applied) === undefined
      ? [`Row ${i + 2}: ${set.typed} stands for no value of this sensor.`]
      : [],
  ),
)
const usable = computed(
  () =>
    read.value !== null &&
    meaningless.value.length === 0 &&
    !read.value.findings.some(
      (f) => f.code === 'NO_PLAN' || f.code === 'NO_APPLIED' || f.code === 'COLUMN_TWICE',
    ),
)
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
      <v-textarea v-model="text" label="or paste them here, heading row first" rows="6" class="mono-field" />
      <TableColumns
        v-if="headings.length > 0"
        :headings="headings"
        :rows="records.slice(1)"
        :mapping="mapping"
        :items="HOLDS"
        @hold="hold"
      />
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <p v-for="f in read?.findings ?? []" :key="f.says" class="wrong" role="alert">{{ f.says }}</p>
      <p v-for="m in meaningless" :key="m" class="wrong" role="alert">{{ m }}</p>
      <p v-if="usable" role="status">
        {{ read?.rows.length }} readings fit the plan. Values are converted to the loop’s units; what was
        written is kept.
      </p>
      <div class="row">
        <v-btn color="primary" variant="flat" :disabled="!usable" @click="read && emit('take', read)"
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
