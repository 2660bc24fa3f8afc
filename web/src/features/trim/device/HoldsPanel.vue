<script setup lang="ts">
import { devices } from '@calm/contract/api/addresses'
import type { DeviceMemory, DeviceOrder, DeviceView } from '@calm/contract/devices'
import { computed, ref, shallowRef, watch } from 'vue'
import { plantTime } from '../../../api/clock.ts'
import { call, sayProblem } from '../../../api/call.ts'
import StateMark from '../../../ui/StateMark.vue'

/** What the device holds, line by line, against the saved settings sheet; what differs comes first and is keyed in here. */
const { loopId, device, busy, ask } = defineProps<{
  loopId: string
  device: DeviceView
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
const lines = shallowRef<DeviceMemory>([])
const trouble = ref<string | null>(null)
/** Typed beside a line; what is not typed is keyed in as the sheet says. */
const typed = ref<Record<string, string>>({})

async function read(): Promise<void> {
  if (!device.connected || !device.powered) {
    lines.value = []
    return
  }
  try {
    lines.value = await call(devices.memory, { loop: loopId })
    trouble.value = null
  } catch (error) {
    trouble.value = sayProblem(error)
  }
}
watch(() => [device.connected, device.powered, device.settings?.keyed], read, { immediate: true })
const differing = computed(() => lines.value.filter((l) => !l.same))
const same = computed(() => lines.value.filter((l) => l.same))
/** What a line is keyed in as; null where neither the sheet nor anybody here knows it. */
const wanted = (line: DeviceMemory[number]): string | null => {
  const own = typed.value[line.says]?.trim() ?? ''
  return own === '' ? (/^(not entered|not known)$/.test(line.sheet ?? '') ? null : line.sheet) : own
}
async function keyIn(which: readonly DeviceMemory[number][]): Promise<void> {
  const values = which.flatMap((line) => {
    const value = wanted(line)
    return value === null ? [] : [[line.says, value] as const]
  })
  if (values.length === 0) return
  if (await ask({ kind: 'keyIn', lines: Object.fromEntries(values) })) {
    typed.value = {}
    await read()
  }
}
/** One identifier as long as what it holds stays: a second press records the same once. */
let id = crypto.randomUUID()
const recorded = ref<string | null>(null)
watch(lines, () => {
  id = crypto.randomUUID()
  recorded.value = null
})
async function record(): Promise<void> {
  try {
    const kept = await call(devices.keepMemory, { loop: loopId }, { id, at: plantTime() })
    const n = kept.lines.length
    recorded.value = `${n} ${n === 1 ? 'line is' : 'lines are'} in the record as read back, simulated.`
    trouble.value = null
  } catch (error) {
    trouble.value = sayProblem(error)
  }
}
const ready = computed(() => differing.value.filter((l) => wanted(l) !== null))
</script>

<template>
  <div class="stack">
    <p v-if="!device.connected" class="quiet">Connect to read what it holds.</p>
    <p v-else-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-else-if="lines.length === 0" class="quiet">
      Nothing is set up on this loop: there is no sheet to hold it against.
    </p>
    <template v-else>
      <p>
        <StateMark
          :state="differing.some((l) => l.vital) ? 'stop' : differing.length > 0 ? 'look' : 'good'"
          :word="
            differing.length === 0
              ? 'every line is as the sheet says'
              : `${differing.length} of ${lines.length} lines are not as the sheet says`
          "
        />
      </p>
      <ul v-if="differing.length > 0" class="lines">
        <li v-for="l in differing" :key="l.says">
          <strong>{{ l.says }}</strong>
          <span v-if="l.vital" class="trouble">without it nothing is measured</span>
          <span class="two">
            <span
              >sheet <span class="mono">{{ l.sheet ?? 'has no such line' }}</span></span
            >
            <span
              >holds <span class="mono">{{ l.holds ?? 'nothing' }}</span></span
            >
          </span>
          <span v-if="device.unlocked && l.sheet !== null" class="row">
            <v-text-field
              v-model="typed[l.says]"
              :label="`Key in ${l.says}`"
              :placeholder="wanted(l) ?? ''"
              persistent-placeholder
              maxlength="200"
              hide-details
              @keydown.enter="keyIn([l])"
            />
            <v-btn :disabled="busy || wanted(l) === null" @click="keyIn([l])">Key in</v-btn>
          </span>
        </li>
      </ul>
      <div class="row">
        <v-btn variant="outlined" :disabled="recorded !== null" @click="record">Record it as read back</v-btn>
        <span v-if="recorded" role="status">{{ recorded }}</span>
      </div>
      <div v-if="device.unlocked" class="row">
        <v-btn v-if="ready.length > 1" :disabled="busy" @click="keyIn(ready)"
          >Key in all {{ ready.length }} by the sheet</v-btn
        >
        <v-btn v-if="!device.stored" :disabled="busy" @click="ask({ kind: 'store' })">Store</v-btn>
      </div>
      <p v-else-if="differing.length > 0" class="quiet">Unlock it to key something in.</p>
      <p v-if="!device.stored" class="small quiet">What is not stored is gone with the supply.</p>
      <details v-if="same.length > 0">
        <summary>{{ same.length }} lines as the sheet says</summary>
        <ul class="lines">
          <li v-for="l in same" :key="l.says">
            {{ l.says }} <span class="mono">{{ l.holds }}</span>
          </li>
        </ul>
      </details>
    </template>
  </div>
</template>

<style scoped>
.lines {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 12px;
}
.lines li {
  display: grid;
  gap: 4px;
}
.two {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
}
.trouble {
  color: var(--stop);
}
</style>
