<script setup lang="ts">
import { sayTerminal, withoutWire } from '@calm/core/part/wiring'
import { computed, ref } from 'vue'
import ConnectionRow from './ConnectionRow.vue'
import type { WiringBench } from './use-wiring-bench.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** The same connections as a list: for small screens, for readers, and for typing fast. */
const { bench, readonly = false } = defineProps<{ bench: WiringBench; readonly?: boolean }>()
const from = ref<string | null>(null)
const to = ref<string | null>(null)

const terminals = computed(() =>
  bench.parts.value.flatMap((p) =>
    p.terminals.map((t) => ({
      value: `${p.id}:${t.id}`,
      title: sayTerminal(bench.sound.value, `${p.id}:${t.id}`),
    })),
  ),
)
const rows = computed(() =>
  Object.entries(bench.sound.value.wires).map(([id, w]) => {
    const i = bench.solved.value.wire_A(id)
    const v = bench.solved.value.toGround(w.from)
    return {
      id,
      from: sayTerminal(bench.sound.value, w.from),
      to: sayTerminal(bench.sound.value, w.to),
      colour: w.colour ?? '—',
      current:
        i === null ? '—' : `${Math.abs(i * 1000).toFixed(3)} mA ${i < -1e-9 ? '←' : i > 1e-9 ? '→' : ' '}`,
      volts: v === null ? '—' : `${v.toFixed(2)} V`,
    }
  }),
)
function join(): void {
  if (from.value === null || to.value === null || from.value === to.value) return
  bench.connectTerminals(from.value, to.value)
  from.value = null
  to.value = null
}
</script>

<template>
  <section class="stack" aria-label="Connections">
    <h2>Connections</h2>
    <div v-key-scroll class="scroll" aria-label="List of wires, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">Wire</th>
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">Colour</th>
            <th scope="col" class="number">Current, and its way</th>
            <th scope="col" class="number">To 0 V</th>
            <th v-if="!readonly" scope="col"><span class="visually-hidden">Take out</span></th>
          </tr>
        </thead>
        <tbody>
          <ConnectionRow
            v-for="r in rows"
            :key="r.id"
            v-bind="r"
            :readonly="readonly"
            @take-out="bench.change(withoutWire(bench.wiring.value, r.id))"
          />
          <tr v-if="rows.length === 0">
            <td colspan="7" class="quiet">No wires yet.</td>
          </tr>
        </tbody>
      </table>
    </div>
    <form v-if="!readonly" class="row join" @submit.prevent="join">
      <v-autocomplete
        v-model="from"
        :items="terminals"
        label="From terminal"
        class="mono-field"
        auto-select-first
      />
      <v-autocomplete
        v-model="to"
        :items="terminals"
        label="To terminal"
        class="mono-field"
        auto-select-first
      />
      <v-btn type="submit" :disabled="from === null || to === null || from === to">Connect</v-btn>
    </form>
  </section>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
:deep(th),
:deep(td) {
  text-align: left;
  padding: 6px 8px;
  border-bottom: var(--line) solid var(--hair);
  white-space: nowrap;
}
:deep(.number) {
  text-align: right;
}
.join > * {
  flex: 1 1 180px;
}
.join > button {
  flex: 0 0 auto;
}
</style>
