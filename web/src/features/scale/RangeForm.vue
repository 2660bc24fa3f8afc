<script setup lang="ts">
import { fieldAt } from '@calm/core/loop/field-path'
import { CODE_FORMATS } from '@calm/core/signal/card-codes'
import { printedUnit } from '@calm/core/quantity/units'
import { leftBehind } from '@calm/core/scale/unit-change'
import { stageOf } from '@calm/core/signal/stage'
import { computed } from 'vue'
import { useLoop } from '../../loop/loop-store.ts'
import { useDocumentField } from '../../loop/use-document-field.ts'
import NumberField from '../../ui/NumberField.vue'
import UnitPicker from '../../ui/UnitPicker.vue'

/** The ranges along the line, each at its station, and the tolerance they are judged by. */
const { readonly } = defineProps<{ readonly: boolean }>()
const loop = useLoop()
const at = useDocumentField(() => readonly)
const doc = computed(() => loop.draft)
const stage = computed(() => ({
  transmitter: doc.value ? stageOf(doc.value.path, 'transmitter') : undefined,
  output: doc.value ? stageOf(doc.value.path, 'output') : undefined,
  shunt: doc.value ? stageOf(doc.value.path, 'shunt') : undefined,
  input: doc.value ? stageOf(doc.value.path, 'input') : undefined,
  controller: doc.value ? stageOf(doc.value.path, 'controller') : undefined,
  display: doc.value ? stageOf(doc.value.path, 'display') : undefined,
}))

/** Values of the path that nobody has confirmed; those of the set-up are confirmed there. */
const assumed = computed(() => doc.value?.unconfirmed.filter((p) => p.startsWith('path.')) ?? [])
const TRANSFERS = [
  { value: 'linear', title: 'linear' },
  { value: 'sqrt', title: 'square root' },
]
const FORMATS = Object.entries(CODE_FORMATS).map(([value, { title }]) => ({ value, title }))
const format = computed({
  get: () =>
    Object.entries(CODE_FORMATS).find(
      ([, f]) => f.n4 === stage.value.input?.n4 && f.n20 === stage.value.input.n20,
    )?.[0] ?? null,
  set(name) {
    const f = name === null ? null : CODE_FORMATS[name as keyof typeof CODE_FORMATS]
    if (!f) return
    for (const key of ['n4', 'n20', 'nmin', 'nmax'] as const) {
      loop.setField(`path.input.${key}`, f[key])
      loop.confirm(`path.input.${key}`)
    }
  },
})

const transferOf = (kind: 'transmitter' | 'controller' | 'display') => ({
  modelValue: stage.value[kind]?.transfer.kind,
  'onUpdate:modelValue': (v: string) => loop.setField(`path.${kind}.transfer`, { kind: v }),
  items: TRANSFERS,
  label: 'Transfer function',
  readonly,
})
const SIGNALS = [
  { value: '4-20', title: '4-20 mA' },
  { value: '0-20', title: '0-20 mA' },
]
const signalOf = (kind: 'output' | 'input') => ({
  modelValue: stage.value[kind]?.signal,
  'onUpdate:modelValue': (v: string) => loop.setField(`path.${kind}.signal`, v),
  items: SIGNALS,
  readonly,
})
const unitOf = (path: string) => ({
  modelValue: String(fieldAt(doc.value, path) ?? ''),
  readonly,
  'onUpdate:modelValue': (v: string) => loop.setField(path, v),
})
/** Limits and relays stand in the unit of the range: a new one must not make others of them in silence. */
const left = computed(() =>
  doc.value && loop.detail && !readonly ? leftBehind(loop.detail.document, doc.value) : null,
)
function takeOver(): void {
  for (const { path, value } of left.value?.taken ?? []) loop.setField(path, value)
}
function setTolerance(path: string, v: number | null): void {
  if (doc.value?.tolerance === null)
    loop.setField('tolerance', { mode: 'max', pctSpan: v ?? 0, pctReading: 0, abs: 0 })
  else loop.setField(path, v ?? 0)
}
</script>

