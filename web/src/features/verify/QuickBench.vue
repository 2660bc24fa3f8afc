<script setup lang="ts">
import { parseQuantity } from '@calm/core/quantity/parse-quantity'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { QUICK_PLAN, quickAsFound, type QuickRow } from '@calm/core/scale/diagnosis/quick'
import { stageOf, type Stage } from '@calm/core/signal/stage'
import { appliedAt, loopScale } from '@calm/core/verify/reading-errors'
import type { Tolerance } from '@calm/core/verify/tolerance'
import { sayPct, verdictOf } from '@calm/core/verify/verdict'
import { computed, nextTick, ref, useTemplateRef } from 'vue'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import NextBar from '../../ui/NextBar.vue'
import StateMark from '../../ui/StateMark.vue'
import { VERDICT_SHORT, VERDICT_STATE } from '../../ui/verdict.ts'

/** As found in a minute: five currents, the verdict, what is off and the smallest right act. */
const { stages, tolerance, needsRoot, absolute, mayWrite, underWay } = defineProps<{
  stages: readonly Stage[]
  tolerance: Tolerance | null
  needsRoot: boolean
  absolute: boolean
  mayWrite: boolean
  /** A verification is open: these readings belong there, not into another one. */
  underWay: boolean
}>()
const emit = defineEmits<{ keep: [rows: readonly QuickRow[]] }>()
type Column = keyof QuickRow
const scale = computed(() => loopScale(stages))
const columns = computed((): { id: Column; title: string; unit: string }[] => [
  { id: 'loopCurrent_mA', title: 'Loop', unit: 'mA' },
  ...(more.value ? [{ id: 'pv' as const, title: 'Transmitter', unit: scale.value?.input.unit ?? '' }] : []),
  ...(more.value && stageOf(stages, 'controller')
    ? [{ id: 'controller' as const, title: 'Controller', unit: scale.value?.output.unit ?? '' }]
    : []),
])
/** The transmitter's and the controller's own values are asked for only where somebody has them. */
const more = ref(false)
const typed = ref<Record<string, string>>({})
const key = (index: number, column: Column) => `${index}/${column}`
function read(index: number, column: Column, unit: string): { value: number | null; says: string | null } {
  const parsed = parseQuantity(typed.value[key(index, column)] ?? '', unit)
  if (parsed.kind === 'refused') return { value: null, says: parsed.says }
  return { value: parsed.kind === 'empty' ? null : parsed.value, says: null }
}
const rows = computed((): QuickRow[] =>
  QUICK_PLAN.map((p) => {
    const of = (id: Column) => {
      const c = columns.value.find((x) => x.id === id)
      return c ? read(p.index, id, c.unit).value : null
    }
    return { pv: of('pv'), loopCurrent_mA: of('loopCurrent_mA'), controller: of('controller') }
  }),
)
const wrong = computed(() =>
  QUICK_PLAN.flatMap((p) =>
    columns.value.flatMap((c) => {
      const { says } = read(p.index, c.id, c.unit)
      return says === null
        ? []
        : [{ key: key(p.index, c.id), says: `${sayNumber(p.level_pct, 3)} %, ${c.title}: ${says}` }]
    }),
  ),
)
const quick = computed(() =>
  tolerance ? quickAsFound({ stages, needsRoot, tolerance, absolute, rows: rows.value }) : null,
)
const verdict = computed(() => verdictOf(quick.value?.judgement ?? null))
const state = computed(() => {
  if (!verdict.value) return 'look'
  const told = VERDICT_STATE[verdict.value]
  return told === 'good' && (quick.value?.judgement.missing.length ?? 0) > 0 ? 'look' : told
})
const errorAt = (index: number) =>
  quick.value?.judgement.points.find((p) => p.index === index)?.loop_pct ?? null
const root = useTemplateRef<HTMLElement>('root')
async function forward(index: number, at: number): Promise<void> {
  // Down the column: the standard stands at one point and one instrument is read there, then the next.
  const next = columns.value[at + 1]
    ? key(index, columns.value[at + 1]?.id ?? 'pv')
    : key(index + 1, columns.value[0]?.id ?? 'pv')
  await nextTick()
  root.value?.querySelector<HTMLInputElement>(`[data-cell="${next}"]`)?.focus()
}
const complete = computed(() => rows.value.every((r) => r.loopCurrent_mA !== null))
const next = computed(() => {
  if (!tolerance)
    return 'Give the loop a tolerance on the Scale bench first: nothing can be judged without one.'
  if (!quick.value) return 'Apply each value, wait until it is still, and type the current.'
  return quick.value.next
})
function keep(): void {
  if (wrong.value.length === 0) emit('keep', rows.value)
}
</script>

