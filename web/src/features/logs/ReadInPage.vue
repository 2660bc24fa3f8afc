<script setup lang="ts">
import { devices, equipment, loops, logs, settings } from '@calm/contract/api/addresses'
import type { Mapping, NewLog } from '@calm/contract/logs'
import { fieldsOf } from '@calm/core/logs/sniff/fields'
import { MOST_ROWS, sayTooManyRows } from '@calm/core/logs/sniff/how-many'
import { isTimeZone } from '@calm/core/logs/sniff/local-time'
import { rowReader, valueColumns } from '@calm/core/logs/sniff/read-rows'
import { joinedPairs, sniff, type Sniffed } from '@calm/core/logs/sniff/sniff'
import type { TimeFormat } from '@calm/core/logs/sniff/times'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call, callFile, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import ReadInQuestions from './ReadInQuestions.vue'
import ColumnsTable from './ColumnsTable.vue'
import { headOf, rowsIn } from './file-pieces.ts'
import { undecidedOf } from './undecided.ts'
import { sayLogTime } from './say-time.ts'
import { useReadingIn } from './use-reading-in.ts'

const route = useRoute()
const router = useRouter()
const all = useLive(loops.list, {})
const known = useLive(logs.list, {})
const instruments = useLive(equipment.list, {})
const rules = useLive(settings.rules, {})
const reading = useReadingIn()

const tag = ref(typeof route.query['loop'] === 'string' ? route.query['loop'] : null)
const goesOn = typeof route.query['log'] === 'string' ? route.query['log'] : null
/** A log that was begun and is not whole: the same files go on where it stopped. */
const begun = computed(() => known.data.value?.find((l) => l.id === goesOn && l.state === 'open') ?? null)

const files = shallowRef<readonly File[]>([])
const lines = shallowRef<readonly string[]>([])
const found = shallowRef<Sniffed | null>(null)
const mapping = shallowRef<Mapping | null>(null)
const alike = ref<string | null>(null)
const trouble = ref<string | null>(null)
/** Why the files are too long for one log. */
const tooMany = ref<string | null>(null)
/** Fetched from the memory of a device, which is a stand-in. */
const isMemory = ref(false)
const title = ref('')
const of = ref<NewLog['of']>('installed')
const instrument = ref<string | null>(null)
const site = ref('')
const id = ref(crypto.randomUUID())
const zone = computed(() => rules.data.value?.dates.timeZone ?? 'UTC')

async function choose(chosen: File | File[] | null | undefined): Promise<void> {
  isMemory.value = false
  files.value = Array.isArray(chosen) ? chosen : chosen ? [chosen] : []
  found.value = null
  mapping.value = null
  trouble.value = null
  tooMany.value = null
  alike.value = null
  zoneTyped.value = null
  answered.value = new Set()
  id.value = crypto.randomUUID()
  const first = files.value[0]
  if (!first) return
  lines.value = await headOf(first)
  found.value = sniff(lines.value, zone.value)
  if (!found.value) {
    trouble.value =
      'No line of this file has two fields: it is no table of measurements. Save it as text or CSV first.'
    return
  }
  const rows = await Promise.all(files.value.map(rowsIn))
  tooMany.value = sayTooManyRows(rows.reduce((a, b) => a + b, 0))
  title.value ||= first.name.replace(/\.[^.]+$/, '')
  // The list may be on its way still; without it nothing is begun, and nothing alike.
  const here = known.data.value ?? (await call(logs.list, {}).catch(() => []))
  const own = here.find((l) => l.id === goesOn && l.state === 'open')
  mapping.value = own?.mapping ?? asSniffed(found.value)
  if (own) return
  const { headerLines } = found.value.mapping
  const least = readable(mapping.value)
  // The same device may write another decimal sign since: what reads fewer lines than the file itself says is not it.
  const before = here.find(
    (l) => isAlike(l.mapping, found.value) && readable({ ...l.mapping, headerLines }) >= least,
  )
  if (before) {
    mapping.value = { ...before.mapping, headerLines }
    alike.value = before.title
  }
}
/** How many of the first lines can be read so. */
function readable(m: Mapping): number {
  const read = rowReader(m)
  return lines.value.filter((text, i) => read(text, i + 1)?.kind === 'row').length
}
const asSniffed = (s: Sniffed): Mapping => ({
  ...s.mapping,
  columns: s.mapping.columns.map((c) => ({ ...c, name: c.name.slice(0, 120) })),
})
/** A file with the same columns comes from the same device: what somebody corrected then holds again. */
const isAlike = (m: Mapping, s: Sniffed | null) =>
  s !== null &&
  m.delimiter === s.mapping.delimiter &&
  m.columns.length === s.mapping.columns.length &&
  m.columns.every((c, i) => c.name === s.mapping.columns[i]?.name)

