<script setup lang="ts">
import type { Family } from '@calm/core/family/family'
import { rankSensors, sensorDifferences } from '@calm/core/family/sensor-choice'
import type { Typed } from '@calm/core/quantity/setting'
import { sensorKindOf } from '@calm/core/sensor/index'
import { SENSOR_STATE_TITLES } from '@calm/core/sensor/sensor'
import type { Sensor } from '@calm/contract/sensors'
import { computed, ref } from 'vue'
import { useSensors } from '../api/sensors.ts'
import StateMark from '../ui/StateMark.vue'

/** The sensor of the stock that this loop has: picked, so that nobody types its plate in the field. */
const {
  family,
  typed,
  sensorId,
  tag,
  readonly = false,
} = defineProps<{
  family: Family
  typed: Typed
  sensorId: string | null
  tag: string
  readonly?: boolean
}>()
const emit = defineEmits<{ pick: [sensor: Sensor | null] }>()
const { all } = useSensors()
const choosing = ref(false)
const kind = computed(() => sensorKindOf(family.sensor?.kind ?? ''))
const here = computed(() => all.value.find((s) => s.id === sensorId) ?? null)
const differences = computed(() =>
  here.value ? sensorDifferences(family, typed, here.value.description) : [],
)
const elsewhere = computed(() => here.value?.on.filter((t) => t !== tag) ?? [])
const ranked = computed(() => (choosing.value ? rankSensors(family, typed, all.value) : []))
const placeOf = (s: Sensor) =>
  s.id === sensorId
    ? 'on this loop'
    : s.on.length > 0
      ? `on ${s.on.join(' and ')}`
      : SENSOR_STATE_TITLES[s.description.state]
function pick(s: Sensor): void {
  choosing.value = false
  emit('pick', s)
}
</script>

<template>
  <section v-if="kind" class="stack sensor" :aria-label="kind.title">
    <div class="row">
      <span>
        {{ kind.title }}:
        <strong v-if="here" class="mono">{{ here.name }}</strong>
        <span v-else-if="sensorId" class="quiet">one that is not in the stock here</span>
        <span v-else class="quiet">none of the stock</span>
      </span>
      <v-btn v-if="!readonly" variant="outlined" :aria-expanded="choosing" @click="choosing = !choosing">{{
        choosing ? 'Close the stock' : here ? 'Take another' : 'Take one of the stock'
      }}</v-btn>
      <v-btn v-if="!readonly && sensorId" variant="text" @click="emit('pick', null)">Let it go</v-btn>
    </div>
    <p v-if="here && here.valid === false" class="row">
      <StateMark state="look" word="Look" /> The certificate of {{ here.name }} has ended.
    </p>
    <p v-if="here?.description.state === 'scrapped'" class="row">
      <StateMark state="stop" word="Stop" /> {{ here.name }} is scrapped:
      {{ here.reason || 'no reason given' }}.
    </p>
    <p v-if="elsewhere.length > 0" class="row">
      <StateMark state="stop" word="Stop" /> {{ here?.name }} is on {{ elsewhere.join(' and ') }} too: one of
      the two is wrong.
    </p>
    <div v-if="here && differences.length > 0" class="stack" role="status">
      <p class="row">
        <StateMark state="look" word="Look" /> Not as on the plate of {{ here.name }}:
        <v-btn v-if="!readonly" variant="outlined" @click="pick(here)">Take the plate’s</v-btn>
      </p>
      <ul>
        <li v-for="d in differences" :key="d.name">
          {{ d.title }}: <span class="mono">{{ d.here }}</span>, on the plate
          <span class="mono">{{ d.plate }}</span>
        </li>
      </ul>
    </div>
    <ul v-if="choosing" class="stock">
      <li v-for="r in ranked" :key="r.sensor.id">
        <div>
          <strong class="mono">{{ r.sensor.name }}</strong> <span class="quiet">{{ placeOf(r.sensor) }}</span>
          <div class="small">{{ kind.says(r.sensor.description.values) }}</div>
          <div v-for="says in r.impossible" :key="says" class="small no">Does not suit: {{ says }}</div>
          <div v-for="says in r.but" :key="says" class="small quiet">But: {{ says }}</div>
        </div>
        <v-btn
          v-if="r.sensor.id !== sensorId"
          :variant="r.impossible.length > 0 ? 'text' : 'outlined'"
          :aria-label="`Take ${r.sensor.name}`"
          @click="pick(r.sensor)"
          >Take</v-btn
        >
      </li>
      <li v-if="ranked.length === 0" class="quiet">
        The stock has none of this kind. Add it under Instruments, Sensors.
      </li>
    </ul>
  </section>
</template>

<style scoped>
.sensor {
  border-left: 3px solid var(--hair);
  padding-left: 12px;
}
.stock {
  list-style: none;
  padding: 0;
  margin: 0;
}
.stock li {
  display: flex;
  gap: 12px;
  align-items: center;
  justify-content: space-between;
  min-height: 48px;
  padding: 8px 0;
  border-bottom: var(--line) solid var(--hair);
}
.no {
  color: var(--stop);
}
</style>
