<script setup lang="ts">
import { DECISION_RULES, RULE_WORDS, type DecisionRule } from '@calm/core/verify/decision'
import { NO_EXTRAS } from '@calm/core/verify/comparison-budget'
import { appliedSpan } from '@calm/core/record/applied-law'
import type { AppliedLaw } from '@calm/core/record/kinds/applied'
import type { Run } from '@calm/core/record/run'
import type { Plan } from '@calm/core/verify/plan'
import type { LoopScale } from '@calm/core/verify/reading-errors'
import type { Tolerance } from '@calm/core/verify/tolerance'
import { computed, ref } from 'vue'
import { settings } from '@calm/contract/api/addresses'
import { useEquipment } from '../../api/equipment.ts'
import { useLive } from '../../api/live-cache.ts'
import { sayDay } from '../../ui/dates.ts'
import NumberField from '../../ui/NumberField.vue'
import AppliedPick from './AppliedPick.vue'
import BudgetView from './BudgetView.vue'
import CertificateWords from './CertificateWords.vue'
import PlanPick from './PlanPick.vue'
import { useBudget } from './use-budget.ts'
import type { Agreed } from './use-verification.ts'

/** What a verification is begun with: plan, instruments, how sure the comparison is, and how it is decided. */
const {
  scale,
  tolerance,
  sensor = null,
  last = null,
} = defineProps<{
  scale: LoopScale
  tolerance: Tolerance
  /** The temperature sensor that the loop's set-up tells. */
  sensor?: string | null
  /** How the loop's last verification was begun: the next one is read at the same points, of the same device. */
  last?: Run['started'] | null
}>()
const emit = defineEmits<{ start: [agreed: Agreed] }>()
const plan = ref<Plan>(last?.plan ?? 'P5UD')
const NOTHING_TOLD = { order: '', place: '', ambient: '', procedure: '', maker: '', model: '', serial: '' }
/** The device and its place are those of the last time; order and ambient are this day's. */
const circumstances = ref({ ...NOTHING_TOLD, ...last?.circumstances, order: '', ambient: '' })
const planUsable = ref(true)
const applies = ref<AppliedLaw | null>(null)
const appliedUsable = ref(true)
const applied = computed(() => (applies.value ? appliedSpan(applies.value, scale.input) : null))
const { all: equipment, trouble: says } = useEquipment()
const chosen = ref<string[]>([])
const plant = useLive(settings.rules, {})
const chosenRule = ref<DecisionRule | null>(null)
/** As the plant decides, where nobody chose otherwise for this one. */
const rule = computed<DecisionRule>({
  get: () => chosenRule.value ?? plant.data.value?.decision ?? 'simple',
  set: (to) => (chosenRule.value = to),
})
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
  applied,
)

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
const wrongU = computed(() => {
  if (typedU_pct.value === null) return null
  if (typedU_pct.value < 0 || typedU_pct.value > 50) return 'From 0 to 50 % of span.'
  // A figure belongs to a standard: without one that gives what is applied it is nobody's.
  return chosen.value.length > 0 ? budget.made.value.unknownApplied : null
})
/** Somebody was asked for the instruments and goes on without. */
const without = ref(false)
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
  if (wrongU.value !== null || !planUsable.value || !appliedUsable.value) return
  tried.value = deviating.value
  if (deviating.value && (wrongTolerance.value !== null || wrongWhy.value !== null)) return
  if (expired.value.length > 0) return
  // Asked for at the beginning: what it is read with is not remembered at the end.
  if (chosen.value.length === 0 && !without.value) {
    without.value = true
    return
  }
  const deviation =
    deviating.value && otherTolerance_pct.value !== null
      ? { tolerance_pct: otherTolerance_pct.value, deviation: { reason: why.value.trim() } }
      : {}
  const common = {
    plan: plan.value,
    ...(applies.value ? { applies: applies.value } : {}),
    equipment: chosen.value,
    ...(Object.values(circumstances.value).some((v) => v.trim() !== '')
      ? { circumstances: circumstances.value }
      : {}),
    rule: rule.value,
    ...deviation,
  }
  const made = budget.agreed.value
  // A typed figure is somebody's own knowledge and goes before the reckoned one; it belongs to instruments as well.
  if (typedU_pct.value !== null && chosen.value.length > 0)
    emit('start', { ...common, U_pct: typedU_pct.value })
  else if (made) emit('start', { ...common, U_pct: made.U_pct, budget: made.budget })
  else emit('start', { ...common, U_pct: 0 })
}
defineExpose({ begin })
</script>

<template>
  <div class="two-sides">
    <div class="stack">
      <h2>Begin a verification</h2>
      <PlanPick v-model="plan" v-model:usable="planUsable" />
      <AppliedPick v-model="applies" v-model:usable="appliedUsable" :range="scale.input" :sensor="sensor" />
      <v-select v-model="chosen" :items="items" label="Instruments" multiple chips closable-chips>
        <template #item="{ props: p, item }"><v-list-item v-bind="p" :subtitle="item.subtitle" /></template>
      </v-select>
      <p v-for="e in expired" :key="e.id" class="wrong" role="alert">
        {{ e.name }}: the certificate ended on {{ sayDay(e.dueOn) }}. Nothing is begun with it: choose another
        instrument.
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
      <p
        v-if="chosen.length === 0"
        :class="without ? 'wrong' : 'quiet small'"
        :role="without ? 'alert' : undefined"
      >
        {{
          without
            ? 'No instrument is chosen: no uncertainty can be claimed, and nothing can be signed before it is named. Choose what is applied and read with, or press Begin again to go on without.'
            : 'Without an instrument the readings can be taken, but not signed.'
        }}
      </p>
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <CertificateWords v-model="circumstances" />
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
