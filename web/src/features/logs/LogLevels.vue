<script setup lang="ts">
import type { LogJudgement } from '@calm/contract/logs'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed } from 'vue'

/** The levels of the loop behind the drawing, each with the dashes that it has there. */
const { against, unit } = defineProps<{
  against: NonNullable<LogJudgement['against']>
  unit: string | null
}>()
const of = (x: number) => `${sayNumber(x, 5)}${unit === null ? '' : ` ${printedUnit(unit)}`}`
const rows = computed(() => [
  { kind: 'range', says: `Range of the loop: ${sayNumber(against.lo, 5)} to ${of(against.hi)}` },
  ...against.lines.map((l) => ({ kind: l.kind, says: `${l.name}: ${of(l.at)}` })),
])
const DASHES: Readonly<Record<string, string>> = { range: '8 4', trip: '12 3 2 3', signal: '2 3' }
</script>

<template>
  <details>
    <summary>
      Levels of the loop{{ against.T === null ? '' : `, allowed ±${of(against.T)} around a reference` }}
    </summary>
    <ul class="small">
      <li v-for="r in rows" :key="r.says" :class="r.kind">
        <svg width="34" height="8" aria-hidden="true">
          <line x1="0" y1="4" x2="34" y2="4" :stroke-dasharray="DASHES[r.kind]" />
        </svg>
        {{ r.says }}
      </li>
    </ul>
    <p class="small quiet">Drawn where they are in sight.</p>
  </details>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 28px;
}
line {
  stroke: var(--quiet);
  stroke-width: 1.5;
}
.trip line {
  stroke: var(--look);
}
</style>
