<script setup lang="ts">
import { SCHOOL_NAMES, SCHOOLS } from '@calm/core/part/wiring'
import { useRules } from './use-rules.ts'

/** In which colours a wiring begins. */
const { rules, refused, decide, session } = useRules()
const schools = SCHOOLS.map((value) => ({ value, title: SCHOOL_NAMES[value] }))
</script>

<template>
  <section v-if="rules" class="stack" aria-label="Wiring">
    <h2>Wiring</h2>
    <v-select
      label="Wire colours of a new wiring"
      :items="schools"
      :model-value="rules.wireColours"
      :readonly="!session.mayDecide"
      hide-details
      @update:model-value="decide({ wireColours: $event })"
    />
    <p class="quiet">What is drawn already stays as it is. The local code decides.</p>
    <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
  </section>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
</style>
