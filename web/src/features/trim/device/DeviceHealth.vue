<script setup lang="ts">
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import type { Table } from '@calm/core/chart'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref } from 'vue'
import NumberField from '../../../ui/NumberField.vue'
import PlainTable from '../../../ui/PlainTable.vue'
import StateMark from '../../../ui/StateMark.vue'
import { nameOfSetting } from './setting-names.ts'

/** What the device says about itself, what is applied to it by hand, and how fast its time runs. */
const { device, unit, busy, ask } = defineProps<{
  device: DeviceView
  unit: string
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
const value = ref<number | null>(null)
const over_s = ref<number | null>(null)
const source_mA = ref<number | null>(null)
const METERS = [
  { value: 'calibrator', title: 'Loop calibrator' },
  { value: 'multimeter', title: 'Multimeter' },
] as const
const SPEEDS = [1, 5, 20].map((factor) => ({
  value: factor,
  title: factor === 1 ? 'as it does' : `${factor} times as fast`,
}))
const say = (x: number | null) => (x === null ? 'not yet' : sayNumber(x, 5))
const signals = computed((): Table => ({
  title: 'What the device says of itself',
  columns: ['', 'now', 'first check', 'last check', 'healthy'],
  rows: device.signals.map((s) => [
    s.title,
    `${sayNumber(s.value, 5)} ${printedUnit(s.unit)}`,
    say(s.reference),
    say(s.checked),
    s.low === undefined && s.high === undefined
      ? ''
      : s.high === undefined
        ? `from ${sayNumber(s.low ?? 0, 4)}`
        : s.low === undefined
          ? `to ${sayNumber(s.high, 4)}`
          : `${sayNumber(s.low, 4)} to ${sayNumber(s.high, 4)}`,
  ]),
}))
function apply(): void {
  if (value.value === null) return
  const ramp = over_s.value !== null && over_s.value >= 1 ? { over_s: Math.min(3600, over_s.value) } : {}
  void ask({ kind: 'apply', value: value.value, ...ramp })
}
</script>

<template>
  <div class="stack">
    <div v-if="device.relays.length > 0" class="row">
      <StateMark
        v-for="r in device.relays"
        :key="r.says"
        :state="r.energised ? 'look' : 'notYet'"
        :word="`${r.says}: ${r.energised ? 'energised' : 'not energised'}`"
      />
    </div>
    <div class="fields">
      <NumberField v-model="value" label="Apply" :unit="unit" />
      <NumberField v-model="over_s" label="as a ramp over (empty: at once)" unit="s" />
    </div>
    <div class="row">
      <v-btn :disabled="busy || value === null" @click="apply">Apply it</v-btn>
      <v-btn variant="text" :disabled="busy" @click="ask({ kind: 'apply', value: null })"
        >Process back on the sensor</v-btn
      >
    </div>
    <PlainTable v-if="device.signals.length > 0" :table="signals" />
    <p v-if="device.changedSinceCheck !== null">
      <template v-if="device.changedSinceCheck.length === 0"
        >Nothing was changed in its settings, range or trims since the last check.</template
      >
      <template v-else>
        Changed since the last check:
        <span v-for="c in device.changedSinceCheck" :key="c.key"
          >{{ nameOfSetting(c.key) }} <span class="mono">{{ c.from || 'nothing' }}</span> →
          <span class="mono">{{ c.to || 'nothing' }}</span>.
        </span>
      </template>
    </p>
    <p v-else class="quiet">Connect to see what it says of itself.</p>
    <p class="small quiet">
      Seen in its life: {{ sayNumber(device.history.lowest, 5) }} to
      {{ sayNumber(device.history.highest, 5) }} {{ unit }}; powered up {{ device.history.powerCycles }} ×,
      trimmed {{ device.history.trims }} ×.
    </p>
    <div class="fields">
      <v-select
        :model-value="METERS.find((m) => m.title === device.meter)?.value"
        :items="METERS"
        label="Meter in the loop"
        hide-details
        @update:model-value="ask({ kind: 'meter', meter: $event })"
      />
      <NumberField v-model="source_mA" label="Calibrator gives, in its place" unit="mA" />
      <v-select
        :model-value="device.speed"
        :items="SPEEDS"
        label="Time of the stand-in runs"
        hide-details
        @update:model-value="ask({ kind: 'speed', factor: $event })"
      />
    </div>
    <div class="row">
      <v-btn
        :disabled="busy || source_mA === null"
        @click="source_mA !== null && ask({ kind: 'source', mA: source_mA })"
        >Give the current</v-btn
      >
      <v-btn v-if="device.sourced_mA !== null" :disabled="busy" @click="ask({ kind: 'source', mA: null })"
        >Transmitter back into the loop</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 12px;
}
</style>
