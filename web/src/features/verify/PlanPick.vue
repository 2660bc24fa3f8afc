<script setup lang="ts">
import { parseNumberList } from '@calm/core/quantity/number-list'
import {
  MOST_POINTS,
  PLANS,
  PLAN_NAMES,
  pointsOf,
  sayPlan,
  WAYS,
  type OwnPlan,
  type Plan,
  type Way,
} from '@calm/core/verify/plan'
import { settings } from '@calm/contract/api/addresses'
import { computed, ref, watch } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import NumberField from '../../ui/NumberField.vue'

/** The points at which a loop is read: a usual plan, or levels of one's own in any order. */
const model = defineModel<Plan>({ required: true })
/** False while a list of one's own cannot be used as it stands. */
const usable = defineModel<boolean>('usable', { default: true })
const OWN = 'own'
/** Plans that the plant keeps under a name stand in the same list. */
const OF_PLANT = 'plant: '
const rules = useLive(settings.rules, {})
const kept = computed(() => rules.data.value?.plans ?? {})
const keptName = computed(() =>
  choice.value.startsWith(OF_PLANT) ? choice.value.slice(OF_PLANT.length) : null,
)
const given = model.value
const choice = ref<string>(typeof given === 'string' ? given : OWN)
const levels = ref(typeof given === 'string' ? '5 25 50 75 95' : given.levels_pct.join(' '))
const way = ref<Way>(typeof given === 'string' ? 'both' : given.way)
const repeats = ref<number | null>(typeof given === 'string' ? 1 : given.repeats)
const seed = crypto.getRandomValues(new Uint32Array(1))[0] ?? 1

const items = computed(() => [
  ...PLAN_NAMES.map((value) => ({ value: value as string, title: PLANS[value].title })),
  ...Object.keys(kept.value)
    .sort((a, b) => a.localeCompare(b))
    .map((name) => ({ value: `${OF_PLANT}${name}`, title: name })),
  { value: OWN, title: 'A list of one’s own' },
])
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
  [choice, own, kept],
  () => {
    usable.value = says.value === null
    const mine = keptName.value === null ? undefined : kept.value[keptName.value]
    if (mine) model.value = { ...mine, seed }
    // Taken away by somebody else meanwhile: what was chosen stays, as a list of one’s own.
    else if (keptName.value !== null && rules.data.value) asOwn(model.value)
    const named = PLAN_NAMES.find((n) => n === choice.value)
    if (named) model.value = named
    else if (choice.value === OWN && typeof own.value !== 'string') model.value = own.value
  },
  { immediate: true },
)

function asOwn(plan: Plan): void {
  if (typeof plan !== 'string') {
    levels.value = plan.levels_pct.join(' ')
    way.value = plan.way
    repeats.value = plan.repeats
  }
  choice.value = OWN
}
const name = ref('')
const refusal = ref<string | null>(null)
async function decide(plans: Record<string, OwnPlan | null>): Promise<boolean> {
  try {
    await call(settings.changeRules, {}, { plans })
    refusal.value = null
    return true
  } catch (error) {
    refusal.value = sayProblem(error)
    return false
  }
}
/** The list as it stands becomes a plan of the plant; one of that name is replaced. */
async function keep(): Promise<void> {
  const as = name.value.trim()
  if (as === '' || typeof own.value === 'string' || !(await decide({ [as]: own.value as OwnPlan }))) return
  name.value = ''
  taking.value = as
}
/** A plan just kept is chosen when it has come into the list. */
const taking = ref<string | null>(null)
watch([taking, kept], ([as, there]) => {
  if (as === null || !there[as]) return
  choice.value = `${OF_PLANT}${as}`
  taking.value = null
})
async function forget(): Promise<void> {
  const was = keptName.value
  const plan = was === null ? undefined : kept.value[was]
  if (was === null || !(await decide({ [was]: null }))) return
  // Forgetting is taken back by keeping it again.
  name.value = was
  asOwn(plan ?? model.value)
}
</script>

<template>
  <v-select v-model="choice" :items="items" label="Test plan" />
  <p v-if="keptName !== null && kept[keptName]" class="small row">
    {{ sayPlan(kept[keptName]!) }}
    <v-btn variant="text" @click="forget">Forget this plan of the plant</v-btn>
  </p>
  <p v-if="refusal" class="trouble" role="alert">{{ refusal }}</p>
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
      <v-text-field v-model="name" label="Name, to keep it for the plant" maxlength="40" hide-details />
      <v-btn :disabled="name.trim() === '' || says !== null" @click="keep">Keep this plan</v-btn>
    </div>
  </template>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
</style>
