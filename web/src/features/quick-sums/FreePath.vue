<script setup lang="ts">
import { defaultPath } from '@calm/core/loop/default-path'
import { computed, ref } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import UnitPicker from '../../ui/UnitPicker.vue'
import SignalPath from '../../signal-path/SignalPath.vue'

/** The signal path free of any loop: a range, a receiver, and every value along the line. */
const low = ref<number | null>(0)
const high = ref<number | null>(10)
const unit = ref('bar(g)')
const root = ref(false)
const wrong = computed(() =>
  low.value === null || high.value === null
    ? 'Both ends of the range are needed.'
    : low.value === high.value
      ? 'The 20 mA point must differ from the 4 mA point.'
      : null,
)
const stages = computed((previous?: ReturnType<typeof defaultPath>) => {
  if (wrong.value !== null && previous) return previous
  const range = { low: low.value ?? 0, high: high.value ?? 1, unit: unit.value }
  return defaultPath({ transmitter: range, squareRoot: root.value, receiver: range })
})
</script>

<template>
  <div class="stack">
    <h2>Signal path without a loop</h2>
    <div class="field-grid four">
      <NumberField v-model="low" label="4 mA point" :unit="unit" />
      <NumberField v-model="high" label="20 mA point" :unit="unit" :error="wrong" />
      <UnitPicker v-model="unit" any />
      <v-checkbox v-model="root" label="square root in the transmitter" />
    </div>
    <SignalPath :stages="stages" />
    <p class="quiet small">
      Type into any station; all others follow. 250 Ω shunt and a card in hundredths of a percent are assumed.
    </p>
  </div>
</template>

<style scoped>
.four {
  grid-template-columns: repeat(auto-fit, minmax(170px, 1fr));
}
</style>