/** As typed; a name that is none yet is not used, since no time can be told by it. */
const zoneTyped = ref<string | null>(null)
const isZoneWrong = computed(() => zoneTyped.value !== null && !isTimeZone(zoneTyped.value))
function changeZone(typed: string): void {
  zoneTyped.value = typed
  if (isTimeZone(typed)) change({ zone: typed })
}
/** What somebody chose by hand. */
const answered = shallowRef<ReadonlySet<keyof Mapping>>(new Set())
function change(to: Partial<Mapping>): void {
  if (!mapping.value) return
  mapping.value = { ...mapping.value, ...to }
  answered.value = new Set([...answered.value, ...(Object.keys(to) as (keyof Mapping)[])])
}
/** What was fetched from the memory of the loop's stand-in, as its file. */
async function fromMemory(): Promise<void> {
  if (tag.value === null) return
  trouble.value = null
  try {
    const csv = await callFile(devices.history, { loop: tag.value }, new AbortController().signal)
    await choose(new File([csv], `${tag.value} memory, simulated.csv`))
    isMemory.value = true
  } catch (error) {
    trouble.value = sayProblem(error)
  }
}
onMounted(() => {
  if (route.query['from'] === 'memory') void fromMemory()
})
const isSimulated = computed(() => all.data.value?.find((l) => l.tag === tag.value)?.demo ?? false)
const columns = computed({
  get: () => mapping.value?.columns ?? [],
  set: (c) => {
    change({ columns: c })
  },
})
const DECIMALS = [
  { value: '.', title: 'point: 1.5' },
  { value: ',', title: 'comma: 1,5' },
] as const
const FORMATS: readonly { value: TimeFormat; title: string }[] = [
  { value: 'YMD', title: 'year, month, day' },
  { value: 'DMY', title: 'day, month, year' },
  { value: 'MDY', title: 'month, day, year' },
  { value: 'ELAPSED', title: 'a clock alone' },
  { value: 'RELATIVE', title: 'counted from the beginning' },
  { value: 'EPOCH_S', title: 'seconds since 1970' },
  { value: 'EPOCH_MS', title: 'milliseconds since 1970' },
  { value: 'SERIAL_DAY', title: 'days of a spreadsheet' },
  { value: 'NONE', title: 'not told' },
]
/** What is undecided is asked instead. */
const SAYS: Readonly<Partial<Record<Sniffed['findings'][number]['code'], string>>> = {
  DECIMAL_IS_DELIMITER:
    'A comma both parts the columns and stands before decimals: every value was put together again.',
  MIXED_DECIMAL:
    'Points and commas both stand before decimals: the point was taken, lines with a comma are wrong.',
  NO_TIME: 'No column tells the time. Choose the one that does.',
  UNIT_MISSING: 'A column has no unit: choose it, else nothing is held against the loop.',
  LOCAL_NONEXISTENT:
    'A time of this file never was: the clocks were put forward then. It was taken by the hour before.',
  LOCAL_AMBIGUOUS:
    'An hour of this file came twice: the clocks were put back then. It was told apart by the order of the lines.',
}
const sayings = computed(() =>
  [...new Set((found.value?.findings ?? []).map((f) => f.code))].flatMap((code) => SAYS[code] ?? []),
)
const fieldsByColumn = computed(() => {
  const m = mapping.value
  if (!m) return []
  const times = m.columns.filter((c) => ['time', 'date', 'clock'].includes(c.kind)).length
  const rows = lines.value
    .slice(m.headerLines, m.headerLines + 20)
    .filter((l) => l.trim() !== '')
    .map((l) => fieldsOf(l, m.delimiter))
    .map((f) => (m.isDecimalDelimiter ? joinedPairs(f, times) : f))
  return m.columns.map((_, i) => rows.map((r) => r[i] ?? ''))
})
const questions = computed(() =>
  found.value && mapping.value && !begun.value
    ? undecidedOf(found.value, mapping.value, fieldsByColumn.value, answered.value)
    : [],
)
/** The first rows as they will be read, and how many of those looked at are wrong. */
const preview = computed(() => {
  const m = mapping.value
  if (!m) return null
  const read = rowReader(m)
  const rows: { t: number | null; values: readonly (number | null)[] }[] = []
  const wrong = { FIELDS: 0, TIME: 0, NUMBER: 0 }
  let count = 0
  lines.value.forEach((text, i) => {
    const row = read(text, i + 1)
    if (row?.kind === 'wrong') wrong[row.reason]++
    if (row?.kind !== 'row') return
    count++
    if (rows.length < 4) rows.push(row)
  })
  const bad = wrong.FIELDS + wrong.TIME + wrong.NUMBER
  const why = [
    wrong.FIELDS > 0 ? `other columns in ${wrong.FIELDS}` : '',
    wrong.TIME > 0 ? `no time that can be read in ${wrong.TIME}` : '',
    wrong.NUMBER > 0 ? `no number that can be read in ${wrong.NUMBER}` : '',
  ].filter(Boolean)
  return {
    rows,
    heads: valueColumns(m).map((i) => m.columns[i]?.name ?? ''),
    says:
      bad === 0
        ? `All of the first ${count} lines can be read.`
        : `${count} of the first ${count + bad} lines can be read; ${why.join(', ')}. Wrong lines are counted and listed, never dropped in silence.`,
    isBad: bad > 0,
  }
})
const times = computed(() => ({
  relative: mapping.value?.time.format === 'ELAPSED' || mapping.value?.time.format === 'RELATIVE',
  zone: mapping.value?.zone ?? 'UTC',
}))
const at = (path: string) => reading.problem.value?.at(path) ?? null

