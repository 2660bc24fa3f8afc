<script setup lang="ts">
import { askedIn, PLANT_UNITS } from '@calm/core/quantity/asked-in'
import { printedUnit } from '@calm/core/quantity/units'
import { useRules } from './use-rules.ts'

/** The units in which the plant wants entries and results, by what they are for. */
const { rules, refused, decide, session } = useRules()
const choices = (unit: string) => askedIn(unit).map((u) => ({ value: u, title: printedUnit(u) }))
</script>

<template>
  <section v-if="rules" class="stack" aria-label="Units">
    <h2>Units</h2>
    <p class="quiet">
      What is entered and what follows is shown in these; what is of the kind of the loop’s own range stays in
      the loop’s unit. Any unit can be typed behind a number. A sheet that is begun from now on asks in them
      too.
    </p>
    <div class="field-grid">
      <v-select
        v-for="u in PLANT_UNITS"
        :key="u.unit"
        :label="u.of"
        :items="choices(u.unit)"
        :model-value="rules.units[u.unit] ?? u.unit"
        :readonly="!session.mayDecide"
        hide-details
        @update:model-value="decide({ units: { [u.unit]: $event } })"
      />
    </div>
    <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
  </section>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
</style>
