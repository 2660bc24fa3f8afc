<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { StoredEvent } from '@calm/contract/events'
import type { Table } from '@calm/core/chart'
import { recommendationOf } from '@calm/core/procedure/general/trim-advice'
import { foldProcedure } from '@calm/core/procedure/engine'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { isProcedureType, type ProcedureEventBody } from '@calm/core/procedure/events'
import { outcomeOf } from '@calm/core/procedure/closing'
import { sayShift, shiftsSince } from '@calm/core/procedure/shift'
import { RESULT_WORDS } from '@calm/core/procedure/outcome'
import { procedureOf } from '@calm/core/procedure/catalogue'
import { sayNumber } from '@calm/core/quantity/round'
import { computed } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { sayDay } from '../../ui/dates.ts'
import PlainTable from '../../ui/PlainTable.vue'

/** Earlier procedures with the zero they found: a trim that grows each time means something. */
const { loopId } = defineProps<{ loopId: string }>()
const events = useLive(loops.events, () => ({ loop: loopId }))
const MOST = 12
const endOf = (run: ProcedureRun): string => {
  const o = outcomeOf(run)
  const end = o ? RESULT_WORDS[o.result] : run.state === 'aborting' ? 'being stopped' : 'under way'
  return run.started.withDevice ? `${end}, simulated` : end
}
const past = computed((): readonly { run: ProcedureRun; by: string }[] => {
  const byRun = new Map<string, StoredEvent[]>()
  for (const e of events.data.value ?? [])
    if (e.runId !== null && isProcedureType(e.type)) byRun.set(e.runId, [...(byRun.get(e.runId) ?? []), e])
  return [...byRun.values()]
    .flatMap((list) => {
      const run = foldProcedure(
        list.map((e) => ({
          body: { type: e.type, payload: e.payload } as ProcedureEventBody,
          by: e.by,
          at: e.at,
        })),
      )
      return run ? [{ run, by: list[0]?.byName ?? '' }] : []
    })
    .sort((a, b) => (a.run.startedAt < b.run.startedAt ? 1 : -1))
    .slice(0, MOST)
})
const zeroOf = (run: ProcedureRun, phase: 'asFound' | 'asLeft') =>
  recommendationOf(run, phase)?.sensor?.zero_pct ?? null
const sayPct = (x: number | null | undefined) => (x === null || x === undefined ? '' : sayNumber(x, 3))
const shifts = computed(() =>
  shiftsSince(
    past.value.map(({ run }) => ({
      at: run.startedAt,
      found_pct: zeroOf(run, 'asFound'),
      left_pct: zeroOf(run, 'asLeft'),
      simulated: run.started.withDevice,
    })),
  ),
)
const shift = computed(() => sayShift(shifts.value))
/** What switches has no zero. */
const hasZeros = computed(() => past.value.some(({ run }) => run.started.context.discrete !== true))
const table = computed((): Table => ({
  title: 'Earlier procedures',
  columns: [
    ...['Day', 'Procedure', 'Who', 'End'],
    ...(hasZeros.value ? ['Zero as found, % of span', 'Shifted since', 'Zero as left'] : []),
  ],
  rows: past.value.map(({ run, by }, i) => [
    sayDay(run.startedAt),
    procedureOf(run.started.procedure)?.title ?? run.started.procedure,
    by,
    endOf(run),
    ...(hasZeros.value
      ? [sayPct(zeroOf(run, 'asFound')), sayPct(shifts.value[i]?.shift_pct), sayPct(zeroOf(run, 'asLeft'))]
      : []),
  ]),
}))
</script>

<template>
  <div v-if="past.length > 0" class="stack">
    <p v-if="shift">{{ shift }}</p>
    <PlainTable :table="table" />
  </div>
</template>