async function begin(): Promise<void> {
  if (!mapping.value || tag.value === null) return
  const b = begun.value
  const asked: NewLog = b
    ? {
        id: b.id,
        title: b.title,
        of: b.of,
        source: b.source,
        instrument: null,
        site: b.site,
        files: b.files,
        mapping: b.mapping,
      }
    : {
        id: id.value,
        title: title.value,
        of: of.value,
        source: isMemory.value ? 'memory' : 'file',
        instrument: instrument.value,
        site: site.value,
        files: files.value.map((f) => f.name),
        mapping: mapping.value,
      }
  const log = await reading.readIn(tag.value, asked, files.value)
  if (log) await router.push(`/logs/${log.tag}/${log.id}`)
}
async function stop(): Promise<void> {
  if (tag.value !== null) await reading.giveUp(tag.value)
  id.value = crypto.randomUUID()
}
watch(begun, (b) => {
  if (b) title.value = b.title
})
</script>

<template>
  <div class="page stack">
    <p class="small"><router-link to="/logs">Logs</router-link></p>
    <h1>Read in a log</h1>
    <p class="quiet">
      CSV or text of any meter, logger or control system, up to {{ MOST_ROWS / 1e6 }} million rows. What parts
      its columns, its decimal sign, units and times are found, and can be corrected before anything is kept.
    </p>
    <p v-if="begun" class="answer">
      “{{ begun.title }}” is not whole. Choose the same
      {{ begun.files.length === 1 ? 'file' : 'files' }} again ({{ begun.files.join(', ') }}): it goes on where
      it stopped.
    </p>
    <div class="form">
      <v-autocomplete
        v-model="tag"
        :items="(all.data.value ?? []).map((l) => ({ value: l.tag, title: `${l.tag}  ${l.service}` }))"
        label="Loop"
        hide-details
        auto-select-first
        :disabled="begun !== null"
      />
      <v-file-input
        label="Files of one log, in their order"
        accept=".csv,.txt,.log,.tsv,.dat,text/plain,text/csv"
        multiple
        variant="outlined"
        hide-details
        @update:model-value="choose"
      />
    </div>
    <p v-if="isSimulated && !mapping">
      <v-btn variant="text" @click="fromMemory"
        >Take what was fetched from the device’s memory (simulated)</v-btn
      >
    </p>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <template v-if="mapping && found">
      <p v-if="alike" class="answer">
        Read as “{{ alike }}” was, which has the same columns.
        <v-btn
          variant="text"
          @click="((mapping = asSniffed(found)), (alike = null), (zoneTyped = null), (answered = new Set()))"
          >As the file says it</v-btn
        >
      </p>
      <p v-if="tooMany" role="alert" class="trouble">{{ tooMany }}</p>
      <ul v-if="sayings.length > 0" class="sayings">
        <li v-for="s in sayings" :key="s">{{ s }}</li>
      </ul>
      <template v-if="!begun">
        <ReadInQuestions :questions="questions" @answer="change" />
        <div class="form">
          <v-text-field
            v-model="title"
            label="Name of the log"
            :error-messages="at('title') ?? []"
            hide-details="auto"
          />
          <v-select
            v-model="of"
            label="It is of"
            :items="[
              { value: 'installed', title: 'this meter' },
              { value: 'reference', title: 'a reference beside it' },
            ]"
            hide-details
          />
          <v-select
            v-model="instrument"
            label="Recorded by"
            clearable
            :items="(instruments.data.value ?? []).map((e) => ({ value: e.id, title: e.name }))"
            hide-details
          />
          <v-text-field v-model="site" label="Where" hide-details />
        </div>
        <h2>Columns</h2>
        <ColumnsTable v-model="columns" :samples="fieldsByColumn" />
        <p v-if="at('mapping.columns')" role="alert" class="trouble">{{ at('mapping.columns') }}</p>
        <div class="form">
          <v-select
            :model-value="mapping.decimal"
            label="Decimal sign"
            :items="DECIMALS"
            hide-details
            @update:model-value="change({ decimal: $event })"
          />
          <v-select
            :model-value="mapping.time.format"
            label="Times are"
            :items="FORMATS"
            :error-messages="at('mapping.time.format') ?? []"
            hide-details="auto"
            @update:model-value="change({ time: { ...mapping.time, format: $event } })"
          />
          <v-text-field
            :model-value="zoneTyped ?? mapping.zone"
            label="Time zone of its clock"
            :error-messages="
              isZoneWrong
                ? 'No time zone of this name is known. Write it as Europe/Lisbon or UTC.'
                : (at('mapping.zone') ?? [])
            "
            hide-details="auto"
            @update:model-value="changeZone"
          />
        </div>
      </template>
      <template v-if="preview">
        <h2>As it will be read</h2>
        <p :class="{ look: preview.isBad }">{{ preview.says }}</p>
        <div v-key-scroll class="scroll" aria-label="The first rows, scrolls sideways">
          <table class="mono">
            <thead>
              <tr>
                <th scope="col">Time</th>
                <th v-for="(h, i) in preview.heads" :key="i" scope="col" class="num">{{ h }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(r, i) in preview.rows" :key="i">
                <td>{{ r.t === null ? 'none' : sayLogTime(r.t, times) }}</td>
                <td v-for="(v, j) in r.values" :key="j" class="num">{{ v ?? '–' }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <p v-if="reading.says.value" role="alert" class="trouble">
        {{ reading.says.value }}
        <template v-if="reading.log.value?.state === 'open'">
          What came is kept: press again to go on.</template
        >
      </p>
      <div class="row acts">
        <v-btn
          color="primary"
          variant="flat"
          :disabled="
            tag === null || tooMany !== null || isZoneWrong || questions.length > 0 || reading.busy.value
          "
          @click="begin"
          >{{ reading.log.value?.state === 'open' && !reading.busy.value ? 'Go on' : 'Read in' }}</v-btn
        >
        <v-btn v-if="reading.busy.value || reading.log.value?.state === 'open'" variant="text" @click="stop"
          >Give up</v-btn
        >
        <span v-if="tag === null" class="quiet">Choose the loop first.</span>
        <span v-else-if="questions.length > 0" class="quiet"
          >Answer first what nothing in the file tells.</span
        >
        <span v-else-if="isZoneWrong" class="quiet">The time zone is no name of one yet.</span>
        <p v-if="reading.busy.value" role="status" class="progress">
          <progress :value="reading.share.value" max="1" aria-label="How far it is read in" />
          <span class="mono"
            >{{ Math.round(100 * reading.share.value) }} %, {{ reading.log.value?.rows ?? 0 }} rows</span
          >
        </p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  gap: 12px;
  grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
}
.trouble {
  color: var(--stop);
}
.look {
  color: var(--look);
}
.sayings {
  padding-left: 20px;
}
h2 {
  font-size: var(--size-l);
}
table {
  border-collapse: collapse;
}
th,
td {
  padding: 6px 12px 6px 0;
  text-align: left;
  border-bottom: var(--line) solid var(--hair);
}
.num {
  text-align: right;
}
.acts {
  align-items: center;
}
.progress {
  display: flex;
  gap: 12px;
  align-items: center;
  flex: 1;
}
progress {
  flex: 1;
  min-width: 120px;
  accent-color: var(--primary);
}
</style>
