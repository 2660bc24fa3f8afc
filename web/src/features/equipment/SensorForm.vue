<script setup lang="ts">
import { sensors } from '@calm/contract/api/addresses'
import type { Sensor } from '@calm/contract/sensors'
import { SENSOR_KINDS, sensorKindOf } from '@calm/core/sensor/index'
import { SENSOR_STATES, SENSOR_STATE_TITLES, type SensorDescription } from '@calm/core/sensor/sensor'
import { shownSettings, valuesOf, type SettingValue } from '@calm/core/quantity/setting'
import { sensorAfter, type BenchOutcome } from '@calm/core/family/ph/bench-calibration'
import { computed, defineAsyncComponent, onMounted, ref, useTemplateRef } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { plantTime } from '../../api/clock.ts'
import BufferBench from './BufferBench.vue'
import FindingRow from '../../ui/FindingRow.vue'
import SettingField from '../../ui/SettingField.vue'

const LinkedBench = defineAsyncComponent(() => import('./LinkedBench.vue'))

/** A sensor’s plate: a new one, or one described anew. */
const { sensor } = defineProps<{ sensor: Sensor | null }>()
const emit = defineEmits<{ done: [] }>()
const START: SensorDescription = {
  kind: 'clamp-on-pair',
  values: {},
  state: 'shelf',
  certificate: '',
  certifiedOn: null,
  dueOn: null,
  remark: '',
}
// A copy of its own: the stock is watched, and what is watched cannot be cloned as it is.
const begun = sensor?.description ?? START
const form = ref<SensorDescription>({ ...begun, values: { ...begun.values } })
const asTyped = ref<Record<string, string>>({})
const reason = ref('')
const problem = ref<ApiProblem | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
const id = sensor?.id ?? crypto.randomUUID()
const kind = computed(() => sensorKindOf(form.value.kind))
const settings = computed(() => {
  const k = kind.value
  return k ? shownSettings(k.settings, valuesOf(k.settings, form.value.values)) : []
})
const states = SENSOR_STATES.map((value) => ({ value, title: SENSOR_STATE_TITLES[value] }))
const kinds = SENSOR_KINDS.map((k) => ({ value: k.id, title: k.title }))
const valueOf = (name: string): SettingValue =>
  form.value.values[name] ?? settings.value.find((s) => s.name === name)?.standard ?? ''
