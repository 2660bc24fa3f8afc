<script setup lang="ts">
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import { adviceFor } from '@calm/core/procedure/advice'
import { adjustmentProblem } from '@calm/core/procedure/engine'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { FieldSource, Step, StepField } from '@calm/core/procedure/step'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { commandOf } from '@calm/core/procedure/command'
import { printedUnit } from '@calm/core/quantity/units'
import type { Stability } from '@calm/core/verify/stability'
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'
import type { StepAnswer } from './use-procedure.ts'

/** The one step that is to be done now. Everything else of the procedure is out of the way. */
const { run, step, draftKey, stability, device, busy, ask } = defineProps<{
  run: ProcedureRun
  step: Step
  /** Where what is ticked and typed is kept until it is recorded. */
  draftKey: string
  /** Of the last seconds of the device; null where readings are typed. */
  stability: { readonly pv: Stability; readonly mA: number } | null
  /** The device on its link; null where readings are typed. */
  device: DeviceView | null
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
}>()
const emit = defineEmits<{ answer: [step: string, answer: StepAnswer] }>()
/** After so long without coming to rest the step says what to look for, s. */
const GIVE_UP_S = 90
const LEAST_SAMPLES = 10

interface Draft {
  readonly ticked: readonly number[]
  readonly values: Readonly<Record<string, number>>
  readonly choice: string | null
  readonly note: string
  readonly confirmedBy: string
}
function kept(): Draft {
  // Whoever confirmed the last time is most likely to confirm again.
  const confirmedBy = step.confirmedBy
    ? (run.done.findLast((d) => d.confirmedBy !== '')?.confirmedBy ?? '')
    : ''
  const empty: Draft = { ticked: [], values: {}, choice: null, note: '', confirmedBy }
  try {
    const told = JSON.parse(sessionStorage.getItem(draftKey) ?? 'null') as (Draft & { step: string }) | null
    return told?.step === step.id ? { ...empty, ...told } : empty
  } catch {
    return empty
  }
}
const card = useTemplateRef('card')
// The next step is where the work goes on; a second press of the same button would do it unread.
onMounted(() => {
  if (run.done.length > 0) card.value?.focus({ preventScroll: true })
})
const draft = ref<Draft>(kept())
const sent = ref(false)
const says = ref<string | null>(null)
const since = ref(Date.now())
watch(draft, (d) => sessionStorage.setItem(draftKey, JSON.stringify({ ...d, step: step.id })), { deep: true })

const withDevice = computed(() => run.started.withDevice && stability !== null)
const unit = computed(() => printedUnit(run.started.context.range.unit))
/** What a field holds before anything is typed: what is documented or asked for, never a reading. */
const preset = (name: string): number | null => step.fields?.find((f) => f.name === name)?.preset ?? null
const valueOf = (name: string): number | null => draft.value.values[name] ?? preset(name)
function setValue(name: string, value: number | null): void {
  const others = Object.entries(draft.value.values).filter(([k]) => k !== name)
  const values = Object.fromEntries(value === null ? others : [...others, [name, value]])
  draft.value = { ...draft.value, values }
}
function tick(i: number): void {
  const t = draft.value.ticked
  draft.value = { ...draft.value, ticked: t.includes(i) ? t.filter((x) => x !== i) : [...t, i] }
}
const LEAST_DIGITS = 4
/** What stands on the device under a field's source, rounded as it is shown; null where nothing does. */
function told(from: FieldSource): number | null {
  const rounded = (x: number | null | undefined, digits = LEAST_DIGITS) =>
    x === null || x === undefined ? null : Number(roundText(x, digits))
  if (typeof from === 'object') return rounded(device?.signals.find((s) => s.name === from.signal)?.value)
  switch (from) {
    case 'pv':
      return rounded(stability?.pv.mean, 6)
    case 'current':
      return rounded(stability?.mA)
    case 'noise':
      return stability ? rounded(2 * stability.pv.sd) : null
    case 'standard':
      return rounded(device?.standardShows, 6)
    case 'alerts':
      return device ? device.alerts.length : null
    case 'change':
      return device ? rounded(changeOf(device)) : null
  }
}
/** Largest change of the device's signals since its first check, %. */
const changeOf = (d: DeviceView): number =>
  d.signals.reduce(
    (most, s) =>
      s.checked === null || s.reference === null || s.reference === 0
        ? most
        : Math.max(most, Math.abs((100 * (s.checked - s.reference)) / s.reference)),
    0,
  )
