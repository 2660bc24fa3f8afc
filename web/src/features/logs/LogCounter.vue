<script setup lang="ts">
import type { LogJudgement } from '@calm/contract/logs'
import { judgeCounter } from '@calm/core/logs/judge-counter'
import { printedUnit } from '@calm/core/quantity/units'
import { computed, ref, watch } from 'vue'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'

/** A counter that was read at both ends of the stretch, against the total that the log makes. */
const { total, unit, from, to } = defineProps<{
  /** Of the stretch that is seen; null until it is known. */
  total: LogJudgement['total'] | null
  unit: string
  from: number
  to: number
}>()
const emit = defineEmits<{ look: [from: number, to: number] }>()
const amount = computed(() => printedUnit(unit.replace(/\/(s|min|h|d)$/, '')))
const start = ref<number | null>(null)
const end = ref<number | null>(null)
const rolls = ref<number | null>(null)
const U = ref<number | null>(null)
const rateU = ref<number | null>(null)
const net = ref(false)
/** The moment at which each was read: readings of other ends say nothing of this stretch, also where only one of them is. */
const of = ref<{ from: number | null; to: number | null }>({ from: null, to: null })
watch(start, (x) => (of.value.from = x === null ? null : from))
watch(end, (x) => (of.value.to = x === null ? null : to))
const isElsewhere = computed(() => (of.value.from ?? from) !== from || (of.value.to ?? to) !== to)
const told = computed(() => {
  if (start.value === null || end.value === null || total === null || isElsewhere.value) return null
  const counter = {
    start: start.value,
    end: end.value,
    net: net.value,
    ...(rolls.value !== null && rolls.value > 0 ? { modulus: rolls.value } : {}),
    ...(U.value === null ? {} : { U: Math.abs(U.value) }),
  }
  return judgeCounter(total, counter, rateU.value === null ? null : Math.abs(rateU.value), amount.value)
})
const state = computed(() =>
  told.value === null || told.value.agrees === null
    ? ('notYet' as const)
    : told.value.agrees
      ? ('good' as const)
      : ('look' as const),
)
const WORDS = { notYet: 'not judged', good: 'agrees', look: 'Look' } as const
</script>

<template>
  <details>
    <summary>Against a counter</summary>
    <div class="fields">
      <NumberField v-model="start" :label="`At the beginning, ${amount}`" />
      <NumberField v-model="end" :label="`At the end, ${amount}`" />
      <NumberField v-model="rateU" label="Rate, ± %" hint="of reading, k = 2" />
      <NumberField v-model="U" :label="`Counter, ± ${amount}`" hint="k = 2" />
      <NumberField v-model="rolls" label="Rolls over at" />
      <v-checkbox v-model="net" label="Counts backwards with reverse flow" hide-details />
    </div>
    <p v-if="isElsewhere" role="status">
      Not judged: the counter was read at the ends of another stretch.
      <v-btn variant="text" @click="emit('look', of.from ?? from, of.to ?? to)">Back to it</v-btn>
    </p>
    <p v-if="told" role="status" class="row">
      <StateMark :state="state" :word="WORDS[state]" /> <span>{{ told.says }}</span>
    </p>
  </details>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 4px 8px;
  padding-top: 8px;
}
.fields > :last-child {
  grid-column: 1 / -1;
}
</style>
