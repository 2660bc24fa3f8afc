<script setup lang="ts">
import type {
  ConfigurationDifferences,
  DeviceBackup,
  DeviceOrder,
  DeviceView,
  LoadDifferences,
} from '@calm/contract/devices'
import { DeviceBackup as BackupSchema } from '@calm/contract/devices'
import { devices, urlOf } from '@calm/contract/api/addresses'
import { mdiDownload } from '@mdi/js'
import { computed, ref } from 'vue'
import { plantTime } from '../../../api/clock.ts'
import { call, sayProblem } from '../../../api/call.ts'
import { useLive } from '../../../api/live-cache.ts'
import { sayDay } from '../../../ui/dates.ts'
import { readTextFile } from '../../../ui/read-text-file.ts'
import { nameOfSetting } from './setting-names.ts'

/** The configuration: saved, compared, loaded, kept in the record; and the link's own business. */
const { loopId, tag, device, busy, ask } = defineProps<{
  loopId: string
  tag: string
  device: DeviceView
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
async function powerCycle(): Promise<void> {
  if (await ask({ kind: 'power', on: false })) await ask({ kind: 'power', on: true })
}

const differences = ref<LoadDifferences | null>(null)
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
      says.value = 'This file is not a configuration: it needs kind, LRV, URV and settings.'
      return
    }
    file.value = parsed.data
    differences.value = await call(devices.compare, { loop: loopId }, parsed.data)
    says.value = null
  } catch (error) {
    says.value = error instanceof SyntaxError ? 'This file is not JSON.' : sayProblem(error)
  }
}
/** Only what differs is written; a characterization of another sensor never is. */
async function write(): Promise<void> {
  const b = file.value
  if (!b) return
  const changed = new Set(differences.value?.changed.map((c) => c.key))
  const { keyed = {}, ...others } = b.settings
  const wanted = Object.fromEntries(
    Object.entries(others).filter(([k]) => changed.has(k) && k !== 'characterization'),
  )
  // Constants of another sensor’s plate are never written; a copy for others does not have them.
  const lines =
    differences.value?.otherSensor && b.kind === 'backup'
      ? {}
      : Object.fromEntries(Object.entries(keyed).filter(([line]) => changed.has(line)))
  if (Object.keys(lines).length > 0 && !(await ask({ kind: 'keyIn', lines }))) return
  if (Object.keys(wanted).length > 0) {
    if (!(await ask({ kind: 'write', settings: wanted }))) return
    if (!(await ask({ kind: 'applySettings' }))) return
  }
  if (changed.has('LRV') || changed.has('URV'))
    if (!(await ask({ kind: 'adjust', adjustment: { kind: 'range', LRV: b.LRV, URV: b.URV } }))) return
  differences.value = null
  file.value = null
}

const live = useLive(devices.configurations, () => ({ loop: loopId }))
const kept = computed(() => live.data.value ?? [])
const compared = ref<{ id: string; told: ConfigurationDifferences } | null>(null)
/** One identifier until it is stored: a second press keeps it once. */
let id = crypto.randomUUID()
async function keep(): Promise<void> {
  try {
    await call(devices.keep, { loop: loopId }, { id, at: plantTime(), note: '' })
    id = crypto.randomUUID()
    says.value = null
  } catch (error) {
    says.value = sayProblem(error)
  }
}
async function hold(one: string): Promise<void> {
  try {
    const told = await call(devices.differences, { loop: loopId, id: one })
    compared.value = { id: one, told }
  } catch (error) {
    says.value = sayProblem(error)
  }
}
const COMPARABLE = {
  COMPARABLE: 'Results before and after can be compared.',
  REVIEW: 'Look at it before results are compared: damping or alarm was changed.',
  NOT_COMPARABLE:
    'Results cannot be compared: what measures was changed. Verify again, or show the trim that explains it.',
} as const
</script>

<template>
  <div class="stack">
    <div class="row">
      <v-btn
        :href="urlOf(devices.backup, { loop: loopId, kind: 'backup' })"
        :download="`${tag}-backup.json`"
        :prepend-icon="mdiDownload"
        >Backup of this sensor</v-btn
      >
      <v-btn
        :href="urlOf(devices.backup, { loop: loopId, kind: 'copy' })"
        :download="`${tag}-copy.json`"
        :prepend-icon="mdiDownload"
        >Copy for others</v-btn
      >
    </div>
    <p class="small quiet">
      A backup holds the characterization of this sensor; a copy leaves it out, so that another sensor keeps
      its own.
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
            {{ nameOfSetting(c.key) }}: <span class="mono">{{ c.from || 'nothing' }}</span> becomes
            <span class="mono">{{ c.to || 'nothing' }}</span>
            <strong v-if="c.key === 'characterization'">: another sensor’s, will not be written</strong>
          </li>
        </ul>
        <v-btn :disabled="busy" @click="write">Write what differs</v-btn>
      </template>
    </template>
    <div class="row">
      <v-btn :disabled="busy || !device.connected || device.task !== null" @click="ask({ kind: 'readAll' })"
        >Read all</v-btn
      >
      <v-btn :disabled="busy || !device.connected" @click="ask({ kind: 'store' })">Store</v-btn>
      <v-btn :disabled="busy" @click="powerCycle">Power off and on</v-btn>
      <v-btn v-if="device.connected" :disabled="busy" @click="ask({ kind: 'disconnect' })">Disconnect</v-btn>
    </div>
    <h3>Kept in the record</h3>
    <div class="row">
      <v-btn :disabled="busy || !device.connected" @click="keep">Keep this configuration</v-btn>
    </div>
    <ul v-if="kept.length > 0" class="kept">
      <li v-for="k in kept.slice(0, 6)" :key="k.id">
        <v-btn variant="text" :aria-expanded="compared?.id === k.id" @click="hold(k.id)"
          >{{ sayDay(k.at.slice(0, 10)) }}, {{ k.byName }}</v-btn
        >
        <div v-if="compared?.id === k.id" class="stack compared">
          <template
            v-for="[title, list] in [
              ['Device now', compared.told.device],
              ['Documents', compared.told.record],
            ] as const"
            :key="title"
          >
            <p v-if="list === null">{{ title }}: no link, not compared.</p>
            <p v-else-if="list.length === 0">{{ title }}: the same.</p>
            <p v-else>
              {{ title }}:
              <span v-for="c in list" :key="c.key"
                >{{ nameOfSetting(c.key) }} <span class="mono">{{ c.from }}</span> →
                <span class="mono">{{ c.to }}</span>.
              </span>
            </p>
          </template>
          <p v-if="compared.told.verification">
            Last verification, {{ sayDay(compared.told.verification.at.slice(0, 10)) }}:
            {{ COMPARABLE[compared.told.verification.verdict] }}
          </p>
          <p v-else>No configuration was kept before the last verification.</p>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.kept {
  list-style: none;
  padding: 0;
}
.compared {
  padding: 4px 16px 8px;
}
.trouble {
  color: var(--stop);
}
</style>
