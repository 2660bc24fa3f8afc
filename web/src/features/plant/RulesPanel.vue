<script setup lang="ts">
import GateRules from './rules/GateRules.vue'
import KindRules from './rules/KindRules.vue'
import PaperRules from './rules/PaperRules.vue'
import RulesHistory from './rules/RulesHistory.vue'
import SignatureRules from './rules/SignatureRules.vue'
import UnitRules from './rules/UnitRules.vue'
import WiringRules from './rules/WiringRules.vue'
import { useRules } from './rules/use-rules.ts'

/** What a plant decides once for all its loops and papers. */
const { rules, says } = useRules()
</script>

<template>
  <div v-if="rules" class="two-sides">
    <div class="stack">
      <KindRules />
      <UnitRules />
      <GateRules />
    </div>
    <div class="stack">
      <PaperRules />
      <SignatureRules />
      <WiringRules />
      <RulesHistory />
      <p class="quiet">Every change stands in the log under the name of who made it.</p>
    </div>
  </div>
  <p v-else-if="says" role="alert">{{ says }}</p>
</template>
