<script setup lang="ts">
import { COLUMNS, PHASE_WORDS, type Phase } from '@calm/core/record/kinds/reading-values'
import type { Run } from '@calm/core/record/run'
import { sayTolerance } from '@calm/core/verify/tolerance'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed } from 'vue'
import { sayDay } from '../../ui/dates.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** A verification as it is signed: on what, by what it is judged, and every reading as typed. */
const { run, verdicts } = defineProps<{
  run: Run
  /** What is judged of it, in words. */
  verdicts: readonly string[]
}>()
const TITLES = { applied: 'Applied', pv: 'Shown', loopCurrent_mA: 'mA', controller: 'Controller' } as const
const phases = computed((): readonly Phase[] => (run.leftAsFound ? ['asFound'] : ['asFound', 'asLeft']))
const columns = computed(() =>
  COLUMNS.filter((c) => phases.value.some((p) => Object.values(run[p]).some((row) => row[c]))),
)
const rowsOf = (phase: Phase) =>
  run.plan.flatMap((p) => {
    const row = run[phase][p.index]
    return row ? [{ n: p.index + 1, cells: columns.value.map((c) => row[c]?.typed ?? '') }] : []
  })
</script>

<template>
  <p>
    Verification of {{ sayDay(run.startedAt.slice(0, 10)) }} on revision {{ run.started.revision }},
    {{ run.started.inputRange.low }} to {{ run.started.inputRange.high }}
    {{ printedUnit(run.started.inputRange.unit) }}, tolerance
    {{ sayTolerance(run.started.tolerance, run.started.outputRange.unit) }}.
    <template v-if="run.leftAsFound">Nothing was adjusted.</template>
  </p>
  <p v-if="run.started.deviation"><strong>Not as recorded:</strong> {{ run.started.deviation.reason }}</p>
  <p v-for="v in verdicts" :key="v">{{ v }}</p>
  <p>
    {{
      run.started.U_pct > 0
        ? `Known to ±${sayNumber(run.started.U_pct, 2)} % of span (k = 2).`
        : 'No uncertainty is claimed.'
    }}
  </p>
  <p v-for="(a, i) in run.adjustments" :key="i">Adjusted: {{ a.note }}</p>
  <table v-for="phase in phases" :key="phase" v-key-scroll>
    <caption>
      {{
        PHASE_WORDS[phase]
      }}
    </caption>
    <thead>
      <tr>
        <th scope="col">Point</th>
        <th v-for="c in columns" :key="c" scope="col">{{ TITLES[c] }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rowsOf(phase)" :key="r.n">
        <td class="mono">{{ r.n }}</td>
        <td v-for="(cell, i) in r.cells" :key="i" class="mono">{{ cell }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
caption {
  text-align: left;
  font-weight: 600;
}
th,
td {
  text-align: right;
  font-weight: 400;
  padding: 4px 12px 4px 0;
  border-bottom: var(--line) solid var(--hair);
}
</style>
