<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { PlanPoint } from '@calm/core/verify/plan'
import type { ReadingColumn } from './phases.ts'
import type { Cells } from './use-cells.ts'

/** One value of one point, as it is typed. */
const { cells, point, column, label, suggested, readonly } = defineProps<{
  cells: Cells
  point: PlanPoint
  column: ReadingColumn
  /** The phase, in words. */
  label: string
  /** What to apply at this point, in the unit of the column. */
  suggested: number
  readonly: boolean
}>()
</script>

<template>
  <input
    class="mono"
    :class="{ applied: column.id === 'applied' }"
    inputmode="decimal"
    autocomplete="off"
    :value="cells.textOf(point.index, column.id)"
    :placeholder="column.id === 'applied' ? sayNumber(suggested, 6) : ''"
    :readonly="readonly"
    :data-point="point.index"
    :data-cell="`${point.index}/${column.id}`"
    :aria-label="`${label}, point ${point.index + 1} ${point.direction === 'up' ? 'rising' : 'falling'}, ${column.title} in ${printedUnit(column.unit)}`"
    :aria-invalid="cells.saysOf(point.index, column) !== null"
    @input="cells.type(point.index, column.id, ($event.target as HTMLInputElement).value)"
  />
  <div v-if="cells.below(point.index, column.id)" class="small quiet typed">
    {{ cells.below(point.index, column.id) }}
  </div>
</template>

<style scoped>
input {
  width: 100%;
  /* Nine characters of a reading are never cut. */
  min-width: calc(9ch + 10px);
  height: var(--row);
  border: 0;
  border-radius: 0;
  background: transparent;
  color: var(--copper);
  font-size: var(--size-m);
  text-align: right;
  padding: 0 4px;
}
input.applied {
  color: var(--accent);
}
input::placeholder {
  color: var(--quiet);
  opacity: 1;
  font-style: italic;
}
input:not([readonly]) {
  box-shadow: inset 0 calc(-1 * var(--line)) 0 var(--quiet);
}
input[aria-invalid='true'] {
  color: var(--stop);
  box-shadow: inset 0 -2px 0 var(--stop);
}
.typed {
  text-align: right;
}
</style>
