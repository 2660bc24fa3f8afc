<script setup lang="ts">
import { devices, urlOf } from '@calm/contract/api/addresses'
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import { estimate, notRemembered, RESOLUTIONS } from '@calm/core/device/log'
import { sayNumber } from '@calm/core/quantity/round'
import { mdiDownload } from '@mdi/js'
import { computed, ref } from 'vue'
import NumberField from '../ui/NumberField.vue'

/** Readings that the device remembers: how many, how large and how long before they are fetched, and gone on with. */
const {
  loopId,
  tag,
  device,
  busy,
  ask,
  heading = 'h3',
} = defineProps<{
  loopId: string
  tag: string
  device: DeviceView
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
  heading?: 'h2' | 'h3'
}>()
const sayTime = (s: number) => (s < 120 ? `${Math.round(s)} s` : `${sayNumber(s / 60, 2)} min`)
const sayBack = (hours: number) => (hours < 48 ? `${hours} h` : `${hours / 24} days`)
const STEPS = RESOLUTIONS.map((r) => ({
  value: r.every_s,
  title: `every ${r.every_s < 60 ? `${r.every_s} s` : `${r.every_s / 60} min`}, the last ${sayBack(r.hours)}`,
}))
const every_s = ref<number>(60)
const hours = ref<number | null>(24)
const cost = computed(() => (hours.value ? estimate(every_s.value, hours.value, device.remembers) : null))
const refused = computed(() => (hours.value ? notRemembered(every_s.value, hours.value) : null))
const rest = computed(() => {
  const d = device.download
  return d && d.got < d.rows && device.task === null ? d : null
})
</script>

<template>
  <section class="stack" aria-label="Readings from its memory">
    <component :is="heading">Readings from its memory</component>
    <div class="fields">
      <v-select v-model="every_s" :items="STEPS" label="How fine" hide-details />
      <NumberField v-model="hours" label="How far back" unit="h" />
    </div>
    <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
    <p v-else-if="cost" class="small quiet">
      {{ cost.rows }} readings, about {{ sayNumber(cost.bytes / 1024, 3) }} KB,
      {{ sayTime(cost.takes_s / device.speed) }} on this link.
    </p>
    <div class="row">
      <v-btn
        :disabled="
          busy || !device.connected || device.task !== null || !cost || cost.rows < 1 || refused !== null
        "
        @click="hours && ask({ kind: 'history', every_s, hours })"
        >Fetch</v-btn
      >
      <v-btn v-if="rest" :disabled="busy || !device.connected" @click="ask({ kind: 'resume' })"
        >Go on behind {{ rest.got }} of {{ rest.rows }}</v-btn
      >
      <v-btn
        v-if="device.download && device.download.got > 0"
        :href="urlOf(devices.history, { loop: loopId })"
        :download="`${tag}-history-simulated.csv`"
        :prepend-icon="mdiDownload"
        >{{ device.download.got }} readings as CSV</v-btn
      >
    </div>
    <p v-if="!device.connected" class="small quiet">Connect to fetch.</p>
  </section>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 12px;
}
.trouble {
  color: var(--stop);
}
</style>
