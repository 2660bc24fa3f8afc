<script setup lang="ts">
import { comparisons, logs, loops } from '@calm/contract/api/addresses'
import type { Log, LogComparison } from '@calm/contract/logs'
import type { Chart } from '@calm/core/chart'
import { sayClocks } from '@calm/core/logs/compare/clocks'
import { sayDuration, sayFindings } from '@calm/core/logs/say-finding'
import { sayCount, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref, shallowRef, watch } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { againOnce, useLongWork } from '../../api/long-work.ts'
import { useSubmit } from '../../api/submit.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import ChartView from '../../ui/ChartView.vue'
import LongWorkLine from '../../ui/LongWorkLine.vue'
import NumberField from '../../ui/NumberField.vue'
import type { Choice } from './use-log.ts'

/** The log that is seen against another one of its loop: the lag found, the error where both stand still. */
const { log, channel, beside, from, to, mayWrite } = defineProps<{
  log: Log
  channel: number
  beside: Choice
  from: number
  to: number
  mayWrite: boolean
}>()
const Uref_pct = ref<number | null>(1)
const Umeter_pct = ref<number | null>(0.5)
/** Of a clock that is wrong by an hour, or of a meter far down the line. */
const longest_min = ref<number | null>(1)
const MOST_MIN = 1440
type Field = 'reference' | 'meter' | 'longest' | 'allowed'
/** Fields in which no value stands: the last good one is not meant. */
const wrong = ref<Readonly<Partial<Record<Field, boolean>>>>({})
const tell = (field: Field, isWrong: boolean) => (wrong.value = { ...wrong.value, [field]: isWrong })
const notNegative = (x: number | null) => (x !== null && x < 0 ? 'Not below 0.' : null)
const longestSays = computed(() =>
  longest_min.value !== null && (longest_min.value < 0 || longest_min.value > MOST_MIN)
    ? 'From 0 to 1440 min: a day.'
    : null,
)
/** What is to be said before anything can be compared; null where all is said. */
const missing = computed(() => {
  const { reference, meter, longest } = wrong.value
  const marked = notNegative(Uref_pct.value) ?? notNegative(Umeter_pct.value) ?? longestSays.value
  if (reference || meter || longest || marked !== null) return 'Mend what is marked above.'
  return Uref_pct.value === null || Umeter_pct.value === null || longest_min.value === null
    ? 'Every field above takes a number: 0 where it is not to count.'
    : null
})
const result = shallowRef<LogComparison | null>(null)
const kept = ref(false)
const work = useLongWork()
const detail = useLive(loops.one, () => ({ loop: log.tag }))
const keeping = useSubmit()

