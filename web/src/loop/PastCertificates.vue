<script setup lang="ts">
import { plant } from '@calm/contract/api/addresses'
import type { PastAnswer } from '@calm/contract/past'
import {
  PAST_COLUMNS,
  readPast,
  suggestPast,
  type PastColumn,
  type PastRow,
} from '@calm/core/record/past/read-past'
import Papa from 'papaparse'
import { computed, ref, watch } from 'vue'
import { ApiProblem, call } from '../api/call.ts'
import { readTextFile } from '../ui/read-text-file.ts'
import PastForm from './PastForm.vue'
import TableColumns from '../ui/TableColumns.vue'

/** Certificates from before this record: from a file or pasted, what each column holds corrected by hand, looked at, kept. */
const { tag = null } = defineProps<{
  /** The loop that all of it belongs to; null where the table tells the tags. */
  tag?: string | null
}>()
const emit = defineEmits<{ close: [] }>()
const EXAMPLE = tag
  ? 'Date;Certificate;Applied;As found;As left\n2024-05-14;C-117;0;0.02;0.00'
  : 'Tag;Date;Certificate;Applied;As found;As left'
const text = ref('')
const source = ref('pasted')
const says = ref<string | null>(null)
const chosen = ref<Record<number, PastColumn | null>>({})
const looked = ref<PastAnswer | null>(null)
const busy = ref<{ done: number; of: number } | null>(null)
const table = computed(() =>
  text.value.trim() === ''
    ? null
    : Papa.parse<string[]>(text.value.replace(/^\ufeff/, ''), { skipEmptyLines: 'greedy' }),
)
const records = computed(() => table.value?.data ?? [])
const headings = computed(() => records.value[0] ?? [])
const mapping = computed(() => {
  const suggested = suggestPast(headings.value)
  return headings.value.map((_, i) =>
    i in chosen.value ? (chosen.value[i] ?? null) : (suggested[i] ?? null),
  )
})
const read = computed(() => (records.value.length > 0 ? readPast(records.value, mapping.value, tag) : null))
const wrong = computed(() =>
  [...(read.value?.wrong ?? []), ...(looked.value?.wrong ?? [])].sort((a, b) => a.line - b.line),
)
const items = (Object.keys(PAST_COLUMNS) as PastColumn[])
  .filter((c) => tag === null || c !== 'tag')
  .map((value) => ({ value: value as string, title: PAST_COLUMNS[value].title }))
const MOST_WRONG = 50
/** A certificate that was typed joins the table in its columns; one that holds what the table does not is refused. */
function add(rows: Partial<Record<PastColumn, string>>[]): void {
  says.value = null
  const told = (c: PastColumn) => rows.some((r) => (r[c] ?? '').trim() !== '')
  const columns = (Object.keys(PAST_COLUMNS) as PastColumn[]).filter((c) => TYPED.includes(c))
  const fresh = records.value.length === 0
  const at = fresh ? columns : mapping.value
  const lacking = columns.filter((c) => told(c) && !at.includes(c))
  if (lacking.length > 0) {
    says.value = `The table has no column for: ${lacking.map((c) => PAST_COLUMNS[c].title).join(', ')}. Keep what is in it first.`
    return
  }
  const delimiter = table.value?.meta.delimiter ?? ';'
  const lines = Papa.unparse(
    [
      ...(fresh ? [columns.map((c) => PAST_COLUMNS[c].title)] : []),
      ...rows.map((r) => at.map((c) => (c ? (r[c] ?? '') : ''))),
    ],
    {
      delimiter,
      newline: '\n',
    },
  )
  text.value = fresh ? lines : `${text.value.trimEnd()}\n${lines}`
}
const TYPED: readonly PastColumn[] = ['on', 'number', 'by', 'applied', 'found', 'left']
function hold(i: number, value: string | null): void {
  const told = (Object.keys(PAST_COLUMNS) as PastColumn[]).find((c) => c === value) ?? null
  chosen.value = { ...chosen.value, [i]: told }
}
// What was looked at belongs to the table and its columns as they were then.
watch([text, mapping], () => {
  looked.value = null
  marks.length = 0
})
/** Rows of one loop stay together: a request is one event of each loop. */
const AT_ONCE = 4000
function parcels(rows: readonly PastRow[]): PastRow[][] {
  const by = new Map<string, PastRow[]>()
  for (const r of rows) by.set(r.tag, [...(by.get(r.tag) ?? []), r])
  const out: PastRow[][] = []
  for (const all of by.values()) {
    const last = out.at(-1)
    if (last && last.length + all.length <= AT_ONCE) last.push(...all)
    else out.push([...all])
  }
  return out
}
/** Of each parcel: who sends it again after a lost answer sends the same. */
const marks: { id: string; at: string }[] = []
async function send(keep: boolean): Promise<void> {
  const rows = read.value?.rows ?? []
  if (rows.length === 0 || busy.value) return
  says.value = null
  const parts = parcels(rows)
  const sum: PastAnswer = { loops: 0, certificates: 0, wrong: [], kept: keep }
  try {
    for (const [i, part] of parts.entries()) {
      busy.value = { done: i, of: parts.length }
      const mark = (marks[i] ??= { id: crypto.randomUUID(), at: new Date().toISOString() })
      const told = await call(
        plant.enterPast,
        {},
        {
          ...mark,
          source: source.value,
          keep,
          rows: part.map((r) => ({ ...r })),
        },
      )
      sum.loops += told.loops
      sum.certificates += told.certificates
      sum.wrong.push(...told.wrong)
    }
    looked.value = sum
  } catch (error) {
    says.value =
      error instanceof ApiProblem ? error.message : 'The server was not reached. Nothing is lost: try again.'
  } finally {
    busy.value = null
  }
}
async function choose(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  try {
    text.value = await readTextFile(file)
    source.value = file.name.slice(0, 200)
    chosen.value = {}
  } catch (error) {
    says.value = error instanceof Error ? error.message : 'The file cannot be read.'
  }
}
const count = (n: number, one: string) => `${n} ${one}${n === 1 ? '' : 's'}`
</script>

