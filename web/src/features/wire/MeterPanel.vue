<script setup lang="ts">
import { knownParts, sayTerminal } from '@calm/core/part/wiring'
import { leadPlace, liftMeter, meterIn, meterReading, placeLead, withMeter } from '@calm/core/wire/meter'
import { LIVE_MISTAKES, meterSteps } from '@calm/core/wire/meter-order'
import { computed } from 'vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** The meter: where its leads are, what it reads, and the order that hurts nobody. */
const { bench, readonly = false } = defineProps<{ bench: WiringBench; readonly?: boolean }>()

const meter = computed(() => meterIn(bench.sound.value))
const reading = computed(() =>
  meter.value === null ? null : meterReading(bench.sound.value, meter.value, bench.solved.value),
)
const setting = (name: string) => String(bench.wiring.value.parts[meter.value ?? '']?.settings[name] ?? 'V')
const JACKS = [
  { value: 'V', title: 'V jack' },
  { value: 'mA', title: 'mA jack' },
  { value: '10A', title: '10 A jack' },
]
const DIALS = [
  { value: 'V', title: 'V DC' },
  { value: 'mA', title: 'mA DC' },
  { value: '10A', title: 'A DC' },
  { value: 'VAC', title: 'V AC' },
  { value: 'mAAC', title: 'mA AC' },
]
const places = computed(() =>
  knownParts(bench.sound.value)
    .filter((p) => p.kind.duty !== 'meter')
    .flatMap((p) => p.terminals.map((t) => `${p.id}:${t.id}`))
    .map((value) => ({ value, title: sayTerminal(bench.sound.value, value) })),
)
const lead = (which: 'red' | 'black') =>
  meter.value === null ? null : leadPlace(bench.sound.value, meter.value, which)

function place(which: 'red' | 'black', at: string): void {
  const { wiring, meter: id } = withMeter(bench.wiring.value)
  bench.change(placeLead(wiring, id, which, at))
}
const take = () => bench.change(withMeter(bench.wiring.value).wiring)
const lift = () => meter.value !== null && bench.change(liftMeter(bench.wiring.value, meter.value))

const steps = computed(() => meterSteps(bench.meterOrder.value, bench.sound.value, bench.power.value))
const mistakes = computed(() => bench.meterOrder.value.mistakes.map((m) => LIVE_MISTAKES[m]))
</script>

<template>
  <section class="stack" aria-label="Multimeter">
    <h2>What your meter should read</h2>
    <template v-if="meter === null">
      <p class="quiet">
        Take a multimeter, put its leads on two terminals, or choose a wire and put it in series.
      </p>
      <v-btn v-if="!readonly" class="start" @click="take">Take a multimeter</v-btn>
    </template>
    <template v-else>
      <output class="shows mono" :class="{ blown: reading?.blown }">{{ reading?.text }}</output>
      <p>{{ reading?.says }}</p>
      <div role="status">
        <p v-for="m in mistakes" :key="m" class="hint">{{ m }}</p>
      </div>
      <div class="field-grid">
        <v-select
          :model-value="setting('jack')"
          :items="JACKS"
          label="Red lead in"
          :readonly="readonly"
          @update:model-value="bench.setSetting(meter, 'jack', $event)"
        />
        <v-select
          :model-value="setting('dial')"
          :items="DIALS"
          label="Dial at"
          :readonly="readonly"
          @update:model-value="bench.setSetting(meter, 'dial', $event)"
        />
        <v-autocomplete
          v-for="which in ['red', 'black'] as const"
          :key="which"
          :model-value="lead(which)"
          :items="places"
          :label="`${which === 'red' ? 'Red' : 'Black'} lead on`"
          :readonly="readonly"
          auto-select-first
          class="mono-field"
          @update:model-value="$event && place(which, $event)"
        />
      </div>
      <ol class="order small">
        <li v-for="s in steps" :key="s.says" :class="{ done: s.done }">{{ s.says }}</li>
      </ol>
      <v-btn v-if="!readonly" class="start" variant="text" @click="lift">Take the leads off</v-btn>
    </template>
  </section>
</template>

<style scoped>
.shows {
  font-size: var(--size-xxl);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  padding: 4px 16px;
  background: var(--surface);
  text-align: right;
}
.shows.blown {
  color: var(--stop);
}
.hint {
  border-left: 4px solid var(--look);
  background: var(--look-surface);
  padding: 8px 12px;
}
.order {
  margin: 0;
  padding-left: 24px;
}
.order .done {
  color: var(--quiet);
}
.order li:not(.done) {
  font-weight: 600;
}
.start {
  align-self: start;
}
</style>