const toldFor = (f: StepField): number | null => (f.readsFrom === undefined ? null : told(f.readsFrom))
/** Takes what the device reads, as the mean of the window that stands still. */
function takeReading(): void {
  if (!stability) return
  for (const f of step.fields ?? []) {
    const value = toldFor(f)
    if (value !== null) setValue(f.name, value)
  }
}
const readable = computed(() => (step.fields ?? []).some((f) => toldFor(f) !== null))

const values = computed(() =>
  Object.fromEntries(
    (step.fields ?? []).flatMap((f) => {
      const v = valueOf(f.name)
      return v === null ? [] : [[f.name, v] as const]
    }),
  ),
)
const missing = computed(() => (step.fields ?? []).filter((f) => values.value[f.name] === undefined))
const problem = computed(() =>
  missing.value.length === 0
    ? adjustmentProblem(run, step, values.value)
    : { refused: null, warnings: [] as readonly string[] },
)
const advice = computed(() => (step.judged ? adviceFor(run, device?.range ?? null) : null))
const waiting = computed(
  () =>
    step.kind === 'wait' &&
    withDevice.value &&
    (step.task ? device?.task != null : !(stability?.pv.stable ?? false)),
)
/** Right after the input moved nothing has been read at the new one yet: a mean of nothing is no reading. */
const tooFew = computed(() => (stability?.pv.n ?? 0) < LEAST_SAMPLES)
const recommended = computed(() => advice.value?.choice ?? step.recommends ?? null)
const waitedLong = computed(
  // Looked at again with every sample that comes in.
  () => waiting.value && !step.task && stability !== null && Date.now() - since.value > GIVE_UP_S * 1000,
)
const open = computed(
  () =>
    draft.value.ticked.length < (step.hold?.length ?? 0) ||
    missing.value.length > 0 ||
    (step.kind === 'decide' && draft.value.choice === null) ||
    (step.confirmedBy !== undefined && draft.value.confirmedBy.trim() === ''),
)
const againstAdvice = computed(
  () => advice.value !== null && draft.value.choice !== null && draft.value.choice !== advice.value.choice,
)
const label = computed(() => {
  if (!withDevice.value) return step.kind === 'read' ? 'Record' : 'Done'
  if (step.holdCurrent_mA === null) return 'Release it'
  if (step.kind === 'apply' && step.holdCurrent_mA !== undefined) return `Hold ${step.holdCurrent_mA} mA`
  if (step.kind === 'apply' && step.apply !== undefined)
    return `Apply ${sayNumber(step.apply, 6)} ${unit.value}`
  if (step.label) return step.label
  return step.kind === 'write' ? 'Write' : step.kind === 'read' ? 'Record' : 'Done'
})

async function done(): Promise<void> {
  if (open.value || sent.value || busy) return
  says.value = problem.value.refused
  if (says.value !== null) return
  const command = withDevice.value
    ? commandOf(run, step, { values: values.value, choice: draft.value.choice })
    : null
  sent.value = true
  if (command && !(await ask(command))) {
    says.value = 'The device refused; its answer stands beside.'
    sent.value = false
    return
  }
  emit('answer', step.id, {
    ticks: draft.value.ticked.length,
    values: values.value,
    choice: step.kind === 'decide' ? draft.value.choice : null,
    note: draft.value.note.trim(),
    confirmedBy: step.confirmedBy ? draft.value.confirmedBy.trim() : '',
  })
  // Refused by the rules: the card stays and can be done again.
  sent.value = false
}
/** What has to happen first: the step's own, else its input on the device, or the held current of an output trim. */
const before = computed((): { readonly says: string; readonly command: DeviceOrder['command'] } | null => {
  if (!withDevice.value) return null
  if (step.before) return step.before(values.value, run)
  if (step.kind !== 'write') return null
  if (step.holdCurrent_mA !== undefined)
    return {
      says: `Hold ${step.holdCurrent_mA} mA`,
      command: { kind: 'adjust', adjustment: { kind: 'fixCurrent', mA: step.holdCurrent_mA } },
    }
  return step.apply === undefined
    ? null
    : {
        says: `Apply ${sayNumber(step.apply, 6)} ${unit.value}`,
        command: { kind: 'apply', value: step.apply },
      }
})
defineExpose({ done, label, open, waiting })
</script>

