<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { WATER_SAYS, WATERS, type Water } from '@calm/core/quantity/water-column'
import { shallowRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'

/** What a plant decides once for all its loops and papers. */
const session = useSession()
const rules = useLive(settings.rules, {})
const waters = [
  { value: null, title: 'not said: each unit tells it' },
  ...WATERS.map((value) => ({ value, title: WATER_SAYS[value] })),
]
const refused = shallowRef<string | null>(null)
type Rules = NonNullable<typeof rules.data.value>
async function decide(change: Partial<Rules>): Promise<void> {
  refused.value = null
  try {
    await call(settings.changeRules, {}, change)
  } catch (error) {
    refused.value = sayProblem(error)
  }
}
const count = (water: Water | null) => decide({ water })
const LETTERHEAD = [
  { part: 'name', label: 'Name of the plant, at the head of certificates', most: 120 },
  { part: 'address', label: 'Its address', most: 300 },
  { part: 'country', label: 'Its country, two letters, for certificates as XML', most: 2 },
] as const
function letterhead(part: keyof Rules['letterhead'], event: Event): void {
  const now = rules.data.value?.letterhead
  const typed = event.target instanceof HTMLInputElement ? event.target.value : ''
  if (now) void decide({ letterhead: { ...now, [part]: typed } })
}
</script>

<template>
  <section v-if="rules.data.value" class="stack rules" aria-label="Rules of this plant">
    <h2>Rules of this plant</h2>
    <v-select
      label="Water columns without a temperature are counted with"
      :items="waters"
      :model-value="rules.data.value.water"
      :readonly="!session.mayDecide"
      hide-details
      @update:model-value="count($event)"
    />
    <v-text-field
      v-for="l in LETTERHEAD"
      :key="l.part"
      :label="l.label"
      :maxlength="l.most"
      :model-value="rules.data.value.letterhead[l.part]"
      :readonly="!session.mayDecide"
      hide-details
      @change="letterhead(l.part, $event)"
    />
    <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
    <p class="quiet">Every change stands in the log under the name of who made it.</p>
  </section>
  <p v-else-if="rules.says.value" role="alert" class="trouble">{{ rules.says.value }}</p>
</template>

<style scoped>
.rules {
  max-width: 460px;
}
.trouble {
  color: var(--stop);
}
</style>
