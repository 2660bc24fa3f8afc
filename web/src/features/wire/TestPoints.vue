<script setup lang="ts">
import type { Wiring } from '@calm/core/part/wiring'
import { testPoints } from '@calm/core/wire/test-points'
import { computed } from 'vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** What every test point of the healthy circuit should read; goes to the field on paper. */
const { wiring, tag } = defineProps<{ wiring: Wiring; tag: string }>()
const table = computed(() => testPoints(wiring))
const print = () => window.print()
</script>

<template>
  <section class="stack sheet" aria-label="What to read">
    <div class="row">
      <h2>
        What each test point of <span class="mono">{{ tag }}</span> should read
      </h2>
      <v-btn class="no-print" variant="text" @click="print">Print</v-btn>
    </div>
    <p v-if="table.points.length === 0" class="quiet">Wire the loop first; then this table fills itself.</p>
    <div v-else v-key-scroll class="scroll" aria-label="Test points, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">Where</th>
            <th scope="col">How</th>
            <th scope="col">Red lead</th>
            <th scope="col">Black lead</th>
            <th v-for="s in table.states" :key="s" scope="col" class="number">{{ s }}</th>
            <th scope="col" class="blank">Measured</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in table.points" :key="p.id">
            <th scope="row">{{ p.place }}</th>
            <td>{{ p.how }}</td>
            <td class="mono">{{ p.red }}</td>
            <td class="mono">{{ p.black }}</td>
            <td v-for="(r, i) in p.readings" :key="i" class="mono number">{{ r }}</td>
            <td class="blank"></td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="quiet small">
      From the solved circuit with typical parts; supply at its nominal voltage. For mA in series: power off,
      open the wire, leads in the mA jack, dial at mA DC, power on.
    </p>
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
tbody th {
  font-weight: 400;
}
.number {
  text-align: right;
  white-space: nowrap;
}
.blank {
  min-width: 90px;
}
</style>
