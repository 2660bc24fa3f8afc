<script setup lang="ts">
import type { Sensor } from '@calm/contract/sensors'
import { benchOutcome } from '@calm/core/family/ph/bench-calibration'
import { BUFFERS, bufferPH, recogniseBuffer, type Buffer } from '@calm/core/family/ph/buffers'
import { beakerMoves, linkedWaits, ON_PAGE } from '@calm/core/family/ph/linked-bench'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref } from 'vue'
import LinkPanel from '../../device/LinkPanel.vue'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'
import { beakerSeen, useWorkshop } from './workshop.ts'

/** A pH sensor on the link of the workshop: bottle after bottle, written into it, read back, checked. */
const { sensor } = defineProps<{ sensor: Sensor }>()
const emit = defineEmits<{ done: [] }>()
const w = useWorkshop(sensor.id)
const MOST = 5
const passcode = ref('')
const buffer = ref<number | null>(null)
const rinsed = ref(false)
const ended = ref<string | null>(null)
const view = w.view
const seen = computed(() => beakerSeen(view.value))
const linked = computed(() => view.value?.connected === true)
/** What stands on a bottle: two decimals of a technical buffer, three of a reference. */
const onBottle = (b: Buffer, pH: number): string => pH.toFixed(b.startsWith('T') ? 2 : 3)
const BOTTLES = [
  { value: null as number | null, title: 'Out of every bottle', word: 'none' },
  ...BUFFERS.flatMap((b) => {
    const pH = bufferPH(b, 25)
    if (pH === null) return []
    return [{ value: pH, title: `Into the bottle of pH ${onBottle(b, pH)}`, word: onBottle(b, pH) }]
  }),
]
const standsIn = computed(
  () => BOTTLES.find((b) => b.value !== null && b.value === view.value?.standard)?.value ?? null,
)
async function into(pH: number | null): Promise<void> {
  rinsed.value = false
  buffer.value = null
  await w.ask({ kind: 'apply', value: pH })
}
/** pH by which a technical buffer and a reference are one bottle for a voltage. */
const AS_GOOD_AS = 0.03
/** The bottle that its voltage is nearest to; of two as near the technical one: it is what stands in a workshop. */
const byVoltage = computed(() => {
  if (!seen.value || beakerMoves(seen.value, ON_PAGE) !== null) return null
  const t_C = seen.value.t.value
  const { nearest } = recogniseBuffer(BUFFERS, seen.value.mV.value, t_C)
  if (!nearest) return null
  const off = (b: Buffer) => Math.abs((bufferPH(b, t_C) ?? NaN) - (bufferPH(nearest, t_C) ?? NaN))
  const meant = BUFFERS.find((b) => b.startsWith('T') && off(b) <= AS_GOOD_AS) ?? nearest
  const pH = bufferPH(meant, 25)
  return pH === null ? null : { pH, word: onBottle(meant, pH) }
})
const waits = computed(() => {
  if (!linked.value) return 'Connect first: port, adaptor, then the sensor.'
  if (!rinsed.value)
    return 'Rinse with demineralised water and dab dry, never rub; then a little of the buffer.'
  if (!seen.value) return 'The sensor says nothing.'
  return linkedWaits(buffer.value, seen.value, w.written.value ? [] : w.beakers.value, ON_PAGE)
})
const glass = computed(() => view.value?.signals.find((s) => s.name === 'glass_Mohm')?.value ?? 0)
const outcome = computed(() => benchOutcome(w.beakers.value, glass.value))
const readsAll = computed(() => (view.value?.task?.kind === 'readAll' ? view.value.task : null))
async function unlock(): Promise<void> {
  await w.ask({ kind: 'unlock', passcode: passcode.value })
  passcode.value = ''
}
async function take(): Promise<void> {
  if (buffer.value !== null && (await w.act({ kind: 'take', buffer: buffer.value }))) buffer.value = null
}
async function check(): Promise<void> {
  if (buffer.value !== null && (await w.act({ kind: 'check', buffer: buffer.value })))
    ended.value = w.acted.value?.says ?? ''
}
</script>

