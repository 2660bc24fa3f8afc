<script setup lang="ts">
import { parseNumber } from '@calm/core/quantity/parse-number'
import { computed, ref } from 'vue'
import { APART_WORDS } from './rule-names.ts'
import { useRules, type Rules } from './use-rules.ts'

/** Who may review, what a second signature can mean, and for how long records are kept. */
const { rules, refused, decide, session } = useRules()
type Second = Rules['signing']['second'][number]
const MEANINGS: readonly { value: Second; title: string }[] = [
  { value: 'reviewed', title: 'reviewed: looked through and in order' },
  { value: 'approved', title: 'approved: it may be used' },
  { value: 'witnessed', title: 'witnessed: was there' },
]
const APART = (['signed', 'worked'] as const).map((value) => ({ value, title: APART_WORDS[value] }))
const second = computed(() => rules.value?.signing.second ?? [])
function change(to: Partial<Rules['signing']>): void {
  if (rules.value) void decide({ signing: { ...rules.value.signing, ...to } })
}
const wrongYears = ref<string | null>(null)
async function years(event: Event): Promise<void> {
  const read = parseNumber(event.target instanceof HTMLInputElement ? event.target.value : '')
  if (read.kind === 'refused') {
    wrongYears.value = read.says
    return
  }
  await decide({ retention_years: read.kind === 'empty' ? null : read.value })
  wrongYears.value = refused.value
}
</script>

<template>
  <section v-if="rules" class="stack" aria-label="Signatures and records">
    <h2>Signatures and records</h2>
    <p v-if="!session.isAdministrator" class="quiet">
      An administrator decides this: who does the work does not.
    </p>
    <v-select
      label="A second signature means"
      :items="MEANINGS"
      :model-value="second"
      multiple
      :readonly="!session.isAdministrator"
      hide-details
      @update:model-value="change({ second: $event })"
    />
    <v-select
      label="Nobody reviews own work:"
      :items="APART"
      :model-value="rules.signing.apart"
      :readonly="!session.isAdministrator"
      hide-details
      @update:model-value="change({ apart: $event })"
    />
    <v-text-field
      label="Records are kept for"
      suffix="years"
      :model-value="rules.retention_years ?? ''"
      :readonly="!session.isAdministrator"
      :error-messages="wrongYears ?? []"
      :messages="
        rules.retention_years === null
          ? 'Not said. The program deletes no record.'
          : 'The program deletes no record.'
      "
      inputmode="numeric"
      class="mono-field"
      @change="years"
    />
    <p v-if="refused && refused !== wrongYears" role="alert" class="trouble">{{ refused }}</p>
  </section>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
</style>
