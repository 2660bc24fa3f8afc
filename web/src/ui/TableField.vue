<script setup lang="ts">
import type { TableRows, TableSetting } from '@calm/core/quantity/setting'
import { sayNumber } from '@calm/core/quantity/round'
import { readStrapping } from '@calm/core/tank/read-strapping'
import Papa from 'papaparse'
import { computed, ref } from 'vue'
import { readTextFile } from './read-text-file.ts'

/** A table of two columns: pasted or from a file; thousands of rows are kept and their ends shown. */
const {
  setting,
  value,
  error = null,
  readonly = false,
} = defineProps<{ setting: TableSetting; value: TableRows; error?: string | null; readonly?: boolean }>()
const emit = defineEmits<{ set: [rows: TableRows] }>()

const ENDS = 4
const text = ref('')
const says = ref<string | null>(null)
const took = ref<string | null>(null)
const open = ref(false)
const shown = computed(() =>
  value.length <= 2 * ENDS ? value : [...value.slice(0, ENDS), null, ...value.slice(-ENDS)],
)

function take(typed: string): void {
  const { data } = Papa.parse<string[]>(typed.replace(/^\ufeff/, '').trim(), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [';', '\t', ',', '|'],
  })
  // Columns that only spaces part are one cell each for the parser.
  const cells = data.map((line) => (line.length === 1 ? (line[0] ?? '').trim().split(/\s+/) : line))
  const read = readStrapping(cells)
  says.value = read.says
  took.value = read.took
  if (read.says === null) {
    emit('set', read.rows)
    text.value = ''
    open.value = false
  }
}
async function choose(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  try {
    take(await readTextFile(file))
  } catch (failure) {
    says.value = failure instanceof Error ? failure.message : 'The file cannot be read.'
  }
}
</script>

<template>
  <div class="stack wide-field">
    <div class="row">
      <strong>{{ setting.title }}</strong>
      <span class="quiet">{{ value.length === 0 ? 'no rows yet' : `${value.length} rows` }}</span>
      <v-btn v-if="!readonly" variant="text" @click="open = !open">{{
        value.length === 0 ? 'Bring in a table' : 'Replace'
      }}</v-btn>
    </div>
    <template v-if="open && !readonly">
      <v-file-input
        label="Table (CSV)"
        accept=".csv,.txt,text/csv"
        prepend-icon=""
        hide-details
        :clearable="false"
        @update:model-value="choose"
      />
      <v-textarea
        v-model="text"
        :label="`or paste it: ${setting.columns.join(' and ')}, a row a line`"
        rows="5"
        class="mono-field"
        hide-details
      />
      <v-btn :disabled="text.trim() === ''" @click="take(text)">Take these rows</v-btn>
    </template>
    <p v-if="says ?? error" class="wrong" role="alert">{{ says ?? error }}</p>
    <p v-else-if="took" role="status">{{ took }}</p>
    <table v-if="value.length > 0">
      <thead>
        <tr>
          <th v-for="c in setting.columns" :key="c" scope="col">{{ c }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in shown" :key="i">
          <template v-if="r">
            <td class="mono">{{ sayNumber(r[0], 7) }}</td>
            <td class="mono">{{ sayNumber(r[1], 7) }}</td>
          </template>
          <td v-else colspan="2" class="quiet">and {{ value.length - 2 * ENDS }} more</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.wide-field {
  grid-column: 1 / -1;
}
.wrong {
  color: var(--stop);
}
table {
  border-collapse: collapse;
}
th,
td {
  text-align: right;
  font-weight: 400;
  padding: 2px 16px 2px 0;
  border-bottom: var(--line) solid var(--hair);
}
</style>