<template>
  <v-dialog :model-value="true" persistent aria-labelledby="past-title" @update:model-value="emit('close')">
    <v-card class="stack">
      <h2 id="past-title">Earlier certificates{{ tag ? ` of ${tag}` : '' }}</h2>
      <p class="quiet small">
        One row for each point. They come into the record marked as entered later, under your name; drift and
        interval take them in. Ranges and tolerance are taken as they are now.
      </p>
      <v-file-input
        label="Certificates (CSV)"
        accept=".csv,.txt,text/csv"
        variant="outlined"
        hide-details
        prepend-icon=""
        :clearable="false"
        @update:model-value="choose"
      />
      <details v-if="tag">
        <summary>Type one off its paper</summary>
        <PastForm @add="add" />
      </details>
      <v-textarea
        v-model="text"
        label="or paste them here, heading row first"
        :placeholder="EXAMPLE"
        persistent-placeholder
        rows="6"
        class="mono-field"
      />
      <TableColumns
        v-if="headings.length > 0"
        :headings="headings"
        :rows="records.slice(1)"
        :mapping="mapping"
        :items="items"
        @hold="hold"
      />
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <ul v-if="wrong.length > 0" class="wrong small" aria-label="Held back">
        <li v-for="w in wrong.slice(0, MOST_WRONG)" :key="`${w.line}/${w.says}`">
          Line {{ w.line }}: {{ w.says }}
        </li>
        <li v-if="wrong.length > MOST_WRONG">and {{ wrong.length - MOST_WRONG }} more</li>
      </ul>
      <p v-if="looked" role="status">
        {{ count(looked.certificates, 'certificate') }} of {{ count(looked.loops, 'loop') }}
        {{
          looked.kept
            ? looked.certificates === 1
              ? 'is in the record.'
              : 'are in the record.'
            : 'can be kept.'
        }}
        {{
          wrong.length > 0
            ? `${count(wrong.length, 'line')} held back, with the certificate each belongs to.`
            : ''
        }}
      </p>
      <v-progress-linear
        v-if="busy"
        :model-value="(100 * busy.done) / busy.of"
        height="8"
        color="primary"
        aria-label="Certificates sent"
      />
      <div class="row">
        <v-btn
          v-if="!looked"
          color="primary"
          variant="flat"
          :disabled="!read || read.rows.length === 0 || busy !== null"
          @click="send(false)"
          >Look at them</v-btn
        >
        <v-btn
          v-else-if="!looked.kept"
          color="primary"
          variant="flat"
          :disabled="looked.certificates === 0 || busy !== null"
          @click="send(true)"
          >Keep {{ count(looked.certificates, 'certificate') }}</v-btn
        >
        <v-btn variant="text" @click="emit('close')">{{ looked?.kept ? 'Close' : 'Cancel' }}</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
ul {
  margin: 0;
  padding-left: 20px;
}
</style>