<template>
  <div v-if="doc" class="stack">
    <template v-if="stage.transmitter">
      <fieldset>
        <legend>Transmitter</legend>
        <div class="field-grid">
          <NumberField v-bind="at('path.transmitter.range.low', stage.transmitter.range.unit)" />
          <NumberField v-bind="at('path.transmitter.range.high', stage.transmitter.range.unit)" />
          <UnitPicker v-bind="unitOf('path.transmitter.range.unit')" />
          <v-select v-bind="transferOf('transmitter')" />
        </div>
        <div v-if="left" class="left" role="status">
          <p>
            These were typed in {{ printedUnit(left.from) }}, and would now be read as
            {{ printedUnit(left.to) }}:
          </p>
          <ul>
            <li v-for="s in left.says" :key="s">{{ s }}</li>
          </ul>
          <v-btn v-if="left.taken" height="48" @click="takeOver"
            >Convert them to {{ printedUnit(left.to) }}</v-btn
          >
          <p v-else>One cannot become the other: type them anew.</p>
        </div>
        <div v-if="stage.transmitter.shows" class="field-grid">
          <NumberField v-bind="at('path.transmitter.shows.low', stage.transmitter.shows.unit)" />
          <NumberField v-bind="at('path.transmitter.shows.high', stage.transmitter.shows.unit)" />
        </div>
      </fieldset>
      <fieldset v-if="stage.shunt && stage.input">
        <legend>Input card</legend>
        <div class="field-grid">
          <NumberField v-bind="at('path.shunt.resistance_ohm', 'ohm')" label="Shunt" />
          <v-select v-bind="signalOf('output')" label="Transmitter sends" />
          <v-select v-bind="signalOf('input')" label="Card expects" />
          <v-select
            v-model="format"
            :items="FORMATS"
            label="Codes for 4 to 20 mA"
            :readonly="readonly"
            :messages="doc.unconfirmed.includes('path.input.n20') ? 'assumed' : undefined"
          />
        </div>
      </fieldset>
      <fieldset v-for="kind in ['controller', 'display'] as const" v-show="stage[kind]" :key="kind">
        <legend>{{ kind === 'controller' ? 'Controller' : 'Display' }}</legend>
        <div v-if="stage[kind]" class="field-grid">
          <NumberField v-bind="at(`path.${kind}.range.low`, stage[kind].range.unit)" />
          <NumberField v-bind="at(`path.${kind}.range.high`, stage[kind].range.unit)" />
          <UnitPicker v-bind="unitOf(`path.${kind}.range.unit`)" />
          <v-select v-bind="transferOf(kind)" />
        </div>
      </fieldset>
      <fieldset>
        <legend>Tolerance and interval</legend>
        <div class="field-grid">
          <NumberField
            v-bind="at('tolerance.pctSpan', '%')"
            label="Tolerance, of span"
            @update:model-value="setTolerance('tolerance.pctSpan', $event)"
          />
          <NumberField v-bind="at('interval_months')" label="Interval, months" />
        </div>
      </fieldset>
      <div v-if="assumed.length > 0 && !readonly">
        <v-btn variant="text" class="confirm" @click="assumed.forEach((p) => loop.confirm(p))"
          >Confirm all assumed values</v-btn
        >
      </div>
    </template>
    <v-textarea
      :model-value="doc.remark"
      label="Remark"
      rows="2"
      auto-grow
      :readonly="readonly"
      @update:model-value="loop.setField('remark', $event)"
    />
  </div>
</template>

<style scoped>
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-weight: 600;
  padding: 0 0 8px;
}
.left {
  margin-top: 12px;
  padding: 8px 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
.left ul {
  margin: 4px 0 8px;
  padding-left: 20px;
}
.field-grid + .field-grid {
  margin-top: 12px;
}
.confirm {
  color: var(--accent);
  text-decoration: underline;
}
</style>
