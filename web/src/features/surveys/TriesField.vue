<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import type { PositionJudged } from '@calm/core/survey/judge-position'
import type { PositionTry } from '@calm/core/survey/site-shape'
import { mdiClose } from '@mdi/js'
import { computed, ref } from 'vue'
import NumberField from '../../ui/NumberField.vue'

/** The sensor moved step by step: where it stood, what it heard, and where to go next. */
const {
  tries,
  judged,
  unit,
  calculated,
  readonly = false,
} = defineProps<{
  tries: readonly PositionTry[]
  judged: PositionJudged
  unit: string
  /** Where the calculation puts it. */
  calculated: string | null
  readonly?: boolean
}>()
const emit = defineEmits<{ add: [t: PositionTry]; drop: [index: number] }>()
const at = ref<number | null>(null)
const signal = ref<number | null>(null)
const asked = ref(false)
/** A fresh pair of fields for each try. */
const fields = ref(0)
const place = (x: number) => `${sayNumber(x, 5)}${unit === '' ? '' : ` ${unit}`}`
const wrong = computed(() => ({
  at: at.value === null ? 'Where does it stand?' : null,
  signal: signal.value === null || signal.value < 0 || signal.value > 100 ? 'A signal is 0 to 100 %.' : null,
}))
function add(): void {
  asked.value = true
  if (wrong.value.at !== null || wrong.value.signal !== null) return
  if (at.value === null || signal.value === null) return
  emit('add', { at: at.value, signal_pct: signal.value })
  at.value = null
  signal.value = null
  asked.value = false
  fields.value++
}
</script>

<template>
  <fieldset class="stack">
    <legend>Position</legend>
    <p class="small quiet">
      {{
        calculated === null
          ? 'Enter pipe and fluid: the spacing is calculated from them.'
          : `Calculated: ${calculated}. Try that, one nearer and one further, each with fresh couplant; the last try is where the sensor stays.`
      }}
    </p>
    <ol v-if="tries.length > 0" class="tries" aria-label="Tries">
      <li v-for="(t, i) in tries" :key="i" class="row">
        <span class="mono">{{ place(t.at) }}</span>
        <span class="bar" aria-hidden="true"><span :style="{ width: `${t.signal_pct}%` }" /></span>
        <span class="mono measured">{{ sayNumber(t.signal_pct, 3) }} %</span>
        <v-btn
          v-if="!readonly"
          :icon="mdiClose"
          size="small"
          variant="text"
          :aria-label="`Take try ${i + 1} away`"
          @click="emit('drop', i)"
        />
      </li>
    </ol>
    <p v-if="judged.next !== null" class="next">Go to {{ place(judged.next) }}.</p>
    <form v-if="!readonly" :key="fields" class="row add" novalidate @submit.prevent="add">
      <NumberField
        v-model="at"
        :label="unit === '' ? 'Stands at index' : 'Stands at'"
        :unit="unit === '' ? null : unit"
        :error="asked ? wrong.at : null"
      />
      <NumberField v-model="signal" label="Signal" unit="%" :error="asked ? wrong.signal : null" />
      <v-btn type="submit" variant="outlined" height="48">Add the try</v-btn>
    </form>
  </fieldset>
</template>

<style scoped>
.tries {
  list-style: none;
  padding: 0;
  margin: 0;
}
.tries li {
  min-height: var(--row);
  border-bottom: var(--line) solid var(--hair);
}
.tries li > :first-child {
  min-width: 84px;
}
.bar {
  flex: 1;
  height: 8px;
  border: var(--line) solid var(--hair);
}
.bar span {
  display: block;
  height: 100%;
  background: var(--copper);
}
.next {
  font-weight: 600;
}
.add {
  align-items: flex-start;
}
.add > :not(.v-btn) {
  flex: 1 1 140px;
}
</style>