function set(name: string, value: SettingValue): void {
  if (typeof value === 'object') return
  form.value = { ...form.value, values: { ...form.value.values, [name]: value } }
}
const judged = computed(() => kind.value?.judge?.(form.value.values) ?? [])
const calibrating = ref<'typed' | 'linked' | null>(null)
const written = ref<string | null>(null)
const glass_Mohm = computed(() => {
  const value = form.value.values['glass_Mohm']
  return typeof value === 'number' ? value : 0
})
/** Offset, slope and history as the beakers gave them; stored with the form, under the name of who saves it. */
function calibrated(o: BenchOutcome, says: string): void {
  const today = plantTime().slice(0, 10)
  const values = sensorAfter(form.value.values, o, form.value.certifiedOn, today) as typeof form.value.values
  form.value = { ...form.value, values, certifiedOn: today, state: 'shelf' }
  if (form.value.dueOn !== null && form.value.dueOn <= today) form.value.dueOn = null
  reason.value = `Calibrated in buffers. ${o.says[0] ?? ''} ${says}`.trim().slice(0, 240)
  written.value = `${reason.value} Save it: then every loop that takes it knows it.`
  calibrating.value = null
}
/** A bench stands in this form: Enter in one of its fields saves nothing here. */
function notTheForm(event: KeyboardEvent): void {
  if (event.target instanceof HTMLInputElement) event.preventDefault()
}
const dayOrNull = (text: string) => (text.trim() === '' ? null : text.trim())
const box = useTemplateRef<HTMLElement>('box')
// It opens above a long list: whoever pressed a row far down sees it, and goes on there.
onMounted(() => {
  box.value?.scrollIntoView({ block: 'start' })
  box.value?.focus({ preventScroll: true })
})
async function save(): Promise<void> {
  problem.value = null
  says.value = null
  busy.value = true
  try {
    await call(
      sensors.save,
      { sensor: id },
      { base: sensor?.revision ?? 0, description: form.value, reason: reason.value },
    )
    emit('done')
  } catch (error) {
    if (error instanceof ApiProblem && error.problem.errors) problem.value = error
    else says.value = sayProblem(error)
    box.value?.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus()
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form
    ref="box"
    class="stack form"
    tabindex="-1"
    novalidate
    :aria-label="sensor ? `Describe ${sensor.name} anew` : 'Add a sensor'"
    @submit.prevent="save"
  >
    <h2>{{ sensor ? sensor.name : 'A new sensor' }}</h2>
    <div class="field-grid">
      <v-select v-if="!sensor" v-model="form.kind" :items="kinds" label="Kind of sensor" />
      <SettingField
        v-for="s in settings"
        :key="`${form.kind}/${s.name}`"
        :setting="s"
        :value="valueOf(s.name)"
        :error="problem?.at(`description.values.${s.name}`) ?? null"
        :typed="asTyped[s.name] ?? null"
        @set="set"
        @typed="(name, text) => (asTyped = { ...asTyped, [name]: text })"
      />
    </div>
    <FindingRow v-for="f in judged" :key="f.code" :finding="f" />
    <template v-if="form.kind === 'ph-sensor'">
      <div v-if="calibrating === null" class="row">
        <v-btn v-if="sensor?.linked" @click="calibrating = 'linked'"
          >Calibrate it over the link (simulated)</v-btn
        >
        <v-btn @click="calibrating = 'typed'">Calibrate it in buffers, typed</v-btn>
      </div>
      <LinkedBench
        v-else-if="sensor && calibrating === 'linked'"
        :sensor="sensor"
        @done="emit('done')"
        @keydown.enter="notTheForm"
      />
      <BufferBench v-else :glass="glass_Mohm" @write="calibrated" @keydown.enter="notTheForm" />
      <p v-if="written" role="status">{{ written }}</p>
    </template>
    <div class="field-grid">
      <v-select v-model="form.state" :items="states" label="It is" />
      <v-text-field
        v-model="form.certificate"
        label="Certificate number"
        :error-messages="problem?.at('description.certificate') ?? undefined"
      />
      <v-text-field
        :model-value="form.certifiedOn ?? ''"
        label="Certified or calibrated on (2026-11-23)"
        :error-messages="problem?.at('description.certifiedOn') ?? undefined"
        @update:model-value="form.certifiedOn = dayOrNull($event)"
      />
      <v-text-field
        :model-value="form.dueOn ?? ''"
        label="Counts until (empty: no end)"
        :error-messages="problem?.at('description.dueOn') ?? undefined"
        @update:model-value="form.dueOn = dayOrNull($event)"
      />
      <v-text-field
        v-model="form.remark"
        label="Remark"
        :error-messages="problem?.at('description.remark') ?? undefined"
      />
      <v-text-field
        v-if="sensor"
        v-model="reason"
        label="Why it is described anew"
        :error-messages="problem?.at('reason') ?? undefined"
      />
    </div>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <p v-else-if="problem" class="wrong" role="alert">{{ problem.problem.errors?.[0]?.says }}</p>
    <div class="row">
      <v-btn type="submit" color="primary" variant="flat" :loading="busy">{{
        sensor ? 'Save' : 'Add'
      }}</v-btn>
      <v-btn variant="text" @click="emit('done')">Not now</v-btn>
    </div>
  </form>
</template>

<style scoped>
.form {
  background: var(--surface);
  border-radius: var(--corner);
  padding: 16px;
}
.wrong {
  color: var(--stop);
}
</style>
