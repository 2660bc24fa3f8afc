<script setup lang="ts">
import { computed } from 'vue'
import { useLoop } from '../../loop/loop-store.ts'
import { saveCsv } from '../../ui/save-csv.ts'

/** Settings that a receiver lost with its input type, until each is keyed in again. */
const { readonly } = defineProps<{ readonly: boolean }>()
const loop = useLoop()
const list = computed(() => loop.draft?.toKeyIn ?? [])
const done = (i: number) =>
  loop.setField(
    'toKeyIn',
    list.value.filter((_, k) => k !== i),
  )
const print = () => window.print()
function csv(): void {
  const rows = [
    ['tag', 'receiver', 'setting', 'value', 'keyed in', 'read back'],
    ...list.value.map((k) => [loop.draft?.tag ?? '', k.of, k.says, k.value].concat(['', ''])),
  ]
  void saveCsv(`${loop.draft?.tag}-to-key-in.csv`, rows)
}
</script>

<template>
  <section v-if="list.length > 0" class="stack" aria-label="To be keyed in again">
    <h2>To be keyed in again</h2>
    <p>
      The input type was changed; the receiver stands at its defaults. Tick each value once it reads back.
    </p>
    <table>
      <thead>
        <tr>
          <th scope="col">Receiver</th>
          <th scope="col">Setting</th>
          <th scope="col">Value</th>
          <th scope="col">Keyed in</th>
          <th scope="col">Read back</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(k, i) in list" :key="`${k.of} ${k.says}`">
          <td>{{ k.of }}</td>
          <td>{{ k.says }}</td>
          <td class="mono">{{ k.value }}</td>
          <td class="blank" />
          <td>
            <v-btn v-if="!readonly" variant="text" class="no-print" @click="done(i)">It reads back</v-btn>
          </td>
        </tr>
      </tbody>
    </table>
    <div class="row no-print">
      <v-btn @click="csv">List (CSV)</v-btn>
      <v-btn variant="text" @click="print">Print</v-btn>
    </div>
  </section>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
th,
td {
  text-align: left;
  padding: 4px 16px 4px 0;
  border-bottom: var(--line) solid var(--hair);
}
.blank {
  min-width: 64px;
}
</style>