/** The meter that is judged stands first, the reference second, whichever of them is looked at. */
const pair = computed(() => {
  const own: Choice = { log, channel }
  return log.of === 'reference' && beside.log.of === 'installed'
    ? { a: beside, b: own }
    : { a: own, b: beside }
})
/** What is compared. The lists of logs are read again and again: the same choice in a new list is no other one. */
const what = computed(() =>
  [log.id, channel, beside.log.id, beside.channel, from, to, longest_min.value].join(' '),
)
watch(what, () => {
  result.value = null
  kept.value = false
  work.giveUp()
})
function compare(): void {
  kept.value = false
  result.value = null
  const { a, b } = pair.value
  const asked = {
    loop: log.tag,
    log: a.log.id,
    channel: a.channel,
    with: b.log.id,
    withChannel: b.channel,
    from,
    to,
    maxLag: 60 * (longest_min.value ?? 0),
    Ua: 0,
    Ub: 0,
  }
  // Cut off by a slow line, or longer than an answer may take: the parts that are judged are not judged again.
  void work.begin(async (given) => {
    result.value = await againOnce(() => call(logs.compare, asked, undefined, given))
  })
}
const u = computed(() => (result.value ? ` ${printedUnit(result.value.unit)}` : ''))
const AMBIGUOUS = {
  weak: 'The two hardly move together: no lag can be told, none is taken out.',
  edge: 'The lag is longer than was looked for, or there is none: none is taken out. Where a clock may be wrong, look for a longer one.',
  rival: 'The flow comes again and again alike: the lag cannot be told, none is taken out.',
} as const
const lagSays = computed(() => {
  const r = result.value
  if (!r) return ''
  // Where two clocks run apart, there is no one lag: what was taken out is told with them.
  if (r.clocks) return sayClocks(r.clocks, pair.value.a.log.title, r.step_ms / 1000)
  if (r.ambiguous) return AMBIGUOUS[r.ambiguous]
  if (Math.abs(r.lag_s) < 0.05) return 'They move together: no lag.'
  const late = r.lag_s > 0 ? pair.value.a.log.title : pair.value.b.log.title
  return `“${late}” comes ${sayNumber(Math.abs(r.lag_s), 2)} s later; taken out.`
})
const signed = (x: number, digits = 3) => `${x < 0 ? '−' : '+'}${sayNumber(Math.abs(x), digits)}`
/** The error of each stretch, and whether it lies within what both are known to. */
const stretches = computed(() =>
  (result.value?.byStretch ?? []).map((p) => {
    const error = (100 * (p.a - p.b)) / p.b
    const U = Math.hypot(
      Uref_pct.value ?? 0,
      Umeter_pct.value ?? 0,
      (200 * Math.hypot(p.uA, p.uB)) / Math.abs(p.b),
    )
    return { ...p, error, U, En: U > 0 ? error / U : null }
  }),
)
/** Where the flow moves and no lag is known, a wrong clock holds two times against each other. */
const doubt = computed(() =>
  result.value?.ambiguous && !result.value.clocks
    ? 'No lag could be told: if both clocks are right, then this: '
    : '',
)
const verdict = computed(() => {
  const all = stretches.value
  if (all.length === 0)
    return 'Nowhere do both stand still long enough: the error is not judged. Choose a stretch of steady flow.'
  const of = result.value?.stretches ?? all.length
  const those =
    of > all.length
      ? `${sayCount(all.length)} longest of ${sayCount(of)} stretches`
      : `${all.length} stretches`
  const far = all.filter((s) => s.En === null || Math.abs(s.En) > 1).length
  const mean =
    all.reduce((n, s) => n + s.error * (s.to - s.from), 0) / all.reduce((n, s) => n + s.to - s.from, 0)
  return far === 0
    ? `They agree within what both are known to, in all ${those}; the error is ${signed(mean)} % on average.`
    : `${doubt.value}${doubt.value === '' ? 'They' : 'they'} do not agree in ${far} of ${of > all.length ? 'the ' : ''}${those}; the error is ${signed(mean)} % on average. That is an error, not scatter.`
})
/** All differences against the mean of both: the smallest, largest and mean of each mark. */
const differences = computed((): Chart | null => {
  const r = result.value
  const [first, last] = [r?.plot[0], r?.plot.at(-1)]
  if (!r || !first || !last || r.plot.length < 2) return null
  const simulated = log.simulated ? { simulated: true as const } : {}
  return {
    title: 'Difference of every sample',
    says: `${sayCount(r.n)} differences, ${signed(r.meanDifference, 4)}${u.value} on average; 95 of 100 lie between ${signed(r.limits[0] ?? 0)} and ${signed(r.limits[1] ?? 0)}${u.value}.`,
    x: { label: 'mean of both', unit: r.unit },
    y: { label: 'difference', unit: r.unit },
    series: [
      {
        name: 'smallest to largest',
        kind: 'band',
        points: r.plot.map((p) => [p.at, p.max] as const),
        below: r.plot.map((p) => p.min),
      },
      {
        name: 'mean',
        kind: 'points',
        apart: true,
        points: r.plot.map((p) => [p.at, p.mean] as const),
        ...simulated,
      },
      ...r.limits.map((y, i) => ({
        name: i === 0 ? '95 of 100 above' : '95 of 100 below',
        kind: 'limit' as const,
        points: [
          [first.at, y],
          [last.at, y],
        ] as const,
      })),
    ],
  }
})
/** What measured nothing, in words; many of one kind are one. */
const MOST_TOLD = 6
const leftOut = computed(() => {
  const r = result.value
  if (!r) return []
  return (['a', 'b'] as const).flatMap((of) =>
    sayFindings(
      r.leftOut.filter((f) => f.of === of),
      printedUnit(r.unit),
    ).map((f) => `“${pair.value[of].log.title}”: ${f.says}`),
  )
})
/** The error of each stretch against the mean of both, with what both are known to as the band. */
const chart = computed((): Chart => {
  const r = result.value
  const all = [...stretches.value].sort((x, y) => x.a + x.b - y.a - y.b)
  const at = all.map((s) => (s.a + s.b) / 2)
  return {
    title: 'Error where both stand still',
    says: verdict.value,
    x: { label: 'mean of both', ...(r ? { unit: r.unit } : {}) },
    y: { label: 'error', unit: '%' },
    series: [
      {
        name: 'known to',
        kind: 'band',
        points: all.map((s, i) => [at[i] ?? 0, s.U] as const),
        below: all.map((s) => -s.U),
      },
      {
        name: 'error',
        kind: 'points',
        apart: true,
        points: all.map((s, i) => [at[i] ?? 0, s.error] as const),
        ...(log.simulated ? { simulated: true as const } : {}),
      },
    ],
  }
})
const MOST_RUNS = 60
async function keep(): Promise<void> {
  const r = result.value
  const loop = detail.data.value
  if (!r || !loop) return
  kept.value = await keeping.submit(async () => {
    const all = [...stretches.value].sort((x, y) => y.n - x.n).slice(0, MOST_RUNS)
    const worst = Math.max(...all.map((s) => (200 * Math.hypot(s.uA, s.uB)) / Math.abs(s.b)))
    await call(
      comparisons.keep,
      { loop: log.tag },
      {
        id: crypto.randomUUID(),
        at: new Date().toISOString(),
        revision: loop.revision,
        kind: 'portable',
        unit: r.unit,
        // What the logs themselves scatter belongs to how well the reference is known.
        Uref_pct: Math.hypot(Uref_pct.value ?? 0, worst),
        Umeter_pct: Umeter_pct.value ?? 0,
        tolerance_pct: tolerance.value ?? 0,
        runs: all
          .sort((x, y) => x.from - y.from)
          .map((s) => ({ reference: s.b, indicated: s.a, path: null })),
        note: `From the logs “${pair.value.a.log.title}” and “${pair.value.b.log.title}”: ${all.length} stretches in which both stood still.`.slice(
          0,
          300,
        ),
      },
    )
  })
}
const tolerance = ref<number | null>(1)
</script>

