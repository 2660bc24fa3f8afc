<script setup lang="ts">
import { lookedOf } from '@calm/contract/device-looked'
import type { DeviceOrder, DeviceView } from '@calm/contract/devices'
import { healthChange_pct } from '@calm/core/device/health'
import { needsPasscode } from '@calm/core/device/command'
import { adviceFor } from '@calm/core/procedure/advice'
import { sayOf } from '@calm/core/procedure/closing'
import { commandOf } from '@calm/core/procedure/command'
import { adjustmentProblem, gatesAt } from '@calm/core/procedure/engine'
import { readAgainAfter_s } from '@calm/core/procedure/still-gate'
import { steadyField, type TypedBefore } from '@calm/core/procedure/gate'
import { recommendedOf, type ProcedureRun } from '@calm/core/procedure/run'
import { seenOf } from '@calm/core/procedure/seen'
import type { FieldSource, Step, StepField } from '@calm/core/procedure/step'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { useIntervalFn } from '@vueuse/core'
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue'
import { plantTime } from '../../api/clock.ts'
import { useEquipment } from '../../api/equipment.ts'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'
import type { StepAnswer } from './use-procedure.ts'

/** The one step that is to be done now. Everything else of the procedure is out of the way. */
const { run, step, draftKey, device, busy, ask, answer } = defineProps<{
  run: ProcedureRun
  step: Step
  /** Where what is ticked and typed is kept until it is recorded. */
  draftKey: string
  /** The device on its link; null where readings are typed. */
  device: DeviceView | null
  busy: boolean
  ask: (command: DeviceOrder['command']) => Promise<boolean>
  /** @returns whether it counts: a device does what it is told in the same act */
  answer: (step: string, answer: StepAnswer) => Promise<boolean>
}>()
/** After so long without coming to rest the step says what to look for, s. */
const GIVE_UP_S = 90
const LEAST_REASON = 3

interface Draft {
  readonly ticked: readonly number[]
  readonly values: Readonly<Record<string, number>>
  readonly choice: string | null
  readonly note: string
  readonly confirmedBy: string
  /** The first of two typed readings. */
  readonly again: TypedBefore | null
  /** Why it is done against a gate; null where nobody wants to. */
  readonly against: string | null
}
function kept(): Draft {
  // Whoever confirmed the last time is most likely to confirm again.
  const confirmedBy = step.confirmedBy
    ? (run.done.findLast((d) => d.confirmedBy !== '')?.confirmedBy ?? '')
    : ''
  const empty: Draft = {
    ticked: [],
    values: {},
    choice: null,
    note: '',
    confirmedBy,
    again: null,
    against: null,
  }
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
/** Gates wait for time: looked at every second. */
const now = ref(plantTime())
useIntervalFn(() => (now.value = plantTime()), 1000)

const withDevice = computed(() => run.started.withDevice)
const unit = computed(() => printedUnit(run.started.context.range.unit))
const seen = computed(() => (device ? seenOf(lookedOf(device, run.started)) : null))
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
  if (typeof from === 'object') {
    const signal = device?.signals.find((s) => s.name === from.signal)
    return rounded(signal?.trend?.value ?? signal?.value)
  }
  switch (from) {
    case 'pv':
      return rounded(seen.value?.pv, 6)
    case 'current':
      return rounded(seen.value?.mA)
    case 'noise':
      return seen.value ? rounded(2 * seen.value.pvScatter, 6) : null
    case 'standard':
      return rounded(device?.standardShows, 6)
    case 'alerts':
      return device ? device.alerts.length : null
    case 'change':
      return device ? rounded(healthChange_pct(device.signals)) : null
    case 'checksBefore':
      return device ? Math.max(0, device.checks - 1) : null
    case 'LRV':
      return rounded(device?.range?.LRV, 6)
    case 'URV':
      return rounded(device?.range?.URV, 6)
  }
}
const toldFor = (f: StepField): number | null =>
  f.readsFrom === undefined || !withDevice.value ? null : told(f.readsFrom)
/** Takes what the device reads, as the mean of the window that stands still. */
function takeReading(): void {
  for (const f of step.fields ?? []) {
    const value = toldFor(f)
    if (value !== null) setValue(f.name, value)
  }
}
const readable = computed(() => (step.fields ?? []).some((f) => toldFor(f) !== null))

