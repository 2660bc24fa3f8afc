<script setup lang="ts">
import { DECISION_RULES, RULE_WORDS, type DecisionRule } from '@calm/core/verify/decision'
import { NO_EXTRAS } from '@calm/core/verify/comparison-budget'
import { PLANS, PLAN_NAMES, type PlanName } from '@calm/core/verify/plan'
import type { LoopScale } from '@calm/core/verify/reading-errors'
import type { Tolerance } from '@calm/core/verify/tolerance'
import { computed, ref } from 'vue'
import { useEquipment } from '../../api/equipment.ts'
import { sayDay } from '../../ui/dates.ts'
import NumberField from '../../ui/NumberField.vue'
import BudgetView from './BudgetView.vue'
import { useBudget } from './use-budget.ts'
import type { Agreed } from './use-verification.ts'

/** What a verification is begun with: plan, instruments, how sure the comparison is, and how it is decided. */
const { scale, tolerance } = defineProps<{ scale: LoopScale; tolerance: Tolerance }>()
const emit = defineEmits<{ start: [agreed: Agreed] }>()
const plan = ref<PlanName>('P5UD')
const { all: equipment, trouble: says } = useEquipment()
const chosen = ref<string[]>([])
const rule = ref<DecisionRule>('simple')
const typedU_pct = ref<number | null>(null)
const extras = ref({ ...NO_EXTRAS })
/** Judged otherwise than recorded: what, and why; both stand on every paper. */
const deviating = ref(false)
const otherTolerance_pct = ref<number | null>(null)
const why = ref('')
const instruments = computed(() => equipment.value.filter((e) => chosen.value.includes(e.id)))
const budget = useBudget(
  () => scale,
  () => instruments.value,
  () => extras.value,
)

const plans = PLAN_NAMES.map((value) => ({ value, title: PLANS[value].title }))
const rules = DECISION_RULES.map((value) => ({ value, title: RULE_WORDS[value] }))
const items = computed(() =>
  equipment.value.map((e) => ({
    value: e.id,
    title: e.name,
    subtitle: e.valid
      ? `${e.uncertainty}, certificate until ${sayDay(e.dueOn)}`
      : `certificate ended ${sayDay(e.dueOn)}: cannot be signed with`,
  })),
)
const expired = computed(() => instruments.value.filter((e) => !e.valid))
const wrongU = computed(() =>
  typedU_pct.value !== null && (typedU_pct.value < 0 || typedU_pct.value > 50)
    ? 'From 0 to 50 % of span.'
    : null,
)
const tried = ref(false)
const wrongTolerance = computed(() =>
  otherTolerance_pct.value === null
    ? tried.value
      ? 'Type the tolerance, or leave it as recorded.'
      : null
    : otherTolerance_pct.value > 0 && otherTolerance_pct.value <= 50
      ? null
      : 'Above 0 and at most 50 % of span.',
)
const wrongWhy = computed(() =>
  tried.value && why.value.trim() === '' ? 'Say why: it stands on every paper.' : null,
)
function begin(): void {
  if (wrongU.value !== null) return
  tried.value = deviating.value
  if (deviating.value && (wrongTolerance.value !== null || wrongWhy.value !== null)) return
  const deviation =
    deviating.value && otherTolerance_pct.value !== null
      ? { tolerance_pct: otherTolerance_pct.value, deviation: { reason: why.value.trim() } }
      : {}
  const common = { plan: plan.value, equipment: chosen.value, rule: rule.value, ...deviation }
  const made = budget.agreed.value
  // A typed figure is somebody's own knowledge and goes before the reckoned one.
  if (typedU_pct.value !== null) emit('start', { ...common, U_pct: typedU_pct.value })
  else if (made) emit('start', { ...common, U_pct: made.U_pct, budget: made.budget })
  else emit('start', { ...common, U_pct: 0 })
}
defineExpose({ begin })
</script>

<template>
  <div class="two-sides">
    <div class="stack">
      <h2>Begin a verification</h2>
      <v-select v-model="plan" :items="plans" label="Test plan" />
      <v-select v-model="chosen" :items="items" label="Instruments" multiple chips closable-chips>
        <template #item="{ props: p, item }"><v-list-item v-bind="p" :subtitle="item.subtitle" /></template>
      </v-select>
      <p v-for="e in expired" :key="e.id" class="wrong" role="alert">
        {{ e.name }}: the certificate ended on {{ sayDay(e.dueOn) }}. The record could not be signed. Choose
        another instrument.
      </p>
      <v-select v-model="rule" :items="rules" label="Decision rule" />
      <NumberField
        v-model="typedU_pct"
        label="or an expanded uncertainty you know, k = 2"
        unit="%"
        :error="wrongU"
      />
      <template v-if="deviating">
        <NumberField
          v-model="otherTolerance_pct"
          label="Tolerance of this verification"
          unit="%"
          :error="wrongTolerance"
        />
        <v-text-field
          v-model="why"
          label="Why not the recorded one"
          maxlength="500"
          :error-messages="wrongWhy ?? []"
        />
        <div><v-btn variant="text" @click="deviating = false">Judge by the recorded tolerance</v-btn></div>
      </template>
      <div v-else>
        <v-btn variant="text" @click="deviating = true">Judge by another tolerance than recorded</v-btn>
      </div>
      <p v-if="chosen.length === 0" class="quiet small">
        Without an instrument the readings can be taken, but not signed.
      </p>
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <div class="caution small">
        <p>
          <strong>Pressure can be trapped and the loop can trip the plant.</strong> Tell the operators, put
          the loop in manual and list what is bypassed before anything is opened. Prove zero pressure at the
          vent.
        </p>
        <p>
          Meter in series: circuit dead, lead in the mA jack, DC, then power. Local permits and the device’s
          manual decide.
        </p>
      </div>
    </div>
    <BudgetView
      v-if="chosen.length > 0"
      v-model:extras="extras"
      :budget="budget"
      :span="Math.abs(scale.input.high - scale.input.low)"
      :tolerance="tolerance"
      :rule="rule"
    />
    <p v-else class="quiet">Choose the instruments: how sure the comparison is follows from them.</p>
  </div>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
.caution {
  border-left: 3px solid var(--look);
  padding: 4px 12px;
}
.caution p + p {
  margin-top: 6px;
}
</style>
