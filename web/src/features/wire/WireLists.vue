<script setup lang="ts">
import { loops, urlOf } from '@calm/contract/api/addresses'
import { kitList, powerUpChecklist, terminations, truthTable, WORK_TIMES } from '@calm/core/wire/lists'
import { computed } from 'vue'
import { saveCsv } from '../../ui/save-csv.ts'
import PlainTable from '../../ui/PlainTable.vue'
import type { WiringBench } from './use-wiring-bench.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** What goes to the field: terminations, parts and tools, and the way from dead to running. */
const { bench, tag, loopId, saved } = defineProps<{
  bench: WiringBench
  tag: string
  loopId: string
  /** The drawing is of what is saved. */
  saved: boolean
}>()
const wiring = computed(() => bench.sound.value)
const rows = computed(() => terminations(wiring.value))
const kit = computed(() => kitList(wiring.value))
const steps = computed(() => powerUpChecklist(wiring.value))
const truth = computed(() => truthTable(wiring.value, bench.state.value.relays ?? null))
const startsTime = (i: number) => steps.value[i]?.when !== steps.value[i - 1]?.when
/** A hold point is passed before anything after it. */
const mayTick = (i: number) => steps.value.slice(0, i).every((s) => !s.hold || bench.ticked.value.has(s.says))
function csv(): void {
  const table = [
    ['tag', 'wire', 'from', 'to', 'colour', 'ferrule', 'temporary'],
    ...rows.value.map((r) => [tag, r.wire, r.from, r.to, r.colour, r.ferrule, r.temporary ? 'yes' : '']),
  ]
  void saveCsv(`${tag}-terminations.csv`, table)
}
function kitCsv(): void {
  const table = [['tag', 'kind', 'what', 'detail'], ...kit.value.map((k) => [tag, k.kind, k.what, k.detail])]
  void saveCsv(`${tag}-parts-and-tools.csv`, table)
}
const print = () => window.print()
</script>

<template>
  <section class="stack" aria-label="Lists">
    <div class="row no-print">
      <v-btn @click="csv">Termination list (CSV)</v-btn>
      <v-btn @click="kitCsv">Parts and tools (CSV)</v-btn>
      <template v-if="rows.length > 0 && saved">
        <v-btn :href="urlOf(loops.wiringPaper, { loop: loopId })">Drawing (PDF)</v-btn>
        <v-btn :href="urlOf(loops.wiring, { loop: loopId })">Drawing (SVG)</v-btn>
      </template>
      <v-btn variant="text" @click="print">Print this page</v-btn>
    </div>
    <p v-if="!saved" class="quiet">The drawing to hand over is of the saved revision: save first.</p>
    <h2>
      Power-up checklist of <span class="mono">{{ tag }}</span>
    </h2>
    <ol class="steps">
      <li v-for="(s, i) in steps" :key="s.says">
        <h3 v-if="startsTime(i)">{{ WORK_TIMES[s.when] }}</h3>
        <v-checkbox
          :model-value="bench.ticked.value.has(s.says)"
          :disabled="!mayTick(i)"
          :label="`${i + 1}. ${s.hold ? 'Hold point: ' : ''}${s.says}`"
          @update:model-value="bench.tick(s.says, $event === true)"
        />
      </li>
    </ol>
    <PlainTable v-if="truth" :table="truth" />
    <h2>Terminations</h2>
    <div v-key-scroll class="scroll" aria-label="Terminations, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">Wire</th>
            <th scope="col">From</th>
            <th scope="col">To</th>
            <th scope="col">Colour</th>
            <th scope="col">Ferrule</th>
          </tr>
        </thead>
        <tbody class="mono">
          <tr v-for="r in rows" :key="r.wire">
            <th scope="row">{{ r.wire }}</th>
            <td>{{ r.from }}</td>
            <td>{{ r.to }}</td>
            <td>{{ r.colour || '—' }}</td>
            <td>{{ r.temporary ? 'meter lead, take out' : r.ferrule || r.wire }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <h2>Parts and tools</h2>
    <ul class="kit">
      <li v-for="k in kit" :key="k.what">
        <span :class="{ mono: k.kind === 'part' }">{{ k.what }}</span>
        <span v-if="k.detail" class="quiet"> {{ k.detail }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 8px;
  border-bottom: var(--line) solid var(--hair);
}
.steps {
  list-style: none;
  padding: 0;
}
.kit {
  columns: 2 320px;
}
</style>
