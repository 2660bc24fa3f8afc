<script setup lang="ts">
import { devices, urlOf } from '@calm/contract/api/addresses'
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { mdiDownload } from '@mdi/js'
import MemoryFetch from '../../../device/MemoryFetch.vue'

/** What the device remembers: its readings, its counts, what was done to it and what was wrong. */
const { loopId, tag, device, busy, ask } = defineProps<{
  loopId: string
  tag: string
  device: DeviceView
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
const sayTime = (s: number) => (s < 120 ? `${Math.round(s)} s` : `${sayNumber(s / 60, 2)} min`)
/** Device time before now, as long ago. */
const ago = (at_s: number) => `${sayTime(device.t_s - at_s)} ago`
</script>

<template>
  <div class="stack">
    <section v-if="device.totals.length > 0" class="stack" aria-label="Totalizers">
      <h3>Totalizers</h3>
      <div v-for="(t, i) in device.totals" :key="i" class="row">
        <span
          >{{ i === 0 ? 'Totalizer 1, forward' : 'Totalizer 2, forward less backward' }}
          <span class="mono simulated">{{ sayNumber(t.value, 6) }} {{ printedUnit(t.unit) }}</span></span
        >
        <v-btn
          v-if="device.unlocked"
          variant="text"
          :disabled="busy"
          :aria-label="`Set totalizer ${i + 1} to zero`"
          @click="ask({ kind: 'resetTotal', which: i === 0 ? 1 : 2 })"
          >Set to zero</v-btn
        >
      </div>
    </section>
    <MemoryFetch :loop-id="loopId" :tag="tag" :device="device" :busy="busy" :ask="ask" />
    <section class="stack" aria-label="Service files">
      <h3>Service files</h3>
      <div class="row">
        <v-btn
          :href="urlOf(devices.service, { loop: loopId, file: 'audit' })"
          :download="`${tag}-audit-simulated.csv`"
          :prepend-icon="mdiDownload"
          >Audit</v-btn
        >
        <v-btn
          :href="urlOf(devices.service, { loop: loopId, file: 'alarms' })"
          :download="`${tag}-alarms-simulated.csv`"
          :prepend-icon="mdiDownload"
          >Alarm list</v-btn
        >
      </div>
      <ol v-if="device.alarms.length > 0" class="small list">
        <li v-for="(a, i) in [...device.alarms].reverse().slice(0, 8)" :key="i">
          {{ a.says }}
          <span class="quiet"
            >{{ ago(a.at_s) }}{{ a.gone_s === null ? ', still there' : `, gone ${ago(a.gone_s)}` }}</span
          >
        </li>
      </ol>
      <p v-else class="small quiet">No alarm came so far.</p>
      <ol v-if="device.audit.length > 0" class="small list" aria-label="What was done last">
        <li v-for="(a, i) in device.audit.slice(-8)" :key="i">{{ a.says }}</li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 12px;
}
.list {
  padding-left: 20px;
}
.simulated {
  color: var(--simulated);
  text-decoration: underline dotted;
  text-underline-offset: 6px;
}
.trouble {
  color: var(--stop);
}
</style>
