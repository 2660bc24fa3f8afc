<script setup lang="ts">
import { comparisons } from '@calm/contract/api/addresses'
import type { NewComparison } from '@calm/contract/comparisons'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import {
  comparisonChart,
  compareWithReference,
  REFERENCES,
  type PastComparison,
  type ReferenceKind,
} from '@calm/core/verify/reference-comparison'
import { totalOf } from '@calm/core/verify/k-factor'
import { mdiClose } from '@mdi/js'
import { computed, ref } from 'vue'
import { plantTime } from '../../api/clock.ts'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import { sayDay } from '../../ui/dates.ts'
import ChartView from '../../ui/ChartView.vue'
import NextBar from '../../ui/NextBar.vue'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'

/** A flow or level against a reference, run by run; the first comparison in the record is the baseline. */
const { unit, allowedPct } = defineProps<{ unit: string; allowedPct: number }>()
const loop = useLoop()
const session = useSession()
const kind = ref<ReferenceKind>('portable')
const kinds = (Object.keys(REFERENCES) as ReferenceKind[]).map((value) => ({
  value,
  title: REFERENCES[value],
}))
const Uref_pct = ref<number | null>(1)
const Umeter_pct = ref<number | null>(0.3)
const tolerance_pct = ref<number | null>(null)
const note = ref('')
interface Row {
  readonly reference: number | null
  readonly indicated: number | null
  readonly path: 1 | 2 | null
}
const EMPTY: Row = { reference: null, indicated: null, path: null }
const rows = ref<readonly Row[]>([EMPTY, EMPTY, EMPTY])
const change = (i: number, more: Partial<Row>) =>
  (rows.value = rows.value.map((r, k) => (k === i ? { ...r, ...more } : r)))
const PATHS = [
  { value: null, title: 'whole' },
  { value: 1, title: 'path 1' },
  { value: 2, title: 'path 2' },
]

const live = useLive(comparisons.list, () => (loop.detail ? { loop: loop.detail.id } : null))
const kept = computed(() => live.data.value ?? [])
const notStored = ref<string | null>(null)
const trouble = computed(() => notStored.value ?? live.says.value)
const past = computed((): PastComparison[] =>
  kept.value
    .filter((c) => c.unit === unit)
    .map((c) => ({
      at: c.at,
      U_pct: c.U_pct,
      points: c.runs.map((r, i) => ({ at: r.reference, error_pct: c.errors_pct[i] ?? 0 })),
    })),
)
const task = computed(() => ({
  kind: kind.value,
  unit,
  Uref_pct: Uref_pct.value ?? 0,
  Umeter_pct: Umeter_pct.value ?? 0,
  tolerance_pct: tolerance_pct.value ?? allowedPct,
  runs: rows.value.flatMap((r) =>
    r.reference === null || r.indicated === null
      ? []
      : [{ reference: r.reference, indicated: r.indicated, path: r.path }],
  ),
}))
const result = computed(() => compareWithReference(task.value, past.value, plantTime()))
const chart = computed(() => comparisonChart(task.value, result.value, past.value))
const zero = computed(() => task.value.runs.some((r) => r.reference === 0))

/** A total from its counter: pulses from and to, and pulses for one unit. */
const counter = ref<{ start: number | null; end: number | null; K: number | null; reference: number | null }>(
  {
    start: null,
    end: null,
    K: null,
    reference: null,
  },
)
const MODULUS = 1e9
const total = computed(() => {
  const { start, end, K, reference } = counter.value
  return start === null || end === null || K === null || K <= 0 || reference === null || reference === 0
    ? null
    : totalOf({ K, start, end, modulus: MODULUS, reference })
})
function takeTotal(): void {
  const t = total.value
  if (!t || counter.value.reference === null) return
  const row: Row = { reference: counter.value.reference, indicated: t.V, path: null }
  rows.value = [...rows.value.filter((r) => r.reference !== null || r.indicated !== null), row]
}

