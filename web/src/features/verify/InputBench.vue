<script setup lang="ts">
import type { InputVerification } from '@calm/contract/inputs'
import type { Chart } from '@calm/core/chart'
import type { DiscreteInput } from '@calm/core/family/family'
import { factsOf } from '@calm/core/loop/facts'
import { parseNumberList } from '@calm/core/quantity/number-list'
import { debounce } from '@calm/core/verify/debounce'
import { roundText } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { plannedPoints } from '@calm/core/signal/relay-plan'
import { inputTable, type Alarm } from '@calm/core/verify/input-check'
import { saySecond } from '../../ui/dates.ts'
import { inputVerdict, judgeForced, judgePoints } from '@calm/core/verify/input-verdict'
import { computed, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import { useLoop } from '../../loop/loop-store.ts'
import ChartView from '../../ui/ChartView.vue'
import NextBar from '../../ui/NextBar.vue'
import NumberField from '../../ui/NumberField.vue'
import PlainTable from '../../ui/PlainTable.vue'
import StateMark from '../../ui/StateMark.vue'
import UnitPicker from '../../ui/UnitPicker.vue'
import { useInput } from './use-input.ts'

const NO_LOOP = { family: null, setUp: null, path: [], tolerance: null, unconfirmed: [], trips: [] }
const PLAIN_CONTACT: DiscreteInput = {
  tag: '',
  contact: 'no',
  filter_ms: 3,
  scan_ms: 10,
  counts: false,
  cycle: { ideal_s: 10, least_s: 8, most_s: 15 },
}

/** A loop that switches: what its input reads now, what it counts, forced both ways, and its switch point. */
const loop = useLoop()
const session = useSession()
/** The input as the loop's set-up has it; of another kind of loop, as a plain contact. */
const facts = computed(() => factsOf({ ...NO_LOOP, ...loop.detail?.document }))
const told = computed(() => facts.value.input ?? PLAIN_CONTACT)
const contact = computed(() => told.value.contact)
const counts = computed(() => told.value.counts)
const filter_ms = ref<number | null>(null)
const settings = computed(() => ({
  filter_ms: filter_ms.value ?? told.value.filter_ms + told.value.scan_ms,
  ...told.value.cycle,
}))
const input = useInput(() => loop.detail?.id ?? null, settings)

const live = computed(() => {
  const l = input.live.value
  if (!l) return null
  const accepted = debounce(l.edges, settings.value.filter_ms / 1000, l.t_s, l.edges[0]?.level === false)
  const level = accepted.at(-1)?.level ?? l.level
  return { raw: l, accepted, level }
})
const strip = computed((): Chart | null => {
  const l = live.value
  if (!l) return null
  const first = l.raw.edges[0]?.level === false
  const steps: [number, number][] = [[l.raw.from_s - l.raw.t_s, first ? 1 : 0]]
  for (const e of l.accepted) {
    const x = e.t - l.raw.t_s
    steps.push([x, e.level ? 0 : 1], [x, e.level ? 1 : 0])
  }
  steps.push([0, steps.at(-1)?.[1] ?? 0])
  return {
    title: 'The last minute, behind the filter',
    says: `The input reads ${l.level ? 1 : 0}.`,
    x: { label: 'Before now', unit: 's' },
    y: { label: 'Input', unit: '' },
    series: [{ name: 'input', kind: 'line', points: steps }],
  }
})

/** More alarms than these are in the file. */
const MOST_ALARMS = 5
const sayAlarm = (a: Alarm) =>
  `${saySecond(new Date(Date.parse(input.counted.value?.zero ?? '') + a.at_s * 1000))}: ${roundText(a.cycle_s, 2)} s, ${a.kind}`
const WINDOWS = [
  { seconds: 600, title: '10 min' },
  { seconds: 3600, title: '1 h' },
  { seconds: 4 * 3600, title: '4 h' },
]
const whileSensing = ref<0 | 1 | null>(null)
const whileNot = ref<0 | 1 | null>(null)
const forced = computed(() =>
  whileSensing.value === null || whileNot.value === null
    ? null
    : { whileSensing: whileSensing.value, whileNot: whileNot.value, contact: contact.value },
)
const BITS = [
  { value: 0, title: '0' },
  { value: 1, title: '1' },
]

const typed = ref({ trips: '', resets: '' })
/** Of setpoint, ramp and readings alike. */
const unit = ref(facts.value.relays?.unit ?? 'm')
/** A planned relay is compared with its own points; who knows better types another. */
const planned = computed(() =>
  facts.value.relays ? plannedPoints(facts.value.relays.plans, printedUnit(facts.value.relays.unit)) : [],
)
const chosen = ref<number | null>(planned.value.length > 0 ? 0 : null)
const point = ref<{
  setpoint: number | null
  rate: number | null
  latency_s: number | null
  T: number | null
}>({
  setpoint: planned.value[0]?.at ?? null,
  rate: null,
  latency_s: null,
  T: null,
})
function choose(index: number): void {
  chosen.value = index
  point.value.setpoint = planned.value[index]?.at ?? null
  unit.value = facts.value.relays?.unit ?? unit.value
  typed.value = { trips: '', resets: '' }
}
const listOf = (text: string): number[] | string => (text.trim() === '' ? [] : parseNumberList(text))
const wrongList = (text: string): string | undefined => {
  const list = listOf(text)
  return typeof list === 'string' ? list : undefined
}
const points = computed((): InputVerification['points'] => {
  const [trips, resets] = [listOf(typed.value.trips), listOf(typed.value.resets)]
  const { setpoint, rate, latency_s, T } = point.value
  if (typeof trips === 'string' || typeof resets === 'string' || trips.length === 0) return null
  if (setpoint === null || T === null || T <= 0) return null
  const plan = planned.value[chosen.value ?? -1]
  // Each of the two points may be off by T. Only of the point as planned: another one that was typed has no planned way back.
  const back = plan?.at === setpoint ? plan.deadband : null
  return {
    setpoint,
    unit: unit.value,
    rate: rate ?? 0,
    latency_s: latency_s ?? 0,
    trips,
    resets,
    T,
    deadbandLimits: back === null ? [0, 1e9] : [Math.max(0, back - 2 * T), back + 2 * T],
  }
})
const verdict = computed(() =>
  inputVerdict(
    input.result.value,
    forced.value && judgeForced(forced.value, forced.value.contact),
    points.value && judgePoints(points.value),
  ),
)
const looked = computed(() => forced.value !== null || input.result.value !== null || points.value !== null)
const record = () =>
  input.record({ revision: loop.detail?.revision ?? 1, forced: forced.value, points: points.value })
const next = computed(() => {
  if (!session.mayWrite) return 'You may look; technicians do the work.'
  if (input.stored.value)
    return input.stored.value.passes ? 'Recorded: it does what it should.' : 'Recorded: it does not.'
  if (!looked.value) return 'Force the input both ways, and count it where it counts.'
  return 'Record what was looked at.'
})
</script>

<template>
  <BenchFrame>
    <BenchSplit work="Input" beside="What it counts" fold="What it counts" work-first>
      <template #work>
        <h2>
          Input <span class="mono">{{ told.tag || loop.detail?.tag }}</span>
        </h2>
        <p v-if="input.trouble.value" role="alert" class="trouble">{{ input.trouble.value }}</p>
        <p v-if="live" class="now">
          <span class="mono bit">{{ live.level ? 1 : 0 }}</span>
          <StateMark
            :state="live.level ? 'good' : 'notYet'"
            :word="live.level === (contact === 'no') ? 'it senses' : 'it does not sense'"
          />
          <span class="quiet">{{ contact.toUpperCase() }} contact</span>
        </p>
        <ChartView v-if="strip" :chart="strip" :height="150" />
        <h3>Forced both ways</h3>
        <div class="field-grid">
          <v-select v-model="whileSensing" :items="BITS" label="Input while it senses" hide-details />
          <v-select v-model="whileNot" :items="BITS" label="Input while it does not" hide-details />
        </div>
        <details>
          <summary>A switch point, ramped to</summary>
          <div class="stack">
            <div class="field-grid">
              <v-select
                v-if="planned.length > 0"
                :model-value="chosen"
                :items="planned.map((p, value) => ({ value, title: p.says }))"
                label="Point of the relay plan"
                hide-details
                @update:model-value="choose($event)"
              />
              <UnitPicker v-model="unit" label="Unit of the point" any />
              <NumberField v-model="point.setpoint" label="Setpoint" :unit="unit" />
              <NumberField v-model="point.T" label="Allowed ±" :unit="unit" />
              <NumberField v-model="point.rate" label="Ramp a second, signed towards the trip" :unit="null" />
              <NumberField v-model="point.latency_s" label="Delay of scan and filter" unit="s" />
            </div>
            <v-text-field
              v-model="typed.trips"
              label="Trips at (three or more)"
              :error-messages="wrongList(typed.trips)"
            />
            <v-text-field
              v-model="typed.resets"
              label="Resets at"
              :error-messages="wrongList(typed.resets)"
            />
          </div>
        </details>
        <p class="caution small">
          Moving parts crush and a forced input can start a machine: locked and tagged out, or somebody at the
          stop, by the site’s rules.
        </p>
      </template>
      <template #beside>
        <div class="row">
          <h2>Counted</h2>
          <v-btn
            v-for="w in WINDOWS"
            :key="w.seconds"
            :disabled="input.busy.value"
            @click="input.count(w.seconds)"
            >the last {{ w.title }}</v-btn
          >
        </div>
        <p v-if="!counts" class="quiet small">
          This sensor is not set up for counting: usual cycle times are used.
        </p>
        <div class="field-grid">
          <NumberField v-model="filter_ms" :label="`Filter (empty: ${settings.filter_ms} ms)`" unit="ms" />
          <NumberField v-model="input.planned_s.value" label="Planned time (empty: all of it)" unit="s" />
          <NumberField v-model="input.good.value" label="Good ones (empty: all)" :unit="null" />
        </div>
        <div v-if="looked" class="verdict" aria-live="polite">
          <StateMark
            :state="verdict.passes ? 'good' : 'stop'"
            :word="verdict.passes ? 'It does what it should' : 'It does not do what it should'"
          />
          <p v-for="line in verdict.says" :key="line">{{ line }}</p>
        </div>
        <template v-if="input.result.value">
          <PlainTable :table="inputTable(input.result.value)" />
          <div class="row">
            <v-btn @click="input.saveCounts(told.tag || loop.detail?.tag || 'input')"
              >Counts and cycles (CSV)</v-btn
            >
          </div>
          <ul
            v-if="input.result.value.alarms.length > 0"
            class="alarms"
            aria-label="Cycles outside the limits"
          >
            <li v-for="a in input.result.value.alarms.slice(-MOST_ALARMS)" :key="a.at_s">
              <StateMark state="look" :word="sayAlarm(a)" />
            </li>
          </ul>
        </template>
      </template>
    </BenchSplit>
    <template #foot>
      <NextBar :next="next" :stored="input.stored.value ? 'stored in the record' : null">
        <v-btn
          v-if="session.mayWrite"
          color="primary"
          variant="flat"
          height="48"
          :disabled="!looked || input.busy.value"
          @click="record"
          >Record</v-btn
        >
      </NextBar>
    </template>
  </BenchFrame>
</template>

<style scoped>
.now {
  display: flex;
  align-items: center;
  gap: 16px;
}
.bit {
  font-size: var(--size-line);
  color: var(--copper);
}
.trouble {
  color: var(--stop);
}
.verdict {
  border-top: var(--line) solid var(--hair);
  padding-top: 12px;
}
.alarms {
  list-style: none;
  padding: 0;
}
.caution {
  border-left: 3px solid var(--look);
  padding: 4px 12px;
}
</style>
