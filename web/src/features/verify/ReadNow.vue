<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { PlanPoint } from '@calm/core/verify/plan'
import { computed } from 'vue'
import type { ReadingColumn } from './phases.ts'
import ReadingCell from './ReadingCell.vue'
import type { Cells } from './use-cells.ts'

/** The row to read now, large enough for a glove, and what comes after it. */
const { cells, plan, columns, applied, label } = defineProps<{
  cells: Cells
  plan: readonly PlanPoint[]
  columns: readonly ReadingColumn[]
  applied: (level_pct: number) => number
  label: string
}>()
const now = computed(() => cells.now.value)
const after = computed(() => (now.value ? (plan[plan.indexOf(now.value) + 1] ?? null) : null))
const way = (p: PlanPoint) => (p.direction === 'up' ? 'rising' : 'falling')
const unit = computed(() => printedUnit(columns[0]?.unit ?? ''))
const target = (p: PlanPoint) => `${sayNumber(applied(p.level_pct), 6)} ${unit.value}`
</script>

<template>
  <section v-if="now" class="now" aria-label="Read now">
    <h3>
      Point {{ now.index + 1 }} of {{ plan.length }}, {{ way(now) }}:
      <span class="mono">{{ target(now) }}</span>
    </h3>
    <div class="cells">
      <div v-for="c in columns" :key="c.id" class="cell">
        <span aria-hidden="true"
          >{{ c.title }} <span class="quiet mono small">{{ printedUnit(c.unit) }}</span></span
        >
        <ReadingCell
          :cells="cells"
          :point="now"
          :column="c"
          :label="label"
          :suggested="applied(now.level_pct)"
          :readonly="false"
        />
      </div>
    </div>
    <p v-if="after" class="quiet">
      Then point {{ after.index + 1 }}, {{ way(after) }}: <span class="mono">{{ target(after) }}</span>
    </p>
    <p v-else class="quiet">The last one.</p>
  </section>
</template>

<style scoped>
.now {
  padding: 12px 14px;
  border: 2px solid var(--accent);
  border-radius: var(--corner);
  background: var(--surface);
  display: flex;
  flex-direction: column;
  gap: 10px;
}
h3 {
  font-size: var(--size-l);
}
.cells {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 10px 14px;
}
.cell :deep(input) {
  height: 56px;
  font-size: var(--size-xl);
}
</style>
