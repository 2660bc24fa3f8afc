<script setup lang="ts">
import { demonstration, judgeTrip, type TripPlan } from '@calm/core/family/switch/trip-plan'
import { tripSheet, TRIP_FORMS, type Trip, type TripForm } from '@calm/core/family/switch/trip'
import { keysOf } from '@calm/core/quantity/setting'
import { computed, ref } from 'vue'
import FindingRow from '../../ui/FindingRow.vue'
import NumberField from '../../ui/NumberField.vue'
import TripChart from './TripChart.vue'

/** A relay on a moving distance: when it switches, what its contact does, and what a lost supply looks like. */
const numbers = ref({ onAt: 0.85, offAt: 0.6, from: 0.6, to: 0.85, mounting_m: 4, waves_m: 0.05 })
const by = ref<'points' | 'band'>('points')
const same = ref<'falling' | 'rising'>('rising')
const onWhere = ref<'inside' | 'outside'>('inside')
const form = ref<TripForm>('points')
const trip = computed((): Trip => {
  const { onAt, offAt, from, to } = numbers.value
  return by.value === 'points'
    ? { kind: 'points', onAt, offAt, same: same.value }
    : { kind: 'band', from: Math.min(from, to), to: Math.max(from, to), onInside: onWhere.value === 'inside' }
})
const choices = ref<Pick<TripPlan, 'protects' | 'contact' | 'startUp' | 'onInvalid'>>({
  protects: 'highLevel',
  contact: 'no',
  startUp: false,
  onInvalid: 'off',
})
const plan = computed((): TripPlan => {
  const { mounting_m, waves_m } = numbers.value
  return { ...choices.value, trip: trip.value, mounting_m, waves_m }
})
const findings = computed(() => judgeTrip(plan.value))
const moments = computed(() => demonstration(plan.value))
const sheet = computed(() => tripSheet(trip.value, form.value, 'm'))
const BY = [
  { value: 'points', title: 'where it switches on and where off' },
  { value: 'band', title: 'a band' },
]
const SAME = [
  { value: 'falling', title: 'falling to it' },
  { value: 'rising', title: 'rising to it' },
]
const WHERE = [
  { value: 'inside', title: 'inside the band' },
  { value: 'outside', title: 'outside it' },
]
const FORMS = keysOf(TRIP_FORMS).map((value) => ({ value, title: TRIP_FORMS[value].title }))
const PROTECTS = [
  { value: 'highLevel', title: 'a level too high' },
  { value: 'lowLevel', title: 'a level too low' },
]
const CONTACTS = [
  { value: 'no', title: 'NO, closed while energised' },
  { value: 'nc', title: 'NC, closed while off' },
]
const INVALID = [
  { value: 'off', title: 'relay off' },
  { value: 'on', title: 'relay on' },
  { value: 'hold', title: 'hold as it was' },
]
interface Field {
  readonly name: keyof (typeof numbers)['value']
  readonly label: string
  readonly least: number
}
const PLACE: readonly Field[] = [
  { name: 'mounting_m', label: 'Sensor above the bottom', least: 0.01 },
  { name: 'waves_m', label: 'Height of the waves', least: 0 },
]
const fields = computed((): readonly Field[] => [
  ...(by.value === 'points'
    ? [
        { name: 'onAt' as const, label: 'Switches on at a distance of', least: 0 },
        { name: 'offAt' as const, label: 'Switches off at a distance of', least: 0 },
      ]
    : [
        { name: 'from' as const, label: 'Band from', least: 0 },
        { name: 'to' as const, label: 'Band to', least: 0 },
      ]),
  ...PLACE,
])
const wrong = ref<Partial<Record<Field['name'], string>>>({})
function set(f: Field, value: number | null): void {
  const bad = value === null || value < f.least || value > 200
  wrong.value = { ...wrong.value, [f.name]: bad ? `Between ${f.least} and 200 m.` : undefined }
  if (!bad) numbers.value = { ...numbers.value, [f.name]: value }
}
</script>

<template>
  <section class="two-sides" aria-label="Trip planner">
    <div class="stack">
      <h2>Trip relay on a distance from above</h2>
      <v-select v-model="choices.protects" :items="PROTECTS" label="It protects against" />
      <v-select v-model="by" :items="BY" label="It is told by" />
      <div class="field-grid">
        <NumberField
          v-for="f in fields"
          :key="f.name"
          :model-value="numbers[f.name]"
          :label="f.label"
          unit="m"
          :error="wrong[f.name] ?? null"
          @update:model-value="set(f, $event)"
        />
      </div>
      <v-select
        v-if="by === 'points' && numbers.onAt === numbers.offAt"
        v-model="same"
        :items="SAME"
        label="On when"
      />
      <v-select v-if="by === 'band'" v-model="onWhere" :items="WHERE" label="On" />
      <v-select v-model="choices.contact" :items="CONTACTS" label="Contact in the permit" />
      <v-select v-model="choices.onInvalid" :items="INVALID" label="When the echo is lost" />
      <v-checkbox v-model="choices.startUp" label="Starts energised inside the hold band" />
    </div>
    <div class="stack">
      <TripChart :plan="plan" :moments="moments" />
      <v-select v-model="form" :items="FORMS" label="The controller asks for" hide-details />
      <dl class="sheet">
        <template v-for="l in sheet" :key="l.says">
          <dt>{{ l.says }}</dt>
          <dd class="mono">{{ l.value }}</dd>
        </template>
      </dl>
      <FindingRow v-for="f in findings" :key="f.code" :finding="f" />
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
</style>
