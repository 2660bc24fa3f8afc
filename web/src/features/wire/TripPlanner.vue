<script setup lang="ts">
import { factsOf } from '@calm/core/loop/facts'
import { keysOf } from '@calm/core/quantity/setting'
import { printedUnit } from '@calm/core/quantity/units'
import { demonstration, judgeRelay, judgeRelaysTogether } from '@calm/core/signal/relay-judgement'
import {
  MOST_RELAYS,
  RelayPlanSchema,
  sayRelay,
  soundTrip,
  usualRelay,
  type RelayPlan,
} from '@calm/core/signal/relay-plan'
import { endsOfTrip, TRIP_FORMS, tripSheet, type Trip } from '@calm/core/signal/trip'
import { demonstrate } from '@calm/core/wire/demonstrate'
import { mdiClose, mdiPlus } from '@mdi/js'
import { computed, ref } from 'vue'
import { useLoop } from '../../loop/loop-store.ts'
import { useDocumentField } from '../../loop/use-document-field.ts'
import FindingRow from '../../ui/FindingRow.vue'
import NumberField from '../../ui/NumberField.vue'
import TripChart, { type TripTrace } from './TripChart.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** The relays of the loop, planned once: for the bench, the trip test, the check and the paper. */
const { bench, readonly = false } = defineProps<{ bench: WiringBench; readonly?: boolean }>()
const loop = useLoop()
const field = useDocumentField(() => readonly)
const facts = computed(() => (loop.draft ? factsOf(loop.draft) : null))
const unit = computed(() => facts.value?.relays?.unit ?? '')
const plans = computed(() => loop.draft?.trips ?? [])
const chosen = ref(0)
const at = computed(() => Math.min(chosen.value, plans.value.length - 1))
const plan = computed(() => plans.value[at.value] ?? null)
/** What was typed may be impossible for a moment; then nothing is drawn or judged. */
const sound = computed(() => plans.value.filter((p) => RelayPlanSchema.safeParse(p).success))
const drawn = computed(() => (plan.value && sound.value.includes(plan.value) ? plan.value : null))

function set(change: Partial<RelayPlan>): void {
  if (plan.value)
    loop.setField(
      'trips',
      plans.value.map((p, i) => (i === at.value ? { ...p, ...change } : p)),
    )
}
function add(): void {
  const relays = facts.value?.relays
  if (!relays) return
  const names = plans.value.map((p) => p.name)
  let n = plans.value.length + 1
  while (names.includes(`K${n}`)) n++
  loop.setField('trips', [...plans.value, usualRelay(`K${n}`, relays.at4, relays.at20)])
  chosen.value = plans.value.length
}
const remove = (i: number) =>
  loop.setField(
    'trips',
    plans.value.filter((_, k) => k !== i),
  )
function tellBy(kind: Trip['kind']): void {
  const t = plan.value?.trip
  if (!t || t.kind === kind) return
  const [from, to] = endsOfTrip(t)
  set({
    trip:
      kind === 'band' ? { kind, from, to, onInside: true } : { kind, onAt: to, offAt: from, same: 'rising' },
  })
}