<template>
  <article ref="card" class="card" :class="step.kind" :aria-label="step.title" tabindex="-1">
    <p class="quiet small">Step {{ run.done.length + 1 }} of {{ run.done.length + run.left.length }}</p>
    <h2>{{ step.title }}</h2>
    <p class="says">{{ step.says }}</p>
    <template v-for="(h, i) in step.hold ?? []" :key="h">
      <v-checkbox
        :label="h"
        :model-value="draft.ticked.includes(i)"
        density="comfortable"
        hide-details
        @update:model-value="tick(i)"
      />
    </template>
    <v-text-field
      v-if="step.confirmedBy"
      :model-value="draft.confirmedBy"
      :label="`Name of the ${step.confirmedBy} who confirmed it`"
      maxlength="60"
      autocomplete="off"
      @update:model-value="draft = { ...draft, confirmedBy: $event }"
    />
    <div v-if="advice" class="advice" :class="advice.choice">
      <p v-for="line in advice.says" :key="line">{{ line }}</p>
    </div>
    <v-radio-group
      v-if="step.choices"
      :model-value="draft.choice"
      :aria-label="step.title"
      hide-details
      @update:model-value="draft = { ...draft, choice: $event }"
    >
      <v-radio
        v-for="c in step.choices"
        :key="c.value"
        :value="c.value"
        :label="recommended === c.value ? `${c.title} (recommended)` : c.title"
      />
    </v-radio-group>
    <v-textarea
      v-if="againstAdvice"
      :model-value="draft.note"
      label="Reason for going against the advice"
      rows="2"
      maxlength="500"
      @update:model-value="draft = { ...draft, note: $event }"
    />
    <template v-if="withDevice && step.task">
      <p role="status">
        <StateMark
          :state="device?.task ? 'look' : 'good'"
          :word="device?.task ? `${device.task.left_s} s to go` : 'the check is done'"
        />
      </p>
    </template>
    <template
      v-else-if="withDevice && (step.kind === 'wait' || step.kind === 'read' || step.kind === 'write')"
    >
      <p v-if="stability" role="status">
        <StateMark
          :state="stability.pv.stable ? 'good' : 'look'"
          :word="stability.pv.stable ? 'stands still' : `waits for ${stability.pv.waitsFor}`"
        />
      </p>
      <p v-if="waitedLong" class="advice leave">
        It does not come to rest. Look for a leak at the pump, a valve that passes, air in the legs, or the
        process still on the sensor. It can be stopped safely below.
      </p>
    </template>
    <v-btn v-if="before" :disabled="busy" @click="ask(before.command)">{{ before.says }}</v-btn>
    <div v-if="step.fields" class="fields">
      <NumberField
        v-for="f in step.fields"
        :key="f.name"
        :label="f.label"
        :unit="f.unit"
        :model-value="valueOf(f.name)"
        @update:model-value="setValue(f.name, $event)"
      />
    </div>
    <v-btn v-if="withDevice && readable" :disabled="waiting || tooFew" @click="takeReading"
      >Take the reading</v-btn
    >
    <p v-for="w in problem.warnings" :key="w" class="advice leave">{{ w }}</p>
    <p v-if="says ?? problem.refused" role="alert" class="trouble">{{ says ?? problem.refused }}</p>
  </article>
</template>

<style scoped>
.card {
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 20px;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.caution {
  border-left: 4px solid var(--look);
}
.says {
  font-size: var(--size-l);
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
  gap: 12px;
}
.advice {
  padding: 10px 12px;
  border-left: 3px solid var(--accent);
  background: var(--paper);
}
.advice.leave {
  border-left-color: var(--look);
}
.trouble {
  color: var(--stop);
}
</style>
