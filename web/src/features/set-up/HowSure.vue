<script setup lang="ts">
import type { Chart } from '@calm/core/chart'
import type { Family } from '@calm/core/family/family'
import type { SetUp } from '@calm/core/family/set-up'
import { effectsOf, readingBudget } from '@calm/core/family/what-if'
import { roundText, sayNumber, withUncertainty } from '@calm/core/quantity/round'
import { isUnitSymbol } from '@calm/core/quantity/units'
import { BLOCK } from '@calm/core/statistics/monte-carlo'
import { computed, ref, watch } from 'vue'
import ChartView from '../../ui/ChartView.vue'
import NumberField from '../../ui/NumberField.vue'
import { useTrials } from '../../trials/use-trials.ts'

/** How well the entries are known, and so how sure the reading is: by the budget, and by trying a million times. */
const {
  family,
  setUp,
  readonly = false,
} = defineProps<{ family: Family; setUp: SetUp; readonly?: boolean }>()
const emit = defineEmits<{ tolerances: [tolerances: Record<string, number>] }>()

const MILLION = 1_000_000
const SEED = 20317
const trials = useTrials()
const tolerances = computed(() => setUp.tolerances ?? {})
const effects = computed(() => effectsOf(family, setUp.values, tolerances.value))
const budget = computed(() => readingBudget(effects.value))
const rows = computed(() =>
  effects.value
    .map((e, i) => ({ ...e, u: budget.value.u[i] ?? 0 }))
    .filter((r) => r.usual > 0 || r.tolerance > 0),
)
const ranked = computed(() => rows.value.filter((r) => r.u > 0).sort((a, b) => b.u - a.u))
const share = (u: number) => (100 * u ** 2) / Math.max(1e-30, budget.value.uc ** 2)
const first = computed(() => ranked.value[0])

const whole = ref(true)
const start = () =>
  trials.start({
    kind: 'setUp',
    family: family.id,
    values: { ...setUp.values },
    tolerances: { ...tolerances.value },
    seed: SEED,
    leastBlocks: whole.value ? MILLION / BLOCK : 2,
  })
// What was tried before belongs to the entries of before.
watch(
  () => [setUp.values, tolerances.value],
  () => {
    trials.cancel()
    trials.done.value = null
  },
)
const set = (name: string, value: number | null) => {
  const others = Object.fromEntries(Object.entries(tolerances.value).filter(([n]) => n !== name))
  emit('tolerances', value === null ? others : { ...others, [name]: Math.abs(value) })
}
const bars = computed((): Chart | null => {
  const d = trials.done.value
  return d
    ? {
        title: 'Readings of the last ten thousand trials',
        says: `The trials spread from ${sayNumber(d.bars[0]?.[0] ?? 0, 3)} to ${sayNumber(d.bars.at(-1)?.[0] ?? 0, 3)} %.`,
        x: { label: 'change of the reading', unit: '%' },
        y: { label: 'trials', unit: '%' },
        series: [{ name: 'trials', kind: 'bars', points: d.bars }],
      }
    : null
})
const signed = (x: number) => `${x < 0 ? '−' : '+'}${sayNumber(Math.abs(x), 3)}`
</script>

<template>
  <div class="two-sides">
    <section class="stack" aria-label="How well it is known">
      <h2>How well each entry is known</h2>
      <p class="small quiet">
        Half widths: the value lies within ± this. Outlined numbers are typical; type what you know better.
      </p>
      <div class="field-grid">
        <NumberField
          v-for="r in rows"
          :key="r.name"
          :model-value="r.tolerance"
          :label="r.unit && !isUnitSymbol(r.unit) ? `${r.title}, ${r.unit}` : r.title"
          :unit="isUnitSymbol(r.unit) ? r.unit : null"
          :readonly="readonly"
          :unconfirmed="tolerances[r.name] === undefined"
          @update:model-value="set(r.name, $event)"
        />
      </div>
    </section>
    <section class="stack" aria-label="How sure the reading is">
      <p v-if="ranked.length === 0">
        Nothing is uncertain: every half width is 0, so the reading is as sure as the meter.
      </p>
      <template v-else>
        <p class="answer">
          {{ family.whatIf?.title }} is known to
          <strong class="mono">±{{ withUncertainty(0, budget.U).uncertainty }} %</strong> (k = 2) by what was
          entered<template v-if="first"
            >; {{ first.title.toLowerCase() }} is {{ roundText(share(first.u), 0) }} % of it</template
          >.
        </p>
        <table class="shares">
          <caption>
            Share of each entry
          </caption>
          <tbody>
            <tr v-for="r in ranked" :key="r.name">
              <th scope="row">{{ r.title }}</th>
              <td class="bar"><span :style="{ width: `${share(r.u)}%` }" /></td>
              <td class="mono">{{ signed(r.effect_pct) }} %</td>
              <td class="mono quiet">u {{ sayNumber(r.u, 2) }} %</td>
            </tr>
          </tbody>
        </table>
        <div class="row">
          <v-btn v-if="trials.share.value === null" @click="start">Try a million times</v-btn>
          <template v-else>
            <v-progress-linear
              :model-value="trials.share.value * 100"
              height="8"
              color="primary"
              aria-label="Trials done"
            />
            <span class="mono small">{{ trials.trials.value.toLocaleString('en') }} trials</span>
            <v-btn variant="text" @click="trials.cancel">Cancel</v-btn>
          </template>
        </div>
        <template v-if="trials.done.value">
          <p>
            {{ (trials.done.value.result.blocks * BLOCK).toLocaleString('en') }} trials: the reading lies
            between <strong class="mono">{{ signed(trials.done.value.result.low) }} %</strong> and
            <strong class="mono">{{ signed(trials.done.value.result.high) }} %</strong> in 95 of 100 cases, u
            {{ sayNumber(trials.done.value.result.u, 3) }} %{{
              trials.done.value.result.converged ? '' : '; its digits do not stand still yet'
            }}.
            <span class="small quiet">Seed {{ trials.done.value.result.seed }}.</span>
          </p>
          <ChartView v-if="bars" :chart="bars" :height="220" />
        </template>
        <p class="small quiet">
          By JCGM 100 and 101, every entry within a rectangle; the meter’s own accuracy comes on top.
        </p>
      </template>
    </section>
  </div>
</template>

<style scoped>
.answer {
  font-size: var(--size-l);
}
</style>