const BY = [
  { value: 'points', title: 'two points' },
  { value: 'band', title: 'a band' },
]
const SAME = [
  { value: 'falling', title: 'falling to it' },
  { value: 'rising', title: 'rising to it' },
]
const WHERE = [
  { value: true, title: 'inside the band' },
  { value: false, title: 'outside it' },
]
const FORMS = keysOf(TRIP_FORMS).map((value) => ({ value, title: TRIP_FORMS[value].title }))
const ALARMS = [
  { value: 'none', title: 'none: it controls' },
  { value: 'high', title: 'a value too high' },
  { value: 'low', title: 'a value too low' },
]
const CONTACTS = [
  { value: 'no', title: 'NO, closed when on' },
  { value: 'nc', title: 'NC, closed when off' },
]
const INVALID = [
  { value: 'off', title: 'relay off' },
  { value: 'on', title: 'relay on' },
  { value: 'hold', title: 'holds as it was' },
]
const findings = computed(() => {
  const place = facts.value?.relayPlace
  return drawn.value && place
    ? [...judgeRelay(drawn.value, place), ...judgeRelaysTogether(sound.value, place.unit)]
    : []
})
const sheet = computed(() =>
  drawn.value ? tripSheet(soundTrip(drawn.value.trip), drawn.value.form, printedUnit(unit.value)) : [],
)
const bandOf = (p: RelayPlan) => {
  const [low, high] = endsOfTrip(soundTrip(p.trip))
  return { name: p.name, low, high }
}
const trace = computed((): TripTrace | null => {
  const p = drawn.value
  if (!p) return null
  const moments = demonstration(p)
  const switches = moments.filter((m, i) => i > 0 && m.relay !== moments[i - 1]?.relay).length
  return {
    unit: printedUnit(unit.value),
    values: moments,
    bands: [bandOf(p)],
    rows: [
      { title: 'relay', on: moments.map((m) => m.relay) },
      { title: 'contact', on: moments.map((m) => m.closed) },
    ],
    says: `Through both points and back; grey: the signal is lost. ${p.name} switches ${switches} times. Without power the contact is ${p.contact === 'no' ? 'open' : 'closed'}.`,
  }
})

const hasController = computed(() => bench.parts.value.some((p) => p.kind.relays))
const from = ref<number | null>(null)
const drift_pct = ref<number | null>(0)
/** The process on the drawn wiring: what is wired wrongly moves wrongly. */
const ran = ref<TripTrace | null>(null)
function run(): void {
  const relays = facts.value?.relays
  if (!relays || sound.value.length === 0) return
  const [first] = sound.value
  const begin =
    from.value ?? (first ? bandOf(first).low - 0.02 * Math.abs(relays.at20 - relays.at4) : relays.at4)
  const d = demonstrate(
    bench.sound.value,
    { ...relays, plans: sound.value },
    {
      from: begin,
      drift: Math.min(100, Math.max(-100, drift_pct.value ?? 0)) / 100,
    },
  )
  const last = d.moments.at(-1)?.t_s ?? 1
  const loads = [...new Set(d.moments.flatMap((m) => m.on))]
  ran.value = {
    unit: printedUnit(relays.unit),
    values: d.moments.map((m) => ({ t: m.t_s / last, x: m.x })),
    bands: sound.value.map(bandOf),
    rows: [
      ...sound.value.map((p) => ({ title: p.name, on: d.moments.map((m) => m.energised.includes(p.name)) })),
      ...loads.map((id) => ({ title: id, on: d.moments.map((m) => m.on.includes(id)) })),
    ],
    says: `Simulated, two minutes on the wiring as it is drawn. ${d.says}`,
  }
}
</script>

