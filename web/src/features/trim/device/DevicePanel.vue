<script setup lang="ts">
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import type { Chart } from '@calm/core/chart'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { Range } from '@calm/core/signal/stage'
import { computed, defineAsyncComponent, ref } from 'vue'
import ChartView from '../../../ui/ChartView.vue'
import { ON_LOOP } from '../../../device/use-device.ts'
import StateMark from '../../../ui/StateMark.vue'

const LinkPanel = defineAsyncComponent(() => import('../../../device/LinkPanel.vue'))
const ClampedPanel = defineAsyncComponent(() => import('./ClampedPanel.vue'))
const HoldsPanel = defineAsyncComponent(() => import('./HoldsPanel.vue'))
const DeviceFiles = defineAsyncComponent(() => import('./DeviceFiles.vue'))
const DeviceHealth = defineAsyncComponent(() => import('./DeviceHealth.vue'))
const ConfigurationPanel = defineAsyncComponent(() => import('./ConfigurationPanel.vue'))

/** The device on its link: what it reads now, and what can be asked of it. */
const { loopId, tag, device, range, mayWrite, busy, answer, trouble, ask } = defineProps<{
  loopId: string
  tag: string
  device: DeviceView | null
  /** As documented; the device may have been told another. */
  range: Range
  mayWrite: boolean
  busy: boolean
  answer: { readonly ok: boolean; readonly says: string } | null
  trouble: string | null
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
/** The plot goes back so far, s. */
const SHOWN_S = 120
const TASKS = {
  readAll: 'Reading all',
  healthCheck: 'Checks itself',
  history: 'Fetching readings',
  start: 'Searches its signal and makes itself ready',
} as const
/** Parts that were unfolded: each is fetched when somebody opens it. */
const opened = ref<Record<string, boolean>>({})
const unfold = (part: string, event: Event) => {
  if ((event.target as HTMLDetailsElement).open) opened.value[part] = true
}
const passcode = ref('')
const u = computed(() => printedUnit(range.unit))
/** As many decimals as a ten-thousandth of the span needs: fewer hide the drift, more are only noise. */
const decimals = computed(() => {
  const span = Math.abs(range.high - range.low)
  return span > 0 ? Math.max(0, 4 - Math.floor(Math.log10(span))) : 2
})
const last = computed(() => device?.samples.at(-1) ?? null)
const chart = computed((): Chart | null => {
  if (!device || !last.value) return null
  const now = last.value.t_s
  const points = device.samples
    .filter((s) => s.t_s > now - SHOWN_S)
    // While it measured nothing there is no line.
    .map((s): readonly [number, number] => [s.t_s - now, s.measures === false ? NaN : s.PV])
  return {
    title: 'The last two minutes, simulated',
    says:
      last.value.measures === false
        ? 'The transmitter measures nothing.'
        : `The transmitter reads ${sayNumber(last.value.PV, 5)} ${u.value}.`,
    x: { label: 'Before now', unit: 's' },
    y: { label: 'Reads', unit: range.unit },
    series: [{ name: 'simulated reading', kind: 'line', points, simulated: true }],
  }
})
async function unlock(): Promise<void> {
  await ask({ kind: 'unlock', passcode: passcode.value })
  passcode.value = ''
}
</script>

<template>
  <section class="stack" aria-label="Device">
    <div class="row">
      <h2>Stand-in <span class="simulated-word">simulated</span></h2>
      <span v-if="device" class="quiet">{{ device.family }}</span>
      <StateMark
        v-if="device"
        :state="!device.powered ? 'stop' : device.connected ? 'good' : 'notYet'"
        :word="
          !device.powered
            ? 'no supply'
            : device.connected
              ? device.unlocked
                ? 'linked, unlocked'
                : 'linked, locked'
              : 'not linked'
        "
      />
      <StateMark v-if="device?.fixed_mA != null" state="look" :word="`holds ${device.fixed_mA} mA`" />
      <StateMark
        v-if="device && device.sourced_mA !== null"
        state="look"
        :word="`calibrator gives ${device.sourced_mA} mA`"
      />
      <StateMark v-if="device && !device.stored" state="look" word="not stored" />
    </div>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <div v-if="last" class="numbers mono simulated" aria-hidden="true">
      <span>{{ last.measures === false ? '–' : roundText(last.PV, decimals) }} {{ u }}</span>
      <span>{{ last.mA.toFixed(3) }} mA</span>
    </div>
    <p v-if="device" class="small quiet">
      {{ device.meter }} in the loop.
      <template v-if="device.standardShows !== null"
        >{{ device.tool }}:
        <span class="mono simulated">{{ roundText(device.standardShows, decimals) }} {{ u }}</span></template
      >
    </p>
    <p v-for="a in device?.alerts ?? []" :key="a" class="alert">{{ a }}</p>
    <ChartView v-if="chart" :chart="chart" :height="190" />
    <p v-if="answer" :role="answer.ok ? 'status' : 'alert'" :class="{ trouble: !answer.ok }">
      {{ answer.says }}
    </p>
    <div v-if="device?.task" class="stack">
      <v-progress-linear
        :model-value="100 * device.task.progress"
        height="8"
        :aria-label="TASKS[device.task.kind]"
      />
      <div class="row">
        <span>{{ TASKS[device.task.kind] }}: {{ device.task.left_s }} s to go</span>
        <v-btn variant="text" :disabled="busy" @click="ask({ kind: 'cancel' })">Cancel</v-btn>
      </div>
    </div>
    <template v-if="mayWrite && device">
      <LinkPanel v-if="!device.connected" :device-id="loopId" :at="ON_LOOP" :busy="busy" :ask="ask" />
      <div v-else-if="!device.unlocked" class="row">
        <v-text-field
          v-model="passcode"
          label="Passcode, on its plate"
          autocomplete="off"
          inputmode="numeric"
          maxlength="20"
          class="narrow"
          messages="this stand-in: 2580"
          @keydown.enter="unlock"
        />
        <v-btn :disabled="busy || passcode === ''" @click="unlock">Unlock</v-btn>
      </div>
      <details v-if="device.clamped" @toggle="unfold('clamped', $event)">
        <summary>Clamped sensors and start</summary>
        <ClampedPanel
          v-if="opened['clamped']"
          :device="device"
          :clamped="device.clamped"
          :busy="busy"
          :ask="ask"
        />
      </details>
      <details @toggle="unfold('holds', $event)">
        <summary>What it holds, against the sheet</summary>
        <HoldsPanel v-if="opened['holds']" :loop-id="loopId" :device="device" :busy="busy" :ask="ask" />
      </details>
      <details @toggle="unfold('health', $event)">
        <summary>Health, relays and what is applied by hand</summary>
        <DeviceHealth v-if="opened['health']" :device="device" :unit="u" :busy="busy" :ask="ask" />
      </details>
      <details @toggle="unfold('files', $event)">
        <summary>Totals, readings from its memory, service files</summary>
        <DeviceFiles
          v-if="opened['files']"
          :loop-id="loopId"
          :tag="tag"
          :device="device"
          :busy="busy"
          :ask="ask"
        />
      </details>
      <details @toggle="unfold('configuration', $event)">
        <summary>Configuration and link</summary>
        <ConfigurationPanel
          v-if="opened['configuration']"
          :loop-id="loopId"
          :tag="tag"
          :device="device"
          :busy="busy"
          :ask="ask"
        />
      </details>
    </template>
  </section>
</template>

<style scoped>
details > :not(summary) {
  padding: 8px 0;
}
.simulated,
.simulated-word {
  color: var(--simulated);
}
.simulated {
  text-decoration: underline dotted;
  text-underline-offset: 6px;
}
.simulated-word {
  font-size: var(--size-m);
  font-weight: 400;
}
.numbers {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 32px;
  font-size: var(--size-line);
}
.narrow {
  max-width: 220px;
}
.trouble {
  color: var(--stop);
}
.alert {
  padding: 8px 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
</style>