/** What is typed or taken; of a linked device what it shows now, where nobody took it yet. */
const values = computed(() =>
  Object.fromEntries(
    (step.fields ?? []).flatMap((f) => {
      const v = valueOf(f.name) ?? toldFor(f)
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
const evidence = computed(() => ({
  values: values.value,
  ...(withDevice.value && seen.value ? { seen: seen.value } : {}),
  ...(draft.value.again ? { again: draft.value.again } : {}),
}))
const { all: register } = useEquipment()
const instruments = computed(() =>
  register.value
    .filter((e) => run.started.equipment.includes(e.id))
    .map(({ name, dueOn }) => ({ name, dueOn })),
)
/** An older record goes on by the rules of its time. */
const gates = computed(() =>
  run.started.rules === undefined ? [] : gatesAt(run, step, evidence.value, now.value, instruments.value),
)
const shut = computed(() => gates.value.filter((g) => !g.holds))
/** A reading on its way to where it is asked to be is no slip: over the link it is judged once it stands. */
const slip = computed(() =>
  withDevice.value && shut.value.length > 0
    ? { refused: null, warnings: [] as readonly string[] }
    : problem.value,
)
const overruled = computed(() =>
  shut.value.length > 0 && draft.value.against !== null && draft.value.against.trim().length >= LEAST_REASON
    ? { gates: shut.value.map((g) => g.id), reason: draft.value.against.trim() }
    : null,
)
const advice = computed(() => (step.judged ? adviceFor(run) : null))
const waiting = computed(() => withDevice.value && step.task !== undefined && device?.task != null)
/** What the step tells the device is refused by one that is locked: told before the button is pressed. */
const locked = computed(() => {
  if (!withDevice.value || !device?.connected || device.unlocked || missing.value.length > 0) return false
  const command = commandOf(run, step, { values: values.value, choice: draft.value.choice })
  return command !== null && needsPasscode(command)
})
/** Typed readings are typed twice, with time between them. */
const apart_s = computed(() => readAgainAfter_s(run, step))
const twice = computed(() => gates.value.length > 0 && apart_s.value !== null)
const first = computed(() => {
  const { again } = draft.value
  const name = steadyField(step)
  const value = name === null ? undefined : again?.values[name]
  if (!again || value === undefined) return null
  const left = Math.ceil((apart_s.value ?? 0) - (Date.parse(now.value) - Date.parse(again.at)) / 1000)
  return { value, left }
})
function noteFirst(): void {
  const name = steadyField(step)
  const others = Object.fromEntries(Object.entries(draft.value.values).filter(([k]) => k !== name))
  draft.value = { ...draft.value, again: { at: plantTime(), values: values.value }, values: others }
}
const recommended = computed(() => advice.value?.choice ?? recommendedOf(run, step))
const waitedLong = computed(
  () =>
    withDevice.value &&
    shut.value.some((g) => g.id === 'still') &&
    Date.parse(now.value) > 0 &&
    Date.now() - since.value > GIVE_UP_S * 1000,
)
const againstAdvice = computed(
  () => advice.value !== null && draft.value.choice !== null && draft.value.choice !== advice.value.choice,
)
const noteLabel = computed(() =>
  step.needsNote ? step.needsNote : againstAdvice.value ? 'Reason for going against the advice' : null,
)
const open = computed(
  () =>
    draft.value.ticked.length < (step.hold?.length ?? 0) ||
    missing.value.length > 0 ||
    (step.kind === 'decide' && draft.value.choice === null) ||
    (step.confirmedBy !== undefined && draft.value.confirmedBy.trim() === '') ||
    (noteLabel.value !== null && draft.value.note.trim() === '') ||
    locked.value ||
    (shut.value.length > 0 && overruled.value === null),
)
const label = computed(() => {
  if (overruled.value) return step.kind === 'write' ? 'Write against the gate' : 'Go on against the gate'
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
  sent.value = true
  // Refused by the rules or by the device: the card stays and can be done again.
  await answer(step.id, {
    ticks: draft.value.ticked.length,
    values: values.value,
    choice: step.kind === 'decide' ? draft.value.choice : null,
    note: draft.value.note.trim(),
    confirmedBy: step.confirmedBy ? draft.value.confirmedBy.trim() : '',
    ...(gates.value.length > 0 && withDevice.value && seen.value ? { seen: seen.value } : {}),
    ...(draft.value.again ? { again: draft.value.again } : {}),
    ...(overruled.value ? { overruled: overruled.value } : {}),
  })
  sent.value = false
}
/** What the tool has to do first, as far as it is known from what was typed. */
const before = computed(() => (withDevice.value ? (step.before?.(values.value, run) ?? null) : null))
defineExpose({ done, label, open, waiting, sent, locked })
</script>

<template>
  <article ref="card" class="card" :class="step.kind" :aria-label="step.title" tabindex="-1">
    <p class="quiet small">Step {{ run.done.length + 1 }} of {{ run.done.length + run.left.length }}</p>
    <h2>{{ step.title }}</h2>
    <p class="says">{{ sayOf(step, run) }}</p>
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
      v-if="noteLabel !== null"
      :model-value="draft.note"
      :label="noteLabel"
      rows="2"
      maxlength="500"
      @update:model-value="draft = { ...draft, note: $event }"
    />
    <p v-if="withDevice && step.task" role="status">
      <StateMark
        :state="device?.task ? 'look' : 'good'"
        :word="device?.task ? `${device.task.left_s} s to go` : 'it is done'"
      />
    </p>
    <v-btn v-if="before" :disabled="busy" @click="ask(before.command)">{{ before.says }}</v-btn>
    <div v-if="step.fields" class="fields">
      <NumberField
        v-for="f in step.fields"
        :key="f.name"
        :label="f.label"
        :unit="f.unit"
        :model-value="valueOf(f.name)"
        :readonly="toldFor(f) !== null"
        @update:model-value="setValue(f.name, $event)"
      />
    </div>
    <v-btn v-if="withDevice && readable" :disabled="waiting || !seen" @click="takeReading"
      >Take the reading</v-btn
    >
    <template v-if="twice">
      <v-btn v-if="!draft.again" :disabled="missing.length > 0" @click="noteFirst"
        >Note the first reading</v-btn
      >
      <p v-else-if="first" role="status">
        First reading {{ sayNumber(first.value, 6) }}.
        {{
          first.left > 0
            ? `Read it again in ${first.left} s.`
            : 'Read it again and type what stands there now.'
        }}
        <v-btn variant="text" @click="draft = { ...draft, again: null }">Begin again</v-btn>
      </p>
    </template>
    <ul v-if="gates.length > 0" class="gates" aria-label="What has to hold" role="list">
      <li v-for="g in gates" :key="g.id" :data-gate="g.id">
        <StateMark :state="g.holds ? 'good' : 'look'" :word="g.title" />
        <span class="quiet small">{{ g.says }}</span>
      </li>
    </ul>
    <p v-if="waitedLong" class="advice leave">
      It does not come to rest. Look for a leak at the pump, a valve that passes, air in the legs, or the
      process still on the sensor. It can be stopped safely below.
    </p>
    <template v-if="shut.length > 0">
      <v-btn
        v-if="draft.against === null"
        variant="text"
        class="over"
        @click="draft = { ...draft, against: '' }"
        >Go on against it, with a reason</v-btn
      >
      <v-textarea
        v-else
        :model-value="draft.against"
        label="Why it is done against the gate"
        messages="It stands in the record under your name, and the result is not called good."
        rows="2"
        maxlength="500"
        @update:model-value="draft = { ...draft, against: $event }"
      />
    </template>
    <p v-for="w in slip.warnings" :key="w" class="advice leave">{{ w }}</p>
    <p v-if="says ?? slip.refused" role="alert" class="trouble">{{ says ?? slip.refused }}</p>
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
.gates {
  display: flex;
  flex-direction: column;
  gap: 4px;
  margin: 0;
  padding: 8px 12px;
  list-style: none;
  background: var(--paper);
  border-radius: var(--corner);
}
.gates li {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: baseline;
}
.over {
  align-self: flex-start;
}
</style>
