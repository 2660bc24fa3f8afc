<script setup lang="ts">
import {
  INPUT_KINDS,
  lostSettings,
  withType,
  type InputKind,
  type Retyped,
} from '@calm/core/scale/type-change'
import { keysOf } from '@calm/core/quantity/setting'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { computed, ref } from 'vue'
import { useLoop } from '../../loop/loop-store.ts'

/** Before the input type of a receiver is changed: what goes with it, and the list of it that stays. */
const { kind } = defineProps<{ kind: Retyped }>()
const loop = useLoop()
const isOpen = ref(false)
const type = ref<InputKind>('4-20')
const KINDS = computed(() =>
  keysOf(INPUT_KINDS)
    .filter((k) => kind !== 'input' || k === '4-20' || k === '0-20')
    .map((value) => ({ value, title: INPUT_KINDS[value] })),
)
const name = computed(() => STATION_NAMES[kind].toLowerCase())
const lost = computed(() => lostSettings(loop.draft?.path ?? [], kind))
function change(): void {
  const gone = lost.value
  loop.change((d) => {
    const { stages, assumed } = withType(d.path, kind, type.value)
    return {
      ...d,
      path: stages,
      toKeyIn: [...d.toKeyIn.filter((k) => k.of !== STATION_NAMES[kind]), ...gone].slice(0, 40),
      unconfirmed: [...new Set([...d.unconfirmed, ...assumed])],
    }
  })
  isOpen.value = false
}
</script>

<template>
  <v-btn variant="text" @click="isOpen = true">Change the input type of the {{ name }}</v-btn>
  <v-dialog v-model="isOpen">
    <v-card :title="`Input type of the ${name}`">
      <v-card-text class="stack">
        <p>
          Changing the input type resets everything else in the {{ name }}. These values go. They are kept as
          a list with this loop until they are keyed in again: take it along before you change the type.
        </p>
        <table>
          <tbody>
            <tr v-for="l in lost" :key="l.says">
              <th scope="row">{{ l.says }}</th>
              <td class="mono">{{ l.value }}</td>
            </tr>
          </tbody>
        </table>
        <v-select v-model="type" :items="KINDS" label="New input type" />
      </v-card-text>
      <v-card-actions>
        <v-btn @click="isOpen = false">Leave it as it is</v-btn>
        <v-btn color="primary" variant="flat" @click="change">Change the type, keep the list</v-btn>
      </v-card-actions>
    </v-card>
  </v-dialog>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 4px 24px 4px 0;
}
</style>
