<script setup lang="ts">
import { manifold, moveValve, SEQUENCES, type ManifoldState } from '@calm/core/manifold/manifold'
import { stepPicture } from '@calm/core/family/step-picture'
import { allowedOf } from '@calm/core/procedure/allowed'
import { inputWithin } from '@calm/core/procedure/input-gate'
import { contextMadeFor } from '@calm/core/procedure/made-for'
import type { WorkEvent } from '@calm/core/procedure/order-of-work'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { toldNumber, type Step } from '@calm/core/procedure/step'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed } from 'vue'
import ManifoldPicture from '../../ui/ManifoldPicture.vue'
import ScaleDrawing from '../../ui/ScaleDrawing.vue'

/** Beside the step: how the valves stand once it is done, and by which limits it is judged. */
const { run, step } = defineProps<{ run: ProcedureRun; step: Step }>()
const context = computed(() => contextMadeFor(run.started))
const unit = computed(() => printedUnit(context.value.range.unit))

const OUT: ReadonlySet<WorkEvent | undefined> = new Set(['isolate', 'vent'])
const BACK: ReadonlySet<WorkEvent | undefined> = new Set(['restore', 'check', 'unbypass', 'auto', 'close'])
/** Whether the step, or one before it, opened the way to the standard, and whether it is closed again. */
const valves = computed((): { state: ManifoldState; says: string } | null => {
  const kind = context.value.manifold
  const applied = context.value.appliedBy ?? 'pressure'
  if (!kind || applied !== 'pressure') return null
  const steps = [...run.done.map((d) => d.step), step]
  const opened = steps.some((s) => OUT.has(s.work))
  const back = steps.some((s) => BACK.has(s.work))
  const here = opened && !back
  const state = here
    ? SEQUENCES[kind].out.reduce((at, m) => moveValve(at, m).state, manifold(kind, 'in service'))
    : manifold(kind, 'in service')
  return { state, says: `The manifold once this step is done: open ${[...state.open].join(', ') || 'none'}.` }
})

const picture = computed(() => stepPicture(run, step, context.value))

/** Of a step that is judged by a scale of its own, and set by what its certificate says; null of all others. */
const ownLimits = computed((): readonly (readonly [string, string])[] | null => {
  const reading = step.fields?.find((f) => f.readsFrom === 'pv' && f.within !== undefined)
  if (reading?.within === undefined) return null
  const set = (step.fields ?? []).flatMap((f) => {
    const wanted = f.wanted?.(run)
    return wanted ? [[f.label, `${sayNumber(wanted.value, 5)} ±${sayNumber(wanted.within, 2)}`] as const] : []
  })
  return [['Allowed here', `±${sayNumber(reading.within, 3)} ${printedUnit(reading.unit ?? '')}`], ...set]
})

const limits = computed((): readonly (readonly [string, string])[] => {
  const c = context.value
  const { pv, mA } = allowedOf(c)
  const row = (name: string, n: number, u: string): [string, string][] =>
    Number.isFinite(n) ? [[name, `${sayNumber(n, 5)} ${u}`.trim()]] : []
  const word = (name: string, title: string): [string, string][] =>
    c.told?.[name] === undefined ? [] : [[title, String(c.told[name]).toUpperCase()]]
  if (c.discrete)
    return [
      ...word('input', 'Input'),
      ...word('contact', 'Contact'),
      ...row('Alarm after', toldNumber(c, 'delay_s'), 's'),
      ...row('Longest cycle', toldNumber(c, 'most_s'), 's'),
    ]
  return [
    ...(ownLimits.value ?? [
      ['Range', `${sayNumber(c.range.low, 6)} to ${sayNumber(c.range.high, 6)} ${unit.value}`],
      ['Allowed', `±${sayNumber(pv, 3)} ${unit.value}, ±${sayNumber(mA, 3)} mA`],
      ['Input right within', `±${sayNumber(inputWithin(run), 3)} ${unit.value}`],
    ]),
    ...(c.zero ? [['A zero is good within', `±${sayNumber(c.zero.least, 3)} ${unit.value}`] as const] : []),
    ...(c.zeroInput?.value ? row('At zero input stand', c.zeroInput.value, unit.value) : []),
    ...row(
      'Speed of sound expected',
      toldNumber(c, 'soundSpeed_m_s'),
      `m/s ±${sayNumber(toldNumber(c, 'soundWithin_pct'))} %`,
    ),
    ...row('Least signal', toldNumber(c, 'leastSignal_pct'), '%'),
    ...row('Mark when inserted', toldNumber(c, 'inserted_mm'), 'mm'),
    ...row('Mark when clear of the valve', toldNumber(c, 'clear_mm'), 'mm'),
    ...row('Force on the stem', toldNumber(c, 'force_N'), 'N'),
  ]
})
</script>

<template>
  <section class="stack" aria-label="This step">
    <figure v-if="valves" class="valves">
      <ManifoldPicture :state="valves.state" />
      <figcaption class="small quiet">{{ valves.says }}</figcaption>
    </figure>
    <div v-if="picture" class="picture">
      <ScaleDrawing :drawing="picture" />
    </div>
    <dl class="limits small">
      <div v-for="[name, value] in limits" :key="name">
        <dt class="quiet">{{ name }}</dt>
        <dd class="mono">{{ value }}</dd>
      </div>
    </dl>
  </section>
</template>

<style scoped>
.valves {
  max-width: 300px;
  margin: 0;
}
.picture {
  max-width: 460px;
}
.limits {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(190px, 1fr));
  gap: 6px 20px;
  margin: 0;
}
.limits dd {
  margin: 0;
}
</style>
