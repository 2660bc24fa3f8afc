<script setup lang="ts">
import { parseNumberList } from '@calm/core/quantity/number-list'
import { MOST_POINTS, PLANS, PLAN_NAMES, pointsOf, WAYS, type Plan, type Way } from '@calm/core/verify/plan'
import { computed, ref, watch } from 'vue'
import NumberField from '../../ui/NumberField.vue'

/** The points at which a loop is read: a usual plan, or levels of one's own in any order. */
const model = defineModel<Plan>({ required: true })
/** False while a list of one's own cannot be used as it stands. */
const usable = defineModel<boolean>('usable', { default: true })
const OWN = 'own'
const given = model.value
const choice = ref<string>(typeof given === 'string' ? given : OWN)
const levels = ref(typeof given === 'string' ? '5 25 50 75 95' : given.levels_pct.join(' '))
const way = ref<Way>(typeof given === 'string' ? 'both' : given.way)
const repeats = ref<number | null>(typeof given === 'string' ? 1 : given.repeats)
const seed = crypto.getRandomValues(new Uint32Array(1))[0] ?? 1

const items = [
  ...PLAN_NAMES.map((value) => ({ value: value as string, title: PLANS[value].title })),
  { value: OWN, title: 'A list of one’s own' },
]
const ways = (Object.keys(WAYS) as Way[]).map((value) => ({ value, title: WAYS[value] }))

const own = computed((): Plan | string => {
  const read = parseNumberList(levels.value.replace(/%/g, ' '))
  if (typeof read === 'string') return read
  if (new Set(read).size < 2) return 'At least two different levels.'
  const wrong = read.find((l) => l < -10 || l > 110)
  if (wrong !== undefined) return `${wrong} % lies outside -10 to 110 %.`
  const times = repeats.value ?? 1
  if (!Number.isInteger(times) || times < 1 || times > 10) return 'Repeated 1 to 10 times.'
  const plan = { levels_pct: read, way: way.value, repeats: times, seed }
  const n = pointsOf(plan).length
  return n > MOST_POINTS ? `${n} readings; at most ${MOST_POINTS} are possible.` : plan
})
const says = computed(() => (choice.value === OWN && typeof own.value === 'string' ? own.value : null))
const count = computed(() => (typeof own.value === 'string' ? 0 : pointsOf(own.value).length))
watch(
  [choice, own],
  () => {
    usable.value = says.value === null
    const named = PLAN_NAMES.find((n) => n === choice.value)
    if (named) model.value = named
    else if (typeof own.value !== 'string') model.value = own.value
  },
  { immediate: true },
)
</script>

<template>
  <v-select v-model="choice" :items="items" label="Test plan" />
  <template v-if="choice === OWN">
    <v-text-field
      v-model="levels"
      label="Levels, % of span"
      class="mono-field"
      :error-messages="says ?? []"
      :hint="`${count} readings`"
      persistent-hint
    />
    <div class="field-grid">
      <v-select v-model="way" :items="ways" label="Order" />
      <NumberField v-model="repeats" label="All of it so many times" />
    </div>
  </template>
</template>