<template>
  <section class="stack" aria-label="Compared with another log">
    <h2>Compared</h2>
    <p class="small quiet">
      “{{ pair.a.log.title }}” against “{{ pair.b.log.title }}” as the reference, over what is seen.
    </p>
    <div class="fields">
      <NumberField
        v-model="Uref_pct"
        label="Reference known to ±"
        unit="%"
        :error="notNegative(Uref_pct)"
        @wrong="tell('reference', $event)"
      />
      <NumberField
        v-model="Umeter_pct"
        label="Meter repeats to ±"
        unit="%"
        :error="notNegative(Umeter_pct)"
        @wrong="tell('meter', $event)"
      />
      <NumberField
        v-model="longest_min"
        label="Lag looked for up to ±"
        unit="min"
        :error="longestSays"
        @wrong="tell('longest', $event)"
      />
    </div>
    <v-btn v-if="!work.busy.value" variant="outlined" :disabled="missing !== null" @click="compare"
      >Compare</v-btn
    >
    <p v-if="missing" class="small trouble">{{ missing }}</p>
    <LongWorkLine :work="work" doing="Comparing" />
    <div v-if="result && !missing" class="stack" role="status">
      <p>
        <strong>{{ verdict }}</strong>
      </p>
      <p class="small" :class="{ apart: result.clocks }">{{ lagSays }}</p>
      <template v-if="leftOut.length > 0">
        <p class="small"><strong>Left out of all of this:</strong></p>
        <p v-for="line in leftOut.slice(0, MOST_TOLD)" :key="line" class="small">{{ line }}</p>
        <p v-if="leftOut.length > MOST_TOLD" class="small">and {{ leftOut.length - MOST_TOLD }} more</p>
      </template>
      <p class="mono small">
        difference {{ signed(result.meanDifference, 4) }}{{ u }} ± {{ sayNumber(2 * result.uDifference, 2) }}
        <template v-if="result.gain !== null && result.uGain !== null">
          · gain {{ sayNumber(result.gain, 5) }} ± {{ sayNumber(2 * result.uGain, 2) }}</template
        >
        <template v-if="result.offset !== null"> · offset {{ signed(result.offset, 3) }}{{ u }}</template>
      </p>
      <ChartView v-if="stretches.length > 1" :chart="chart" :height="200" />
      <ChartView v-if="differences" :chart="differences" :height="200" />
      <p v-if="differences" class="small quiet">{{ differences.says }}</p>
      <div v-if="stretches.length > 0" v-key-scroll class="scroll" aria-label="Stretches, scrolls sideways">
        <table class="mono small">
          <thead>
            <tr>
              <th scope="col">lasts</th>
              <th scope="col">reference{{ u }}</th>
              <th scope="col">meter</th>
              <th scope="col">error</th>
              <th scope="col">E<sub>n</sub></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in stretches.slice(0, 12)" :key="s.from">
              <td>{{ sayDuration((s.to - s.from) / 1000) }}</td>
              <td>{{ sayNumber(s.b, 5) }}</td>
              <td>{{ sayNumber(s.a, 5) }}</td>
              <td>{{ signed(s.error) }} %</td>
              <td :class="{ far: s.En !== null && Math.abs(s.En) > 1 }">
                {{ s.En === null ? '' : sayNumber(s.En, 3) }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="stretches.length > 12" class="small quiet">and {{ sayCount(stretches.length - 12) }} more</p>
      <template v-if="mayWrite && stretches.length > 0">
        <NumberField
          v-model="tolerance"
          label="Allowed ±"
          unit="% of reading"
          :error="notNegative(tolerance)"
          @wrong="tell('allowed', $event)"
        />
        <v-btn
          color="primary"
          variant="flat"
          :disabled="
            keeping.busy.value || kept || tolerance === null || tolerance < 0 || wrong.allowed === true
          "
          @click="keep"
          >Keep as a comparison</v-btn
        >
        <p v-if="kept" role="status">
          In the record of
          <router-link :to="`/loops/${log.tag}/verify`">{{ log.tag }}</router-link>.
        </p>
        <p
          v-if="keeping.says.value ?? keeping.at('runs') ?? keeping.at('tolerance_pct')"
          role="alert"
          class="trouble"
        >
          {{ keeping.says.value ?? keeping.at('runs') ?? keeping.at('tolerance_pct') }}
        </p>
      </template>
    </div>
  </section>
</template>

<style scoped>
h2 {
  font-size: var(--size-l);
}
.trouble {
  color: var(--stop);
}
.apart {
  border-left: 3px solid var(--look);
  padding-left: 10px;
}
.fields {
  display: grid;
  gap: 8px;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 200px), 1fr));
}
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: right;
  padding: 6px;
  border-bottom: var(--line) solid var(--hair);
  white-space: nowrap;
}
.far {
  color: var(--stop);
  font-weight: 600;
}
</style>
