<script setup lang="ts">
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import { sayNumber } from '@calm/core/quantity/round'
import { ref } from 'vue'
import NumberField from '../../../ui/NumberField.vue'
import StateMark from '../../../ui/StateMark.vue'

/** Clamped sensors: where they stand, and whether the meter was started. */
const { device, clamped, busy, ask } = defineProps<{
  device: DeviceView
  clamped: NonNullable<DeviceView['clamped']>
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
const off_mm = ref<number | null>(null)
</script>

<template>
  <div class="stack">
    <p>
      <StateMark
        :state="clamped.started ? 'good' : 'stop'"
        :word="clamped.started ? 'started' : 'not started: it measures nothing'"
      />
    </p>
    <p>
      {{ clamped.moves }} stands {{ sayNumber(clamped.off_mm, 3) }} mm from where the sheet has it. The best
      signal lies at the top of a parabola through three places.
    </p>
    <div class="row">
      <NumberField v-model="off_mm" label="Set it to, from the sheet’s place" unit="mm" />
      <v-btn :disabled="busy || off_mm === null" @click="off_mm !== null && ask({ kind: 'place', off_mm })"
        >Move it</v-btn
      >
    </div>
    <v-btn
      v-if="device.unlocked"
      :disabled="busy || device.task !== null"
      class="begin"
      @click="ask({ kind: 'start' })"
      >Start it: search the frequency, make ready</v-btn
    >
    <p v-else class="quiet">Connect and unlock it to start it.</p>
  </div>
</template>

<style scoped>
.begin {
  justify-self: start;
}
</style>
