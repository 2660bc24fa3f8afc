<script setup lang="ts">
import { demonstration, judgeTrip, TRIP_TITLES, type TripPlan } from '@calm/core/instrument/switch/trip-plan'
import { TRIP_KINDS } from '@calm/core/instrument/switch/trip-relay'
import { computed, ref } from 'vue'
import FindingRow from '../../ui/FindingRow.vue'
import NumberField from '../../ui/NumberField.vue'
import TripChart from './TripChart.vue'

/** A relay on a moving distance: when it switches, what its contact does, and what a lost supply looks like. */
const plan = ref<TripPlan>({
  kind: 'hysteresisFar',
  V: 0.6,
  W: 0.25,
  protects: 'highLevel',
  contact: 'no',
  startUp: false,
  onInvalid: 'off',
  mounting_m: 4,
  waves_m: 0.05,
})
const findings = computed(() => judgeTrip(plan.value))
const moments = computed(() => demonstration(plan.value))
const kinds = TRIP_KINDS.map((value) => ({ value, title: TRIP_TITLES[value] }))
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
const FIELDS = [
  { name: 'V', label: 'Trip distance', least: 0 },
  { name: 'W', label: 'Window or hysteresis', least: 0 },
  { name: 'mounting_m', label: 'Sensor above the bottom', least: 0.01 },
  { name: 'waves_m', label: 'Height of the waves', least: 0 },
] as const
const wrong = ref<Partial<Record<(typeof FIELDS)[number]['name'], string>>>({})
function set(f: (typeof FIELDS)[number], value: number | null): void {
  const bad = value === null || value < f.least || value > 200
  wrong.value = { ...wrong.value, [f.name]: bad ? `Between ${f.least} and 200 m.` : undefined }
  if (!bad) plan.value = { ...plan.value, [f.name]: value }
}
</script>

<template>
  <section class="two-sides" aria-label="Trip planner">
    <div class="stack">
      <h2>Trip relay on a distance from above</h2>
      <v-select v-model="plan.protects" :items="PROTECTS" label="It protects against" />
      <v-select v-model="plan.kind" :items="kinds" label="Relay is" />
      <div class="field-grid">
        <NumberField
          v-for="f in FIELDS"
          :key="f.name"
          :model-value="plan[f.name]"
          :label="f.label"
          unit="m"
          :error="wrong[f.name] ?? null"
          @update:model-value="set(f, $event)"
        />
      </div>
      <v-select v-model="plan.contact" :items="CONTACTS" label="Contact in the permit" />
      <v-select v-model="plan.onInvalid" :items="INVALID" label="When the echo is lost" />
      <v-checkbox v-model="plan.startUp" label="Starts energised inside the hold band" />
    </div>
    <div class="stack">
      <TripChart :plan="plan" :moments="moments" />
      <FindingRow v-for="f in findings" :key="f.code" :finding="f" />
      <p class="small quiet">
        Protective functions belong to the site’s safety procedure. A pull-up resistor, a “hold” on invalid
        values or a bypass left in has no place in them.
      </p>
    </div>
  </section>
</template>
