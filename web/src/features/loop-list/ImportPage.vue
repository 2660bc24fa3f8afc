<script setup lang="ts">
import { loopList } from '@calm/contract/api/addresses'
import type { ImportResult, Preview } from '@calm/contract/loop-list'
import type { DateOrder } from '@calm/core/loop/usual'
import { LIST_COLUMNS, type ListColumn } from '@calm/core/loop-list/columns'
import { computed, ref } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLongWork } from '../../api/long-work.ts'
import LongWorkLine from '../../ui/LongWorkLine.vue'
import WaterQuestion from '../../ui/WaterQuestion.vue'
import DoneImports from './DoneImports.vue'
import HeldRows from './HeldRows.vue'
import PackageImport from './PackageImport.vue'
import PreviewTable from './PreviewTable.vue'
import { readListFile } from '../../ui/read-sheet.ts'

const text = ref<string | null>(null)
const fileName = ref('')
const preview = ref<Preview | null>(null)
const update = ref<number[]>([])
const says = ref<string | null>(null)
const busy = ref(false)
const done = ref<ImportResult | null>(null)
const work = useLongWork()
/** Which comes first in the dates of this list, once it was asked. */
const dateOrder = ref<DateOrder | undefined>()
const DATE_ORDERS = [
  { value: 'dayFirst', title: 'day first: 3/4/2026 is 3 April' },
  { value: 'monthFirst', title: 'month first: 3/4/2026 is 4 March' },
] as const
const asksDates = computed(
  () =>
    dateOrder.value !== undefined ||
    (preview.value?.rows.some((r) => r.findings.some((f) => f.code === 'DATE_ORDER_UNTOLD')) ?? false),
)
async function sayDates(order: DateOrder): Promise<void> {
  dateOrder.value = order
  await look(preview.value?.mapping)
}
/** One identifier an import: a second click or a repeated send does nothing twice. */
let importId = ''

