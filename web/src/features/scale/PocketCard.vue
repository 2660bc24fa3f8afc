<script setup lang="ts">
import { roundText } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { compilePath, computeFrom, shownValue } from '@calm/core/signal/path'
import type { Stage } from '@calm/core/signal/stage'
import { computed } from 'vue'
import { decimalsOf, STATION_NAMES } from '../../ui/stations.ts'

/** What every station reads at the quarter points. */
const { stages } = defineProps<{ stages: readonly Stage[] }>()
const LEVELS = [0, 25, 50, 75, 100]
const path = computed(() => compilePath(stages))
const rows = computed(() =>
  LEVELS.map((level) => {
    const first = path.value.stations[0]
    const values = first ? computeFrom(path.value, 0, first.fromFraction(level / 100)) : []
    return {
      level,
      cells: path.value.stations.map((s, i) =>
        roundText(shownValue(values[i] ?? { kind: 'none' }) ?? 0, decimalsOf(s)),
      ),
    }
  }),
)
</script>

<template>
  <figure class="card">
    <figcaption><h2>Pocket card</h2></figcaption>
    <div class="scroll" tabindex="0" aria-label="Pocket card, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">of range</th>
            <th v-for="s in path.stations" :key="s.id" scope="col">
              {{ STATION_NAMES[s.kind] }}<br /><span class="quiet mono">{{ printedUnit(s.unit) }}</span>
            </th>
          </tr>
        </thead>
        <tbody class="mono">
          <tr v-for="r in rows" :key="r.level">
            <th scope="row">{{ r.level }} %</th>
            <td v-for="(c, i) in r.cells" :key="i">{{ c }}</td>
          </tr>
        </tbody>
      </table>
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
</style>