<template>
  <section class="two-sides" aria-label="Relays">
    <div class="stack">
      <h2>Relays on this loop’s value</h2>
      <p v-if="!facts?.relays" class="quiet">
        A relay acts on a value, and this loop has no range yet. Enter the range on Scale first.
      </p>
      <template v-else>
        <ul v-if="plans.length > 0" class="plans">
          <li v-for="(p, i) in plans" :key="i" class="row">
            <button type="button" class="plan" :class="{ chosen: i === at }" @click="chosen = i">
              {{ sayRelay(p, printedUnit(unit)) }}
            </button>
            <v-btn
              v-if="!readonly"
              :icon="mdiClose"
              variant="text"
              :aria-label="`Remove ${p.name}`"
              @click="remove(i)"
            />
          </li>
        </ul>
        <p v-else class="quiet">
          No relay is planned. A plan is made once here and used on the bench, in the trip test, in the check
          and on the settings sheet.
        </p>
        <v-btn
          v-if="!readonly && plans.length < MOST_RELAYS"
          class="start"
          :prepend-icon="mdiPlus"
          @click="add"
          >Add a relay</v-btn
        >
        <template v-if="plan">
          <div class="field-grid">
            <v-text-field
              :model-value="plan.name"
              label="Name"
              maxlength="40"
              :error-messages="loop.wrong.get(`trips.${at}.name`)"
              :readonly="readonly"
              @update:model-value="set({ name: $event })"
            />
            <v-select
              :model-value="plan.trip.kind"
              :items="BY"
              label="Defined by"
              :readonly="readonly"
              @update:model-value="tellBy($event)"
            />
            <template v-if="plan.trip.kind === 'points'">
              <NumberField v-bind="field(`trips.${at}.trip.onAt`, unit)" label="Switches on at" />
              <NumberField v-bind="field(`trips.${at}.trip.offAt`, unit)" label="Switches off at" />
            </template>
            <template v-else>
              <NumberField v-bind="field(`trips.${at}.trip.from`, unit)" label="Band from" />
              <NumberField v-bind="field(`trips.${at}.trip.to`, unit)" label="Band to" />
            </template>
            <NumberField v-bind="field(`trips.${at}.waves`, unit)" label="Waves or noise" />
          </div>
          <v-select
            v-if="plan.trip.kind === 'points' && plan.trip.onAt === plan.trip.offAt"
            :model-value="plan.trip.same"
            :items="SAME"
            label="On when"
            :readonly="readonly"
            @update:model-value="plan.trip.kind === 'points' && set({ trip: { ...plan.trip, same: $event } })"
          />
          <v-select
            v-if="plan.trip.kind === 'band'"
            :model-value="plan.trip.onInside"
            :items="WHERE"
            label="On"
            :readonly="readonly"
            @update:model-value="
              plan.trip.kind === 'band' && set({ trip: { ...plan.trip, onInside: $event } })
            "
          />
          <div class="field-grid">
            <v-select
              :model-value="plan.alarm"
              :items="ALARMS"
              label="It protects against"
              :readonly="readonly"
              @update:model-value="set({ alarm: $event })"
            />
            <v-select
              :model-value="plan.contact"
              :items="CONTACTS"
              label="Contact in use"
              :readonly="readonly"
              @update:model-value="set({ contact: $event })"
            />
            <v-select
              :model-value="plan.onInvalid"
              :items="INVALID"
              label="When the signal is lost"
              :readonly="readonly"
              @update:model-value="set({ onInvalid: $event })"
            />
            <v-select
              :model-value="plan.form"
              :items="FORMS"
              label="The controller asks for"
              :readonly="readonly"
              @update:model-value="set({ form: $event })"
            />
          </div>
          <v-checkbox
            :model-value="plan.startUp"
            label="Energised at power-up between its two points"
            :readonly="readonly"
            @update:model-value="set({ startUp: $event === true })"
          />
        </template>
      </template>
    </div>
    <div class="stack">
      <template v-if="drawn && trace">
        <FindingRow v-for="f in findings" :key="f.code + f.where.join()" :finding="f" />
        <TripChart :trace="trace" />
        <h3>Keyed in at the controller</h3>
        <dl class="sheet">
          <template v-for="l in sheet" :key="l.says">
            <dt>{{ l.says }}</dt>
            <dd class="mono">{{ l.value }}</dd>
          </template>
        </dl>
        <template v-if="hasController">
          <h3>Let it run on the drawn wiring</h3>
          <div class="row">
            <NumberField v-model="from" label="Value at the start" :unit="unit" />
            <NumberField v-model="drift_pct" label="By itself, of span a second" unit="%" />
            <v-btn @click="run">Let it run</v-btn>
          </div>
          <TripChart v-if="ran" :trace="ran" />
        </template>
        <p v-else class="quiet small">
          Put a controller with relays among the parts, and motors on its relays, to see them move the value.
        </p>
      </template>
      <p class="small quiet">
        Protective functions belong to the site’s safety procedure. A pull-up resistor, a “hold” on invalid
        values or a bypass left in has no place in them.
      </p>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
}
.sheet dd {
  margin: 0;
}
.plans {
  list-style: none;
  padding: 0;
}
.plans .row {
  flex-wrap: nowrap;
}
.plan {
  flex: 1;
  min-height: var(--target);
  text-align: left;
  border: 0;
  border-bottom: var(--line) solid var(--hair);
  background: transparent;
  color: var(--ink);
  font: inherit;
  padding: 4px 8px;
  cursor: pointer;
}
.chosen {
  box-shadow: inset 3px 0 0 var(--accent);
}
.start {
  align-self: start;
}
</style>