let id = crypto.randomUUID()
const busy = ref(false)
const stored = ref<string | null>(null)
async function record(): Promise<void> {
  if (!loop.detail || busy.value || zero.value) return
  busy.value = true
  const body: NewComparison = {
    ...task.value,
    id,
    at: plantTime(),
    revision: loop.detail.revision,
    note: note.value.trim(),
  }
  try {
    await call(comparisons.keep, { loop: loop.detail.id }, body)
    notStored.value = null
    id = crypto.randomUUID()
    stored.value = 'stored in the record'
    rows.value = [EMPTY, EMPTY, EMPTY]
    note.value = ''
  } catch (error) {
    notStored.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
const next = computed(() =>
  task.value.runs.length === 0
    ? past.value.length === 0
      ? 'Type what the reference and the meter read. The first comparison becomes the baseline.'
      : 'Type what the reference and the meter read, at the flows of the baseline.'
    : zero.value
      ? 'A reference of 0 tells nothing: type another run.'
      : 'Record the comparison.',
)
</script>

<template>
  <div>
    <div class="page two-sides">
      <section class="stack" aria-label="Runs">
        <h2>Against a reference</h2>
        <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
        <div class="field-grid">
          <v-select v-model="kind" :items="kinds" label="Reference" hide-details />
          <NumberField v-model="Uref_pct" label="Reference, ± %" :unit="null" />
          <NumberField v-model="Umeter_pct" label="Meter, ± %" :unit="null" />
          <NumberField
            v-model="tolerance_pct"
            :label="`Allowed, ± % (${sayNumber(allowedPct, 3)})`"
            :unit="null"
          />
        </div>
        <p class="small quiet">Percents of reading, k = 2.</p>
        <div v-for="(r, i) in rows" :key="i" class="run">
          <NumberField
            :model-value="r.reference"
            :label="`Reference, run ${i + 1}`"
            :unit="unit"
            @update:model-value="change(i, { reference: $event })"
          />
          <NumberField
            :model-value="r.indicated"
            :label="`Meter, run ${i + 1}`"
            :unit="unit"
            @update:model-value="change(i, { indicated: $event })"
          />
          <v-select
            :model-value="r.path"
            :items="PATHS"
            label="Path"
            hide-details
            @update:model-value="change(i, { path: $event })"
          />
          <v-btn
            :icon="mdiClose"
            variant="text"
            :aria-label="`Take run ${i + 1} away`"
            @click="rows = rows.filter((_, k) => k !== i)"
          />
        </div>
        <div class="row">
          <v-btn variant="text" @click="rows = [...rows, EMPTY]">Another run</v-btn>
        </div>
        <details>
          <summary>A total from its counter</summary>
          <div class="field-grid">
            <NumberField v-model="counter.start" label="Counter before" :unit="null" />
            <NumberField v-model="counter.end" label="Counter after" :unit="null" />
            <NumberField v-model="counter.K" label="Pulses for one unit" :unit="null" />
            <NumberField v-model="counter.reference" label="Reference quantity" :unit="null" />
          </div>
          <p v-if="total">
            {{ total.N }} pulses are {{ sayNumber(total.V, 6) }}: {{ sayNumber(total.error_pct, 3) }} %, the
            counting alone known to ±{{ sayNumber(2 * total.u_pct, 2) }} %.
          </p>
          <v-btn :disabled="total === null" @click="takeTotal">Take it as a run</v-btn>
        </details>
        <v-text-field v-model="note" label="Note (which reference, where)" maxlength="300" />
      </section>
      <section class="stack" aria-label="Comparison">
        <ChartView v-if="chart" :chart="chart" :height="260" />
        <div v-if="task.runs.length > 0" aria-live="polite" class="stack">
          <StateMark
            :state="result.passes ? 'good' : 'stop'"
            :word="result.passes ? 'inside its tolerance' : 'outside its tolerance'"
          />
          <p v-for="line in result.says" :key="line">{{ line }}</p>
          <p class="mono small">
            En:
            <span v-for="(e, i) in result.En" :key="i">{{ sayNumber(e, 2) }}&nbsp; </span>
          </p>
        </div>
        <template v-if="kept.length > 0">
          <h3>In the record</h3>
          <ol class="kept">
            <li v-for="(c, i) in kept" :key="c.id">
              <strong>{{ i === 0 ? 'Baseline, ' : '' }}{{ sayDay(c.at.slice(0, 10)) }}</strong
              >, {{ REFERENCES[c.kind].toLowerCase() }}, {{ c.runs.length }} runs in
              {{ printedUnit(c.unit) }}. {{ c.says[0] }} <span class="quiet">{{ c.note }}</span>
            </li>
          </ol>
        </template>
      </section>
    </div>
    <NextBar :next="next" :stored="stored">
      <v-btn
        v-if="session.mayWrite"
        color="primary"
        variant="flat"
        height="48"
        :disabled="task.runs.length === 0 || zero || busy"
        @click="record"
        >Record</v-btn
      >
    </NextBar>
  </div>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
.run {
  display: grid;
  grid-template-columns: 1fr 1fr 110px auto;
  gap: 8px;
}
.kept {
  padding-left: 20px;
}
@media (max-width: 640px) {
  .run {
    grid-template-columns: 1fr 1fr;
  }
}
</style>
