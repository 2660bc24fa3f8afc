<script setup lang="ts">
import type { DeviceBackup, DeviceOrder, DeviceView } from '@calm/contract/devices'
import { DeviceBackup as BackupSchema } from '@calm/contract/devices'
import type { Chart } from '@calm/core/chart'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { Range } from '@calm/core/signal/stage'
import { mdiDownload } from '@mdi/js'
import { computed, ref } from 'vue'
import { api, sayProblem } from '../../api/http.ts'
import ChartView from '../../ui/ChartView.vue'
import { readTextFile } from '../../ui/read-text-file.ts'
import StateMark from '../../ui/StateMark.vue'

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
const PORTS = ['A', 'B', 'C']
const port = ref('A')
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
  const points = device.samples.map((s): readonly [number, number] => [s.t_s - now, s.PV])
  return {
    title: 'The last half minute',
    says: `The transmitter reads ${sayNumber(last.value.PV, 5)} ${u.value}.`,
    x: { label: 'Before now', unit: 's' },
    y: { label: 'Reads', unit: range.unit },
    series: [{ name: 'reading', kind: 'line', points }],
  }
})
async function unlock(): Promise<void> {
  await ask({ kind: 'unlock', passcode: passcode.value })
  passcode.value = ''
}
async function powerCycle(): Promise<void> {
  if (await ask({ kind: 'power', on: false })) await ask({ kind: 'power', on: true })
}

const differences = ref<{
  otherSensor: boolean
  changed: { key: string; from: string; to: string }[]
} | null>(null)
const file = ref<DeviceBackup | null>(null)
const says = ref<string | null>(null)
async function compare(picked: File | File[] | null): Promise<void> {
  const one = Array.isArray(picked) ? picked[0] : picked
  differences.value = null
  file.value = null
  if (!one) return
  try {
    const parsed = BackupSchema.safeParse(JSON.parse(await readTextFile(one)))
    if (!parsed.success) {
      says.value = 'This file is no configuration: it needs kind, LRV, URV and settings.'
      return
    }
    file.value = parsed.data
    differences.value = await api('POST', `/api/loops/${loopId}/device/differences`, parsed.data)
    says.value = null
  } catch (error) {
    says.value = error instanceof SyntaxError ? 'This file is not JSON.' : sayProblem(error)
  }
}
const NAMES: Readonly<Record<string, string>> = {
  LRV: '4 mA point',
  URV: '20 mA point',
  damping_s: 'Damping, s',
  alarm: 'Alarm direction',
  descriptor: 'Descriptor',
  characterization: 'Characterization of the sensor',
}
/** Only what differs is written; a characterization of another sensor never is. */
async function write(): Promise<void> {
  const b = file.value
  if (!b) return
  const changed = new Set(differences.value?.changed.map((c) => c.key))
  const wanted = Object.fromEntries(
    Object.entries(b.settings).filter(([k]) => changed.has(k) && k !== 'characterization'),
  )
  if (Object.keys(wanted).length > 0) {
    if (!(await ask({ kind: 'write', settings: wanted }))) return
    if (!(await ask({ kind: 'applySettings' }))) return
  }
  if (changed.has('LRV') || changed.has('URV'))
    if (!(await ask({ kind: 'adjust', adjustment: { kind: 'range', LRV: b.LRV, URV: b.URV } }))) return
  differences.value = null
  file.value = null
}
</script>

<template>
  <section class="stack" aria-label="Device">
    <div class="row">
      <h2>Device</h2>
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
      <StateMark v-if="device && !device.stored" state="look" word="not stored" />
    </div>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <div v-if="last" class="numbers mono measured" aria-hidden="true">
      <span>{{ roundText(last.PV, decimals) }} {{ u }}</span>
      <span>{{ last.mA.toFixed(3) }} mA</span>
    </div>
    <ChartView v-if="chart" :chart="chart" :height="190" />
    <p v-if="answer" :role="answer.ok ? 'status' : 'alert'" :class="{ trouble: !answer.ok }">
      {{ answer.says }}
    </p>
    <template v-if="mayWrite && device">
      <div v-if="!device.connected" class="row">
        <v-select v-model="port" :items="PORTS" label="Port" class="narrow" />
        <v-btn :disabled="busy" @click="ask({ kind: 'connect', port })">Connect</v-btn>
      </div>
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
      <details>
        <summary>Configuration and link</summary>
        <div class="stack inner">
          <div class="row">
            <v-btn
              :href="`/api/loops/${loopId}/device/backup?kind=backup`"
              :download="`${tag}-backup.json`"
              :prepend-icon="mdiDownload"
              >Backup of this sensor</v-btn
            >
            <v-btn
              :href="`/api/loops/${loopId}/device/backup?kind=copy`"
              :download="`${tag}-copy.json`"
              :prepend-icon="mdiDownload"
              >Copy for others</v-btn
            >
          </div>
          <p class="small quiet">
            A backup holds the characterization of this sensor; a copy leaves it out, so that another sensor
            keeps its own.
          </p>
          <v-file-input
            label="Compare a configuration file"
            accept="application/json,.json"
            @update:model-value="compare"
          />
          <p v-if="says" role="alert" class="trouble">{{ says }}</p>
          <template v-if="differences">
            <p v-if="differences.changed.length === 0">The device holds exactly this.</p>
            <template v-else>
              <p><strong>Would be overwritten:</strong></p>
              <ul>
                <li v-for="c in differences.changed" :key="c.key">
                  {{ NAMES[c.key] ?? c.key }}: <span class="mono">{{ c.from || 'nothing' }}</span> becomes
                  <span class="mono">{{ c.to || 'nothing' }}</span>
                  <strong v-if="c.key === 'characterization'">: another sensor’s, will not be written</strong>
                </li>
              </ul>
              <v-btn :disabled="busy" @click="write">Write what differs</v-btn>
            </template>
          </template>
          <div class="row">
            <v-btn :disabled="busy || !device.connected" @click="ask({ kind: 'store' })">Store</v-btn>
            <v-btn :disabled="busy" @click="powerCycle">Power off and on</v-btn>
            <v-btn v-if="device.connected" :disabled="busy" @click="ask({ kind: 'disconnect' })"
              >Disconnect</v-btn
            >
          </div>
          <ol v-if="device.audit.length > 0" class="audit small">
            <li v-for="(a, i) in device.audit.slice(-8)" :key="i">{{ a.says }}</li>
          </ol>
        </div>
      </details>
    </template>
  </section>
</template>

<style scoped>
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
summary {
  min-height: var(--target);
  padding: 10px 0;
  cursor: pointer;
}
.inner {
  padding: 8px 0;
}
.audit {
  padding-left: 20px;
}
</style>
