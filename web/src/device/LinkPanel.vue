<script setup lang="ts">
import type { DeviceOrder, LinkTest, Ports } from '@calm/contract/devices'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { sayProblem } from '../api/call.ts'
import StateMark from '../ui/StateMark.vue'
import type { DeviceAt } from './use-device.ts'

/** Finding the device: which port is new since the last look, and which part of the way does not answer. */
const { deviceId, at, busy, ask } = defineProps<{
  deviceId: string
  at: DeviceAt
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
const ports = shallowRef<Ports>([])
const before = shallowRef<Ports | null>(null)
const port = ref('A')
const parts = shallowRef<LinkTest>([])
const trouble = ref<string | null>(null)

async function look(): Promise<void> {
  try {
    const now = await at.ports(deviceId)
    before.value = ports.value.length > 0 ? ports.value : null
    ports.value = now
    trouble.value = null
  } catch (error) {
    trouble.value = sayProblem(error)
  }
}
onMounted(look)
/** What became of a port since the last look; nothing at the first one. */
function since(name: string, adaptor: boolean): string {
  const was = before.value?.find((p) => p.name === name)?.adaptor
  if (was === undefined || was === adaptor) return adaptor ? 'adaptor plugged in' : 'nothing plugged in'
  return adaptor ? 'new since the last look' : 'gone since the last look'
}
const items = computed(() =>
  ports.value.map((p) => ({ value: p.name, title: `Port ${p.name}: ${since(p.name, p.adaptor)}` })),
)
async function connect(): Promise<void> {
  try {
    parts.value = await at.linkTest(deviceId, port.value)
    trouble.value = null
  } catch (error) {
    trouble.value = sayProblem(error)
    return
  }
  if (parts.value.every((p) => p.answers)) await ask({ kind: 'connect', port: port.value })
}
const MARKS = { true: ['good', 'answers'], false: ['stop', 'silent'], null: ['notYet', 'not asked'] } as const
</script>

<template>
  <div class="stack">
    <div class="row">
      <v-select v-model="port" :items="items" label="Port" class="ports" hide-details />
      <v-btn :disabled="busy" @click="connect">Connect</v-btn>
      <v-btn variant="text" @click="look">Look again</v-btn>
    </div>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <div v-if="parts.some((p) => !p.answers)" role="alert">
      <ol class="parts" aria-label="The way to the device">
        <li v-for="p in parts" :key="p.part">
          <StateMark :state="MARKS[`${p.answers}`][0]" :word="`${p.part}: ${MARKS[`${p.answers}`][1]}`" />
          <span class="quiet">{{ p.says }}</span>
        </li>
      </ol>
    </div>
  </div>
</template>

<style scoped>
.ports {
  min-width: 220px;
}
.parts {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 8px;
}
.parts li {
  display: grid;
  gap: 2px;
}
.trouble {
  color: var(--stop);
}
</style>