async function look(mapping?: Preview['mapping']): Promise<void> {
  if (text.value === null) return
  busy.value = true
  says.value = null
  try {
    preview.value = await call(
      loopList.preview,
      {},
      {
        text: text.value,
        ...(mapping ? { mapping } : {}),
        ...(dateOrder.value ? { dateOrder: dateOrder.value } : {}),
      },
    )
    update.value = []
    importId = crypto.randomUUID()
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}

async function choose(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  done.value = null
  preview.value = null
  dateOrder.value = undefined
  fileName.value = file.name
  try {
    text.value = await readListFile(file)
  } catch (error) {
    says.value = error instanceof Error ? error.message : 'The file cannot be read.'
    return
  }
  await look()
}

async function remap(at: number, column: ListColumn | null): Promise<void> {
  if (!preview.value) return
  await look(preview.value.mapping.map((c, i) => (i === at ? column : c === column ? null : c)))
}

async function importNow(): Promise<void> {
  const looked = preview.value
  const list = text.value
  if (!looked || list === null) return
  await work.begin(async (given) => {
    done.value = await call(
      loopList.import,
      {},
      {
        id: importId,
        text: list,
        mapping: looked.mapping,
        ...(dateOrder.value ? { dateOrder: dateOrder.value } : {}),
        update: update.value,
      },
      given,
    )
    preview.value = null
  })
}

const count = (standing: Preview['rows'][number]['standing']) =>
  preview.value?.rows.filter((r) => r.standing === standing).length ?? 0
const summary = computed(() => {
  const parts = [
    `${count('new')} new`,
    `${count('changed')} differ from the plant`,
    `${count('same')} the same`,
    `${count('bad')} to correct`,
  ]
  return parts.join(' · ')
})
const unmapped = computed(
  () =>
    preview.value?.headings
      .map((heading, at) => ({ heading, at }))
      .filter(({ at }) => preview.value?.mapping[at] === null) ?? [],
)
/** A water column in the list leaves its temperature out, and the plant has not said it. */
const asksWater = computed(
  () => preview.value?.rows.some((r) => r.findings.some((f) => f.code === 'WATER_UNTOLD')) ?? false,
)
const columnItems = [
  { value: null, title: 'leave out' },
  ...LIST_COLUMNS.map((c) => ({ value: c.id, title: c.title })),
]
const rows = (n: number) => `${n} ${n === 1 ? 'row' : 'rows'}`
const importLabel = computed(() => {
  const n = count('new') + update.value.length
  const held = count('bad') > 0 ? `, keep ${count('bad')} to correct` : ''
  return n > 0
    ? `Import ${rows(n)}${held}`
    : held
      ? `Keep ${rows(count('bad'))} to correct`
      : 'Nothing to import'
})
</script>

<template>
  <div class="page stack">
    <p class="small"><router-link to="/loops">Loops</router-link></p>
    <h1>Import a loop list</h1>
    <p class="quiet">
      CSV with semicolons, commas or tabs, or a spreadsheet (xlsx). Nothing is stored before you have seen
      every row.
    </p>
    <v-file-input
      label="Loop list (CSV or xlsx)"
      accept=".csv,.txt,.xlsx,text/csv"
      class="file"
      variant="outlined"
      hide-details
      prepend-icon=""
      :clearable="false"
      @update:model-value="choose"
    />
    <p v-if="says" class="trouble" role="alert">{{ says }}</p>
    <v-progress-linear v-if="busy" indeterminate color="primary" aria-label="Working" />

    <template v-if="preview">
      <h2>
        {{ fileName }}: <span class="mono">{{ summary }}</span>
      </h2>
      <section v-if="unmapped.length > 0" class="stack">
        <h3>Columns that were not recognised</h3>
        <div class="field-grid">
          <v-select
            v-for="u in unmapped"
            :key="u.at"
            :label="`“${u.heading}” is`"
            :items="columnItems"
            :model-value="null"
            @update:model-value="remap(u.at, $event)"
          />
        </div>
      </section>
      <div v-if="asksDates" class="row" role="group" aria-label="Dates of this list">
        <span>Dates of this list:</span>
        <v-btn
          v-for="o in DATE_ORDERS"
          :key="o.value"
          :variant="dateOrder === o.value ? 'flat' : 'outlined'"
          :color="dateOrder === o.value ? 'primary' : undefined"
          :aria-pressed="dateOrder === o.value"
          @click="sayDates(o.value)"
          >{{ o.title }}</v-btn
        >
      </div>
      <WaterQuestion v-if="asksWater" @said="look(preview.mapping)" />
      <PreviewTable v-model:update="update" :rows="preview.rows" />
      <LongWorkLine :work="work" doing="Bringing the list in" />
      <div class="bar row">
        <span class="quiet small">Rows to correct stay here until you correct them or drop them.</span>
        <span class="gap" />
        <v-btn
          color="primary"
          variant="flat"
          height="48"
          :disabled="work.busy.value || importLabel === 'Nothing to import'"
          @click="importNow"
          >{{ importLabel }}</v-btn
        >
      </div>
    </template>
    <div v-if="done" class="done stack" role="status">
      <p>
        <strong>Imported.</strong> {{ done.created }} {{ done.created === 1 ? 'loop' : 'loops' }} added,
        {{ done.updated }} changed, {{ done.same }} left as they were, {{ rows(done.held) }} kept to be
        corrected.
      </p>
      <div><v-btn color="primary" variant="flat" to="/loops">To the loops</v-btn></div>
    </div>
    <PackageImport v-if="!preview" />
    <HeldRows />
    <DoneImports v-if="!preview" />
  </div>
</template>

<style scoped>
.file {
  max-width: 520px;
}
.trouble {
  color: var(--stop);
}
.gap {
  flex: 1;
}
.bar {
  position: sticky;
  bottom: 0;
  background: var(--paper);
  padding: 10px 0;
  border-top: var(--line) solid var(--hair);
}
</style>
