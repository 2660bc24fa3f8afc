<script setup lang="ts">
import {
  BEAKER_APART_S,
  beakerCheck,
  beakerWaits,
  benchOutcome,
  type BeakerReading,
  type BenchOutcome,
  type FirstReading,
} from '@calm/core/family/ph/bench-calibration'
import { sayNumber } from '@calm/core/quantity/round'
import { useIntervalFn } from '@vueuse/core'
import { computed, ref } from 'vue'
import { plantTime } from '../../api/clock.ts'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'

/** A pH sensor in the workshop: buffer after buffer, each waits until it stands, then its new offset and slope. */
const { glass } = defineProps<{
  /** Resistance of its glass, MΩ; 0 where nobody measured it. */
  glass: number
}>()
const emit = defineEmits<{ write: [outcome: BenchOutcome, says: string] }>()
const MOST = 5
const now = ref(plantTime())
useIntervalFn(() => (now.value = plantTime()), 1000)
const buffer = ref<number | null>(null)
const mV = ref<number | null>(null)
const t = ref<number | null>(null)
const rinsed = ref(false)
const first = ref<FirstReading | null>(null)
const taken = ref<readonly BeakerReading[]>([])
const checking = ref(false)

const reading = computed((): BeakerReading | null =>
  buffer.value === null || mV.value === null || t.value === null
    ? null
    : { buffer: buffer.value, mV: mV.value, t: t.value },
)
const outcome = computed(() => benchOutcome(taken.value, glass))
const waits = computed(() => {
  if (!rinsed.value)
    return 'Rinse with demineralised water and dab dry, never rub; then a little of the buffer.'
  if (!reading.value)
    return 'Type the buffer on the bottle, the voltage and the temperature measured in the beaker.'
  const earlier = checking.value ? [] : taken.value
  return beakerWaits(reading.value, first.value, earlier, now.value)
})
const check = computed(() =>
  checking.value && reading.value && outcome.value && waits.value === null
    ? beakerCheck(outcome.value, reading.value)
    : null,
)
function noteFirst(): void {
  if (!reading.value) return
  first.value = { ...reading.value, at: plantTime() }
  mV.value = null
}
function next(): void {
  buffer.value = mV.value = null
  first.value = null
  rinsed.value = false
}
function take(): void {
  if (!reading.value || waits.value !== null) return
  taken.value = [...taken.value, reading.value]
  next()
}
function again(): void {
  taken.value = []
  checking.value = false
  next()
}
</script>

<template>
  <section class="stack beakers" aria-label="Calibrate in buffers">
    <h3>{{ checking ? 'Check in one of the buffers' : `Buffer ${taken.length + 1}` }}</h3>
    <ol v-if="taken.length > 0" class="small">
      <li v-for="r in taken" :key="r.buffer">
        pH {{ sayNumber(r.buffer, 5) }}: {{ sayNumber(r.mV, 5) }} mV at {{ sayNumber(r.t, 4) }} °C
      </li>
    </ol>
    <v-checkbox v-model="rinsed" label="Rinsed, dabbed dry, a little of this buffer" hide-details />
    <div class="field-grid">
      <NumberField v-model="buffer" label="Buffer on the bottle, pH at 25 °C" :unit="null" />
      <NumberField v-model="mV" label="Voltage that stands" unit="mV" />
      <NumberField v-model="t" label="Temperature in the beaker" unit="degC" />
    </div>
    <p role="status">
      <StateMark
        :state="waits === null ? 'good' : 'look'"
        :word="waits ?? 'It stands, and is this buffer.'"
      />
    </p>
    <p v-if="first" class="small quiet">
      First reading {{ sayNumber(first.mV, 5) }} mV; read it again {{ BEAKER_APART_S }} s later.
    </p>
    <div class="row">
      <v-btn v-if="!first" :disabled="!reading || !rinsed" @click="noteFirst">Note the first reading</v-btn>
      <v-btn v-else-if="!checking" :disabled="waits !== null" @click="take">Take this buffer</v-btn>
      <v-btn v-if="first" variant="text" @click="first = null">Begin again</v-btn>
    </div>
    <template v-if="outcome && taken.length > 0">
      <p v-for="line in outcome.says" :key="line" :class="{ wrong: outcome.result === 'rejected' }">
        {{ line }}
      </p>
      <p v-if="check" role="status">
        <StateMark :state="check.good ? 'good' : 'stop'" :word="check.says" />
      </p>
      <div class="row">
        <v-btn v-if="!checking && outcome.result !== 'rejected'" @click="((checking = true), next())"
          >Enough: check it in a buffer</v-btn
        >
        <v-btn
          v-if="checking"
          color="primary"
          :disabled="!check?.good"
          @click="emit('write', outcome, check?.says ?? '')"
          >Write it into the sensor’s data</v-btn
        >
        <v-btn variant="text" @click="again">Begin with the first buffer again</v-btn>
      </div>
      <p v-if="taken.length >= MOST" class="quiet small">Five buffers are the most.</p>
    </template>
  </section>
</template>

<style scoped>
.beakers {
  padding: 12px 16px;
  background: var(--paper);
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
