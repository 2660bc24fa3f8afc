<script setup lang="ts">
import { PLANS, PLAN_NAMES, type PlanName } from '@calm/core/verify/plan'
import { computed, ref } from 'vue'
import { useEquipment } from '../../api/equipment.ts'
import { sayDay } from '../../ui/dates.ts'
import NumberField from '../../ui/NumberField.vue'

/** What a verification is begun with: the plan, the test equipment and what is known of its uncertainty. */
const emit = defineEmits<{ start: [plan: PlanName, equipment: string[], U_pct: number] }>()
const plan = ref<PlanName>('P5UD')
const { all: equipment, trouble: says } = useEquipment()
const chosen = ref<string[]>([])
const U_pct = ref<number | null>(null)

const plans = PLAN_NAMES.map((value) => ({ value, title: PLANS[value].title }))
const items = computed(() =>
  equipment.value.map((e) => ({
    value: e.id,
    title: e.name,
    subtitle: e.valid
      ? `${e.uncertainty}, certificate until ${sayDay(e.dueOn)}`
      : `certificate ended ${sayDay(e.dueOn)}: cannot be signed with`,
  })),
)
const expired = computed(() => equipment.value.filter((e) => chosen.value.includes(e.id) && !e.valid))
const wrongU = computed(() =>
  U_pct.value !== null && (U_pct.value < 0 || U_pct.value > 50) ? 'From 0 to 50 % of span.' : null,
)
defineExpose({
  begin: () => wrongU.value === null && emit('start', plan.value, chosen.value, U_pct.value ?? 0),
})
</script>

<template>
  <div class="stack">
    <h2>Begin a verification</h2>
    <v-select v-model="plan" :items="plans" label="Test plan" />
    <v-select v-model="chosen" :items="items" label="Test equipment" multiple chips closable-chips>
      <template #item="{ props: p, item }"><v-list-item v-bind="p" :subtitle="item.subtitle" /></template>
    </v-select>
    <p v-for="e in expired" :key="e.id" class="wrong" role="alert">
      {{ e.name }}: the certificate ended on {{ sayDay(e.dueOn) }}. The record could not be signed. Choose
      another instrument.
    </p>
    <NumberField
      v-model="U_pct"
      label="Expanded uncertainty of the comparison, k = 2 (if known)"
      unit="%"
      :error="wrongU"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <div class="caution small">
      <p>
        <strong>Pressure can be trapped and the loop can trip the plant.</strong> Tell the operators, put the
        loop in manual and list what is bypassed before anything is opened. Prove zero pressure at the vent.
      </p>
      <p>
        Meter in series: circuit dead, lead in the mA jack, DC, then power. Local permits and the device’s
        manual decide.
      </p>
    </div>
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