<template>
  <BenchFrame>
    <BenchSplit work="Readings" beside="What they say" fold="What they say" work-first even>
      <template #work>
        <div ref="root" class="stack">
          <h2>As found, quickly</h2>
          <p class="quiet small">
            Tell the operators and put the loop in manual first. What is applied is taken to be what stands
            here.
          </p>
          <table v-if="scale" aria-label="As found, quickly">
            <thead>
              <tr>
                <th scope="col">
                  Apply <span class="quiet mono">{{ printedUnit(scale.input.unit) }}</span>
                </th>
                <th v-for="c in columns" :key="c.id" scope="col" class="num">
                  {{ c.title }} <span class="quiet mono">{{ printedUnit(c.unit) }}</span>
                </th>
                <th scope="col" class="num">Error <span class="quiet mono">%</span></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="p in QUICK_PLAN" :key="p.index">
                <th scope="row">
                  <span class="mono apply">{{ sayNumber(appliedAt(scale, p.level_pct), 6) }}</span>
                  <span class="quiet small"> {{ sayNumber(p.level_pct, 3) }} %</span>
                </th>
                <td v-for="(c, i) in columns" :key="c.id">
                  <input
                    v-model="typed[key(p.index, c.id)]"
                    class="mono"
                    inputmode="decimal"
                    autocomplete="off"
                    :data-cell="key(p.index, c.id)"
                    :aria-label="`${c.title} at ${sayNumber(p.level_pct, 3)} %, in ${printedUnit(c.unit)}`"
                    :aria-invalid="wrong.some((w) => w.key === key(p.index, c.id))"
                    @keydown.enter.prevent="forward(p.index, i)"
                  />
                </td>
                <td class="num mono">{{ sayPct(errorAt(p.index)) }}</td>
              </tr>
            </tbody>
          </table>
          <p v-for="w in wrong" :key="w.key" class="wrong" role="alert">{{ w.says }}</p>
          <div>
            <v-btn variant="text" :aria-pressed="more" @click="more = !more">{{
              more ? 'Currents only' : 'I can read transmitter and controller too'
            }}</v-btn>
          </div>
        </div>
      </template>
      <template #beside>
        <section v-if="quick" class="stack" aria-label="What they say" aria-live="polite">
          <StateMark
            class="mark"
            :state="state"
            :word="verdict ? VERDICT_SHORT[verdict] : 'not judged yet'"
          />
          <p class="sentence">{{ quick.judgement.sentence }}</p>
          <p>{{ quick.where }}</p>
          <p v-if="quick.what">{{ quick.what }}</p>
          <ul v-if="quick.causes.length > 0" class="small">
            <li v-for="c in quick.causes" :key="c">{{ c }}</li>
          </ul>
          <div class="act">
            <h3>The smallest right act</h3>
            <p>{{ quick.act }}</p>
          </div>
        </section>
        <p v-else class="quiet">The verdict stands here from the first current on.</p>
      </template>
    </BenchSplit>
    <template #foot>
      <NextBar :next="next">
        <v-btn
          v-if="mayWrite && tolerance && !underWay"
          :color="complete ? 'primary' : undefined"
          :variant="complete ? 'flat' : 'outlined'"
          height="48"
          :disabled="!quick || wrong.length > 0"
          @click="keep"
          >Keep as the as-found of a verification</v-btn
        >
        <span v-else-if="mayWrite && underWay" class="small"
          >A verification is under way: it is finished by a standard before another is begun.</span
        >
      </NextBar>
    </template>
  </BenchFrame>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
  max-width: 560px;
}
th,
td {
  text-align: left;
  padding: 2px 4px;
  border-bottom: var(--line) solid var(--hair);
  white-space: nowrap;
}
thead th {
  font-size: var(--size-s);
}
.num {
  text-align: right;
}
/* A figure and its share of the range are two things. */
.apply {
  margin-right: 12px;
  color: var(--accent);
  font-size: var(--size-l);
}
tbody th {
  font-weight: 400;
}
input {
  width: 100%;
  min-width: calc(8ch + 10px);
  height: 48px;
  border: 0;
  border-radius: 0;
  background: transparent;
  color: var(--copper);
  font-size: var(--size-l);
  text-align: right;
  padding: 0 6px;
  box-shadow: inset 0 calc(-1 * var(--line)) 0 var(--quiet);
}
input[aria-invalid='true'] {
  color: var(--stop);
  box-shadow: inset 0 -2px 0 var(--stop);
}
.wrong {
  color: var(--stop);
}
.mark {
  font-weight: 600;
}
.sentence {
  font-size: var(--size-l);
}
.act {
  border-left: 3px solid var(--accent);
  padding: 4px 14px;
  background: var(--surface);
}
ul {
  margin: 0;
  padding-left: 20px;
}
</style>
