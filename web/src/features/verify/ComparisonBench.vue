<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit, unitOf } from '@calm/core/quantity/units'
import { REFERENCES, type ReferenceKind } from '@calm/core/verify/reference-comparison'
import { mdiClose } from '@mdi/js'
import { useSession } from '../../api/session-store.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import { sayDay } from '../../ui/dates.ts'
import ChartView from '../../ui/ChartView.vue'
import NextBar from '../../ui/NextBar.vue'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'
import MeasuredHead from './MeasuredHead.vue'
import { useComparison } from './use-comparison.ts'

/** A flow or level against a reference, run by run; the first comparison in the record is the baseline. */
const props = defineProps<{ unit: string; allowedPct: number }>()
const session = useSession()
const kinds = (Object.keys(REFERENCES) as ReferenceKind[]).map((value) => ({
  value,
  title: REFERENCES[value],
}))
const PATHS = [
  { value: null, title: 'whole' },
  { value: 1, title: 'path 1' },
  { value: 2, title: 'path 2' },
]

const {
  kind,
  by,
  how,
  reckoned,
  Ureckoned_pct,
  Uref_pct,
  Umeter_pct,
  tolerance_pct,
  note,
  rows,
  change,
  another,
  leaveOut,
  zero,
  trouble,
  kept,
  task,
  result,
  chart,
  counter,
  total,
  takeTotal,
  busy,
  stored,
  record,
  next,
} = useComparison(props)
function sayReckoned(i: number): string {
  const f = reckoned.value[i]?.flow
  if (!f) return ''
  return f.kind === 'refused'
    ? f.says
    : `= ${sayNumber(f.reference, 5)} ${printedUnit(props.unit)}, ±${sayNumber(f.U_pct, 2)} %`
}
</script>

<template>
  <BenchFrame>
    <BenchSplit work="Runs" beside="Comparison" fold="Comparison" work-first>
      <template #work>
        <h2>Against a reference</h2>
        <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
        <div class="field-grid">
          <v-select v-model="kind" :items="kinds" label="Reference" hide-details />
          <NumberField v-if="by === null" v-model="Uref_pct" label="Reference, ± %" :unit="null" />
          <NumberField v-model="Umeter_pct" label="Meter, ± %" :unit="null" />
          <NumberField
            v-model="tolerance_pct"
            :label="`Allowed, ± % (${sayNumber(allowedPct, 3)})`"
            :unit="null"
          />
        </div>
        <p class="small quiet">
          Percents of reading, k = 2.<template v-if="by !== null && Ureckoned_pct > 0">
            The reference is reckoned from what was measured, known to ±{{
              sayNumber(Ureckoned_pct, 2)
            }}
            %.</template
          >
        </p>
        <MeasuredHead
          v-if="by !== null"
          v-model="how"
          :by="by"
          :needs-density="unitOf(unit).dimension !== 'mass_flow'"
        />
        <div v-for="(r, i) in rows" :key="i" class="run">
          <template v-if="by === null">
            <NumberField
              :model-value="r.reference"
              :label="`Reference, run ${i + 1}`"
              :unit="unit"
              @update:model-value="change(i, { reference: $event })"
            />
          </template>
          <div v-else class="caught">
            <NumberField
              v-if="by === 'weighed'"
              :model-value="r.caught.mass_kg"
              :label="`Weighed, run ${i + 1}`"
              unit="kg"
              @update:model-value="change(i, { caught: { ...r.caught, mass_kg: $event } })"
            />
            <NumberField
              v-else-if="by === 'counted'"
              :model-value="r.caught.pulses"
              :label="`Pulses, run ${i + 1}`"
              @update:model-value="change(i, { caught: { ...r.caught, pulses: $event } })"
            />
            <template v-else>
              <NumberField
                :model-value="r.caught.from_m"
                :label="`Level before, run ${i + 1}`"
                unit="m"
                @update:model-value="change(i, { caught: { ...r.caught, from_m: $event } })"
              />
              <NumberField
                :model-value="r.caught.to_m"
                :label="`Level after, run ${i + 1}`"
                unit="m"
                @update:model-value="change(i, { caught: { ...r.caught, to_m: $event } })"
              />
            </template>
            <NumberField
              :model-value="r.caught.seconds"
              :label="`Time, run ${i + 1}`"
              unit="s"
              @update:model-value="change(i, { caught: { ...r.caught, seconds: $event } })"
            />
            <p v-if="reckoned[i]" class="small" :class="{ trouble: reckoned[i]?.flow.kind === 'refused' }">
              {{ sayReckoned(i) }}
            </p>
          </div>
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
          <v-btn :icon="mdiClose" variant="text" :aria-label="`Remove run ${i + 1}`" @click="leaveOut(i)" />
        </div>
        <div class="row">
          <v-btn variant="text" @click="another">Another run</v-btn>
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
      </template>
      <template #beside>
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
      </template>
    </BenchSplit>
    <template #foot>
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
    </template>
  </BenchFrame>
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
.caught {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(110px, 1fr));
  gap: 8px;
}
.caught > p {
  grid-column: 1 / -1;
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
