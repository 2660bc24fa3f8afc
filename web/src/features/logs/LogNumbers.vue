<script setup lang="ts">
import type { LogJudgement } from '@calm/contract/logs'
import { FEWEST_JUDGED } from '@calm/core/logs/findings/finding'
import { sayDuration } from '@calm/core/logs/say-finding'
import { sayCount, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed } from 'vue'

/** What the stretch that is seen amounts to. */
const { judgement, unit, simulated } = defineProps<{
  judgement: LogJudgement
  unit: string | null
  /** Of a stand-in, not of the world. */
  simulated: boolean
}>()
const u = computed(() => (unit === null ? '' : ` ${printedUnit(unit)}`))
const of = (x: number, digits = 5) => `${sayNumber(x, digits)}${u.value}`
const amount = computed(() => (unit === null ? '' : printedUnit(unit.replace(/\/(s|min|h|d)$/, ''))))
const rows = computed((): { label: string; value: string }[] => {
  const s = judgement.statistics
  if (!s) return []
  const c = s.close
  const t = judgement.total
  const mean = c ? `${of(s.mean)} ± ${sayNumber(2 * c.uMean, 2)}` : of(s.mean)
  return [
    { label: c ? 'mean (k = 2)' : 'mean', value: mean },
    // Where rows come unevenly, the mean over time is another one.
    ...(c?.timeMean !== undefined && c.timeMean !== null && Math.abs(c.timeMean - s.mean) > c.uMean
      ? [{ label: 'mean over time', value: of(c.timeMean) }]
      : []),
    { label: 'smallest, largest', value: `${sayNumber(s.min, 5)}, ${of(s.max)}` },
    { label: 'scatter', value: of(s.sd, 3) },
    // Of a few samples it cannot be told.
    ...(c && s.n >= FEWEST_JUDGED ? [{ label: 'noise', value: of(c.noise, 3) }] : []),
    ...(c?.slope !== undefined && c.slope !== null && c.uSlope !== null
      ? [
          {
            label: 'slope',
            // Within its own uncertainty it is none.
            value: `${Math.abs(c.slope) <= 2 * c.uSlope ? '0' : sayNumber(c.slope, 3)} ± ${sayNumber(2 * c.uSlope, 2)}${u.value} an hour`,
          },
        ]
      : []),
    { label: 'samples', value: sayCount(s.n) },
    ...(c
      ? [
          { label: 'gaps', value: c.gaps === 0 ? 'none' : `${c.gaps}, covered ${sayDuration(c.covered_s)}` },
          ...(c.left > 0 ? [{ label: 'left out by their time', value: String(c.left) }] : []),
          ...(c.weak > 0 ? [{ label: 'left out, signal too weak', value: sayCount(c.weak) }] : []),
          ...(c.nulls > 0 ? [{ label: 'rows without a value', value: String(c.nulls) }] : []),
        ]
      : []),
    ...(judgement.stable
      ? [
          {
            label: 'stands still',
            value:
              judgement.stable.count === 0
                ? 'nowhere'
                : `${sayDuration(judgement.stable.seconds)} in ${judgement.stable.count} ${judgement.stable.count === 1 ? 'stretch' : 'stretches'}`,
          },
        ]
      : []),
    ...(t
      ? [
          {
            label: t.complete ? 'total' : 'total without the gaps',
            value: `${sayNumber(t.net, 5)} ${amount.value}`,
          },
          ...(t.reverse > 0
            ? [{ label: 'of it backwards', value: `${sayNumber(t.reverse, 4)} ${amount.value}` }]
            : []),
        ]
      : []),
  ]
})
</script>

<template>
  <dl class="mono small">
    <div v-for="r in rows" :key="r.label">
      <dt class="quiet">{{ r.label }}</dt>
      <dd :class="{ simulated }">{{ r.value }}</dd>
    </div>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  gap: 4px;
}
dl div {
  display: flex;
  justify-content: space-between;
  gap: 12px;
}
.simulated {
  color: var(--simulated);
}
dd {
  margin: 0;
  text-align: right;
}
</style>
