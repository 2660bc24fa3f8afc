<script setup lang="ts">
import { loops, logs, settings } from '@calm/contract/api/addresses'
import type { NewLog } from '@calm/contract/logs'
import type { Chart } from '@calm/core/chart'
import { recordedOf, recordingMapping, type RecordedRow } from '@calm/core/logs/recording'
import { sayDuration } from '@calm/core/logs/say-finding'
import { sayCount, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { plantTime } from '../../api/clock.ts'
import { useLive } from '../../api/live-cache.ts'
import { ON_LOOP, useDevice } from '../../device/use-device.ts'
import LinkPanel from '../../device/LinkPanel.vue'
import MemoryFetch from '../../device/MemoryFetch.vue'
import ChartView from '../../ui/ChartView.vue'
import NumberField from '../../ui/NumberField.vue'
import UnitPicker from '../../ui/UnitPicker.vue'
import { sayLogTime } from './say-time.ts'
import { useRecording } from './use-recording.ts'

/** A log that is recorded while somebody works: over the link, or typed from a counter or a meter beside it. */
const route = useRoute()
const router = useRouter()
const all = useLive(loops.list, {})
const known = useLive(logs.list, {})
const rules = useLive(settings.rules, {})
const recording = useRecording()

const asked = (key: string) => (typeof route.query[key] === 'string' ? route.query[key] : null)
const tag = ref(asked('loop'))
/** One that was begun and is not whole: gone on with, kept as it is, or given up. */
const begun = computed(
  () => known.data.value?.find((l) => l.id === asked('log') && l.state === 'open') ?? null,
)
const source = ref<'link' | 'memory' | 'typed'>('link')
watch(begun, (b) => {
  if (b?.source === 'typed') source.value = 'typed'
})
/** A real loop has no device here that could be asked. */
const isReal = computed(() => all.data.value?.find((l) => l.tag === tag.value)?.demo === false)
const sources = computed(() => [
  ...(isReal.value
    ? []
    : [
        { value: 'link', title: 'the device, over the link' },
        { value: 'memory', title: 'what the device remembers' },
      ]),
  { value: 'typed', title: 'readings that are typed' },
])
watch(
  isReal,
  (real) => {
    if (real) source.value = 'typed'
  },
  { immediate: true },
)
const STEPS = [1, 2, 5, 10, 60].map((value) => ({
  value,
  title: `every ${value < 60 ? `${value} s` : 'minute'}`,
}))
const every_s = ref(1)
const of = ref<NewLog['of']>('installed')
watch(source, (s) => {
  // What is typed while the loop runs is mostly what stands beside it.
  of.value = s === 'typed' ? 'reference' : 'installed'
})
const title = ref('')
const site = ref('')
const zone = computed(() => rules.data.value?.dates.timeZone ?? 'UTC')
const times = computed(() => ({ relative: false, zone: zone.value }))
const at = (path: string) => recording.problem.value?.at(path) ?? null

const detail = useLive(loops.one, () => (tag.value === null ? null : { loop: tag.value }))
const unit = ref('m3')
const pv = shallowRef<string | null>(null)
/** What the loop measures in is known: hasty hands begin no log in another unit. */
const isUnitKnown = ref(false)
watch(
  () => detail.data.value,
  async (d, before) => {
    isUnitKnown.value = false
    if (!d) return
    const { contextOf } = await import('@calm/core/loop/procedure-context')
    if (detail.data.value?.id !== d.id) return
    pv.value = contextOf(d.document)?.range.unit ?? null
    // Once a loop: news of it do not undo a unit that somebody chose.
    if (before?.id !== d.id) unit.value = pv.value ?? unit.value
    isUnitKnown.value = true
  },
  { immediate: true },
)

const deviceId = computed(() => (source.value !== 'typed' ? (detail.data.value?.id ?? null) : null))
const device = useDevice(deviceId)
const answers = computed(() => device.view.value?.connected === true && device.view.value.powered)
const rows = shallowRef<readonly RecordedRow[]>([])
const last_ms = ref<number | null>(null)
function took(more: readonly RecordedRow[]): void {
  recording.add(more)
  last_ms.value = more.at(-1)?.at_ms ?? last_ms.value
  rows.value = [...rows.value, ...more].slice(-SHOWN)
}
/** Rows that are drawn. */
const SHOWN = 300
const now = () => Date.parse(plantTime())
watch(device.view, (v) => {
  if (!v || !recording.running.value || !answers.value) return
  const readings = v.samples.map((s) => ({
    t_s: s.t_s,
    values: [s.measures === false ? null : s.PV, s.mA],
  }))
  took(recordedOf({ wall_ms: now(), t_s: v.t_s, speed: v.speed, readings }, last_ms.value, every_s.value))
})

const channels = computed(() =>
  source.value === 'link'
    ? [
        { name: 'Reading', unit: pv.value },
        { name: 'Current', unit: 'mA' },
      ]
    : [{ name: 'Typed', unit: unit.value }],
)
const shownUnit = computed(() => {
  const u = recording.log.value?.channels[0]?.unit ?? channels.value[0]?.unit ?? null
  return u === null ? '' : printedUnit(u)
})
async function begin(): Promise<void> {
  const b = begun.value
  const loop = tag.value
  if (loop === null) return
  const at_ms = now()
  const name = title.value.trim() || `Recorded ${sayLogTime(at_ms, times.value)}`
  const log: NewLog = b
    ? {
        ...{ id: b.id, title: b.title, of: b.of, source: b.source, site: b.site },
        ...{ files: b.files, mapping: b.mapping, instrument: null },
      }
    : {
        id: crypto.randomUUID(),
        title: name,
        of: of.value,
        source: source.value === 'typed' ? 'typed' : 'link',
        instrument: null,
        site: site.value,
        files: [`recorded ${sayLogTime(at_ms, times.value)}`],
        mapping: recordingMapping(channels.value, zone.value),
      }
  // What the device showed before it was begun is none of it.
  last_ms.value = at_ms
  rows.value = []
  await recording.begin(loop, log)
}
const typed = ref<number | null>(null)
/** Behind a number that was right something wrong was typed: nothing is taken that does not stand there. */
const isWrong = ref(false)
function take(): void {
  if (typed.value === null || isWrong.value) return
  // Two readings have two times.
  took([{ at_ms: Math.max(now(), (last_ms.value ?? 0) + 1), values: [typed.value] }])
  typed.value = null
}
async function keep(): Promise<void> {
  const log = await recording.keep()
  if (log) await router.push(`/logs/${log.tag}/${log.id}`)
}
/** What came of one that broke off, as it is. */
async function keepBegun(): Promise<void> {
  const b = begun.value
  if (!b) return
  recording.log.value = b
  await keep()
}
async function giveUpBegun(): Promise<void> {
  recording.log.value = begun.value
  await recording.giveUp()
  await router.push('/logs')
}

const newest = computed(() => rows.value.at(-1) ?? null)
const first_ms = computed(() => recording.log.value?.from ?? rows.value[0]?.at_ms ?? null)
const isSimulated = computed(() => recording.log.value?.simulated ?? source.value === 'link')
const chart = computed((): Chart => {
  const end = newest.value?.at_ms ?? 0
  const points = rows.value.flatMap((r) => {
    const v = r.values[0]
    return v === null || v === undefined ? [] : [[(r.at_ms - end) / 1000, v] as const]
  })
  const u = recording.log.value?.channels[0]?.unit ?? null
  return {
    title: 'What came last',
    says: `${points.length} readings, the last ${newest.value?.values[0] ?? 'none'} ${shownUnit.value}`,
    x: { label: 'before the last one', unit: 's' },
    y: { label: 'reading', ...(u === null ? {} : { unit: u }) },
    series: [
      { name: 'reading', kind: 'line', points, ...(isSimulated.value ? { simulated: true as const } : {}) },
    ],
  }
})
/** Readings of its memory that are on their way, and that are here. */
const fetching = computed(() => {
  const task = device.view.value?.task
  return task?.kind === 'history' ? task : null
})
const fetched = computed(() => fetching.value === null && (device.view.value?.download?.got ?? 0) > 0)
const isIdle = computed(() => !recording.running.value && recording.log.value?.state !== 'open')
</script>

<template>
  <div class="page stack">
    <p class="small"><router-link to="/logs">Logs</router-link></p>
    <h1>Record a log</h1>
    <p class="quiet">
      {{
        source === 'memory'
          ? 'What the device kept while nobody looked. Cancelled or cut off, it goes on where it stopped.'
          : 'It runs as long as this page is open, and is sent every ten seconds. What nobody saw stays a gap.'
      }}
    </p>
    <template v-if="isIdle">
      <div v-if="begun" class="answer stack">
        <p>
          “{{ begun.title }}” broke off: {{ sayCount(begun.rows) }} rows came<template
            v-if="begun.to !== null"
            >, the last {{ sayLogTime(begun.to, times) }}</template
          >.
        </p>
        <div class="row">
          <v-btn v-if="begun.rows > 0" variant="outlined" @click="keepBegun">Keep it as it is</v-btn>
          <v-btn variant="text" @click="giveUpBegun">Give it up</v-btn>
        </div>
      </div>
      <div v-else class="form">
        <v-autocomplete
          v-model="tag"
          :items="(all.data.value ?? []).map((l) => ({ value: l.tag, title: `${l.tag}  ${l.service}` }))"
          label="Loop"
          hide-details
          auto-select-first
        />
        <v-select v-model="source" label="Recorded from" :items="sources" hide-details />
        <v-select
          v-if="source === 'link'"
          v-model="every_s"
          label="Take a reading"
          :items="STEPS"
          hide-details
        />
        <UnitPicker v-if="source === 'typed'" v-model="unit" any label="Unit" />
        <template v-if="source !== 'memory'">
          <v-text-field
            v-model="title"
            label="Name of the log, else its time"
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
          <v-text-field v-model="site" label="Where" hide-details />
        </template>
      </div>
      <template v-if="source !== 'typed' && tag !== null">
        <p v-if="device.trouble.value" role="alert" class="trouble">{{ device.trouble.value }}</p>
        <template v-else-if="device.view.value && !answers && deviceId">
          <p>The device does not answer yet: connect it.</p>
          <LinkPanel :device-id="deviceId" :at="ON_LOOP" :busy="device.busy.value" :ask="device.ask" />
          <p v-if="device.answer.value && !device.answer.value.ok" role="alert" class="trouble">
            {{ device.answer.value.says }}
          </p>
        </template>
      </template>
      <template v-if="source === 'memory'">
        <template v-if="answers && device.view.value && deviceId && tag !== null">
          <MemoryFetch
            :loop-id="deviceId"
            :tag="tag"
            heading="h2"
            :device="device.view.value"
            :busy="device.busy.value"
            :ask="device.ask"
          />
          <p v-if="device.answer.value && !device.answer.value.ok" role="alert" class="trouble">
            {{ device.answer.value.says }}
          </p>
          <p v-if="fetching" role="status" class="row">
            <progress :value="fetching.progress" max="1" aria-label="How far it is fetched" />
            <span class="mono small">{{ fetching.left_s }} s to go</span>
            <v-btn variant="text" :disabled="device.busy.value" @click="device.ask({ kind: 'cancel' })"
              >Cancel</v-btn
            >
          </p>
        </template>
        <div class="row acts">
          <v-btn
            color="primary"
            variant="flat"
            height="48"
            :disabled="!fetched"
            @click="router.push(`/logs/read-in?loop=${tag}&from=memory`)"
            >Read it in</v-btn
          >
          <span v-if="!fetched" class="quiet">{{
            tag === null ? 'Choose the loop first.' : 'Fetch it first.'
          }}</span>
        </div>
      </template>
      <div v-else class="row acts">
        <v-btn
          color="primary"
          variant="flat"
          height="48"
          :disabled="tag === null || (begun === null && !isUnitKnown) || (source === 'link' && !answers)"
          @click="begin"
          >{{ begun ? 'Go on recording' : 'Record' }}</v-btn
        >
        <span v-if="tag === null" class="quiet">Choose the loop first.</span>
      </div>
    </template>
    <template v-else>
      <p>
        <span class="mono">{{ recording.log.value?.tag }}</span> {{ recording.log.value?.title }}
      </p>
      <p class="now" role="status">
        <span class="mono big" :class="{ simulated: isSimulated }"
          >{{
            newest?.values[0] === null ? 'no measurement' : newest ? sayNumber(newest.values[0] ?? 0, 6) : '–'
          }}
          {{ shownUnit }}</span
        >
        <span v-if="isSimulated" class="simulated small">simulated</span>
      </p>
      <p class="mono small">
        {{ sayCount(recording.rows.value) }} {{ recording.rows.value === 1 ? 'row' : 'rows' }}
        <template v-if="newest && first_ms !== null"
          >over {{ sayDuration(Math.max(0, newest.at_ms - first_ms) / 1000) }}</template
        >
        <template v-if="recording.waits.value > 0"> · {{ recording.waits.value }} not sent yet</template>
      </p>
      <p v-if="source === 'link' && recording.running.value && !answers" role="alert" class="trouble">
        The device does not answer: nothing is recorded until it does.
      </p>
      <p v-else-if="source === 'link' && (device.view.value?.speed ?? 1) > 1" class="small">
        The time of the stand-in runs {{ device.view.value?.speed }} times as fast: its readings stand at the
        times of the clock on the wall.
      </p>
      <form
        v-if="source === 'typed' && recording.running.value"
        class="row"
        novalidate
        @submit.prevent="take"
      >
        <NumberField
          v-model="typed"
          label="Reading now"
          :unit="recording.log.value?.channels[0]?.unit ?? null"
          class="typed"
          @wrong="isWrong = $event"
        />
        <v-btn type="submit" variant="outlined" height="48" :disabled="typed === null || isWrong"
          >Take it</v-btn
        >
      </form>
      <ChartView v-if="rows.length > 1" :chart="chart" :height="260" />
      <p v-if="recording.says.value" role="alert" class="trouble">{{ recording.says.value }}</p>
      <div class="row acts">
        <v-btn
          color="primary"
          variant="flat"
          height="48"
          :disabled="recording.rows.value === 0"
          @click="keep"
          >{{ recording.running.value ? 'Stop and keep' : 'Keep' }}</v-btn
        >
        <v-btn variant="text" height="48" @click="recording.giveUp()">Give up</v-btn>
      </div>
    </template>
    <p v-if="isIdle && recording.says.value" role="alert" class="trouble">{{ recording.says.value }}</p>
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
.simulated {
  color: var(--simulated);
}
.now {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
.big {
  font-size: var(--size-xxl);
}
.typed {
  max-width: 280px;
}
.acts {
  align-items: center;
}
h2 {
  font-size: var(--size-l);
}
progress {
  accent-color: var(--primary);
}
</style>
