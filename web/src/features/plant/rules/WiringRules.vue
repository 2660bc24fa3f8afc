<script setup lang="ts">
import { INPUT_WORDS, INPUT_WORDS_SAYS } from '@calm/core/part/input-words'
import { SCHOOL_NAMES, SCHOOLS } from '@calm/core/part/wiring'
import { useRules } from './use-rules.ts'

/** In which colours a wiring begins, and what its inputs are called. */
const { rules, refused, decide, session } = useRules()
const schools = SCHOOLS.map((value) => ({ value, title: SCHOOL_NAMES[value] }))
const words = INPUT_WORDS.map((value) => ({ value, title: INPUT_WORDS_SAYS[value] }))
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
    <v-select
      label="Sinking and sourcing are said"
      :items="words"
      :model-value="rules.inputWords"
      :readonly="!session.mayDecide"
      hide-details
      @update:model-value="decide({ inputWords: $event })"
    />
    <p class="quiet">The arrow and the common’s voltage always stand beside the word.</p>
    <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
  </section>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
</style>