<template>
  <section class="stack bench" aria-label="Calibrate over the link">
    <div class="row">
      <h3>On the link of the workshop <span class="simulated-word">simulated</span></h3>
      <StateMark
        :state="linked ? 'good' : 'notYet'"
        :word="linked ? (view?.unlocked ? 'linked, unlocked' : 'linked, locked') : 'not linked'"
      />
    </div>
    <p v-if="w.trouble.value" role="alert" class="wrong">{{ w.trouble.value }}</p>
    <template v-if="ended !== null">
      <p role="status">{{ ended }}</p>
      <div class="row"><v-btn color="primary" @click="emit('done')">Onto the shelf</v-btn></div>
    </template>
    <LinkPanel
      v-else-if="view && !linked"
      :device-id="sensor.id"
      :at="w.at"
      :busy="w.busy.value"
      :ask="w.ask"
    />
    <template v-else-if="view">
      <p class="numbers mono simulated">
        <span>{{ seen ? `${sayNumber(seen.mV.value, 4)} mV` : '–' }}</span>
        <span>{{ seen ? `${roundText(seen.t.value, 1)} °C` : '–' }}</span>
        <span>{{ seen ? `pH ${roundText(seen.pv.value, 2)}` : '–' }}</span>
      </p>
      <div class="stack hand" role="group" aria-label="The simulated hand puts it into">
        <p class="small simulated">The simulated hand puts it into a bottle:</p>
        <div class="row">
          <v-btn
            v-for="b in BOTTLES"
            :key="b.title"
            size="small"
            height="44"
            min-width="60"
            :variant="b.value === standsIn ? 'flat' : 'outlined'"
            :aria-pressed="b.value === standsIn"
            :aria-label="b.title"
            @click="into(b.value)"
            >{{ b.word }}</v-btn
          >
        </div>
      </div>
      <h4>
        {{
          w.written.value
            ? 'Check it in one of the bottles'
            : w.beakers.value.length < MOST
              ? `Bottle ${w.beakers.value.length + 1}`
              : 'Five bottles are read'
        }}
      </h4>
      <ol v-if="w.beakers.value.length > 0" class="small">
        <li v-for="r in w.beakers.value" :key="r.buffer">
          pH {{ sayNumber(r.buffer, 5) }}:
          <span class="simulated">{{ sayNumber(r.mV, 5) }} mV at {{ sayNumber(r.t, 3) }} °C</span>
        </li>
      </ol>
      <v-checkbox v-model="rinsed" label="Rinsed, dabbed dry, a little of this buffer" hide-details />
      <div class="row">
        <NumberField v-model="buffer" label="Buffer on the bottle, pH at 25 °C" :unit="null" />
        <v-btn v-if="byVoltage !== null && buffer === null" variant="text" @click="buffer = byVoltage.pH"
          >By its voltage: pH {{ byVoltage.word }}</v-btn
        >
      </div>
      <p role="status">
        <StateMark
          :state="waits === null ? 'good' : 'look'"
          :word="waits ?? 'It stands, and is this buffer.'"
        />
      </p>
      <p v-if="w.acted.value" :class="{ wrong: !w.acted.value.ok }" role="status">{{ w.acted.value.says }}</p>
      <p v-if="w.answer.value && !w.answer.value.ok" class="wrong" role="alert">
        {{ w.answer.value.says }}
      </p>
      <div class="row">
        <v-btn
          v-if="!w.written.value"
          :disabled="waits !== null || w.acting.value || w.beakers.value.length >= MOST"
          @click="take"
          >Take this bottle</v-btn
        >
        <v-btn
          v-else
          color="primary"
          variant="flat"
          :disabled="waits !== null || buffer === null || w.acting.value"
          @click="check"
          >Check it here</v-btn
        >
        <v-btn
          v-if="w.beakers.value.length > 0"
          variant="text"
          :disabled="w.acting.value"
          @click="w.act({ kind: 'again' })"
          >Begin with the first bottle again</v-btn
        >
      </div>
      <template v-if="outcome && !w.written.value">
        <p v-for="line in outcome.says" :key="line" :class="{ wrong: outcome.result === 'rejected' }">
          {{ line }}
        </p>
        <div v-if="outcome.result !== 'rejected' && view.unlocked" class="row">
          <v-btn color="primary" variant="flat" :disabled="w.acting.value" @click="w.act({ kind: 'write' })"
            >Write it into the sensor</v-btn
          >
        </div>
      </template>
      <div v-if="w.beakers.value.length > 0 && !view.unlocked" class="row">
        <v-text-field
          v-model="passcode"
          label="Passcode: it is locked so that nobody changes it by chance"
          autocomplete="off"
          hide-details
          @keydown.enter.prevent="unlock"
        />
        <v-btn :disabled="passcode === ''" @click="unlock">Unlock</v-btn>
      </div>
      <details>
        <summary>What it says of itself</summary>
        <div class="row">
          <v-btn v-if="!readsAll" variant="text" :disabled="w.busy.value" @click="w.ask({ kind: 'readAll' })"
            >Read all of it</v-btn
          >
          <template v-else>
            <span
              >Reading all: {{ Math.round(100 * readsAll.progress) }} %, {{ readsAll.left_s }} s left</span
            >
            <v-btn variant="text" @click="w.ask({ kind: 'cancel' })">Cancel</v-btn>
          </template>
        </div>
        <ul class="small">
          <li v-for="s in view.signals" :key="s.name">
            {{ s.title }}
            <span class="mono simulated">{{ sayNumber(s.value, 4) }} {{ printedUnit(s.unit) }}</span>
          </li>
          <li v-for="a in view.audit.slice(-5)" :key="a.at_s" class="quiet">{{ a.says }}</li>
        </ul>
      </details>
    </template>
  </section>
</template>

<style scoped>
.bench {
  padding: 12px 16px;
  background: var(--paper);
  border-radius: var(--corner);
}
.numbers {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  font-size: 1.4rem;
}
/* A number and its unit stay together on a phone. */
.numbers span {
  white-space: nowrap;
}
.simulated,
.simulated-word {
  color: var(--simulated);
}
.wrong {
  color: var(--stop);
}
</style>
