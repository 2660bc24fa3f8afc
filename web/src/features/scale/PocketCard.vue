<script setup lang="ts">
import { loops, urlOf } from '@calm/contract/api/addresses'
import { parseNumberList } from '@calm/core/quantity/number-list'
import { printedUnit } from '@calm/core/quantity/units'
import { pocketCard, QUARTER_LEVELS } from '@calm/core/scale/pocket-card'
import type { Stage } from '@calm/core/signal/stage'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { computed, ref } from 'vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** What every station reads at the quarter points, or at any others. */
const { stages, loopId } = defineProps<{ stages: readonly Stage[]; loopId: string }>()
const LEAST = -10
const MOST = 110
const MOST_LEVELS = 50
const typed = ref(QUARTER_LEVELS.join(' '))
const read = computed(() => {
  const list = parseNumberList(typed.value)
  if (typeof list === 'string') return list
  if (list.length === 0 || list.length > MOST_LEVELS) return `One to ${MOST_LEVELS} levels.`
  const far = list.find((x) => x < LEAST || x > MOST)
  return far === undefined ? list : `${far} % is outside ${LEAST} to ${MOST} %.`
})
const levels = computed((previous?: readonly number[]): readonly number[] =>
  typeof read.value === 'string' ? (previous ?? QUARTER_LEVELS) : read.value,
)
const card = computed(() => pocketCard(stages, levels.value))
const file = (address: typeof loops.pocketCard | typeof loops.pocketCardTable) =>
  urlOf(address, { loop: loopId, levels: levels.value })
</script>

<template>
  <figure class="stack">
    <figcaption><h2>Pocket card</h2></figcaption>
    <v-text-field
      v-model="typed"
      class="mono-field no-print"
      label="Levels, % of range"
      :error-messages="typeof read === 'string' ? read : undefined"
      autocomplete="off"
    />
    <div v-key-scroll class="scroll" aria-label="Pocket card, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">of range</th>
            <th v-for="c in card.columns" :key="c.kind" scope="col">
              {{ STATION_NAMES[c.kind] }}<br /><span class="quiet mono">{{ printedUnit(c.unit) }}</span>
            </th>
          </tr>
        </thead>
        <tbody class="mono">
          <tr v-for="r in card.rows" :key="r.level_pct">
            <th scope="row">{{ r.level_pct }} %</th>
            <td v-for="(text, i) in r.cells" :key="i">{{ text }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="row no-print">
      <v-btn :href="file(loops.pocketCard)">Card (PDF)</v-btn>
      <v-btn variant="text" :href="file(loops.pocketCardTable)">Card (CSV)</v-btn>
      <span class="small quiet">The files hold the stored revision.</span>
    </div>
  </figure>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: right;
  padding: 8px 6px;
  border-bottom: var(--line) solid var(--hair);
  white-space: nowrap;
}
th {
  font-weight: 600;
  font-size: var(--size-s);
}
.scroll {
  overflow-x: auto;
}
</style>
