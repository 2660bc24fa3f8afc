<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { loopDrift, riskAfter } from '@calm/core/record/loop-drift'
import { sayProbability } from '@calm/core/verify/decision'
import { computed } from 'vue'
import { useLive } from '../api/live-cache.ts'
import { useSession } from '../api/session-store.ts'
import { useLoop } from './loop-store.ts'

/** When to come back, by what the loop did over the years: offered with its reason and its risk, taken by one touch. */
const { loopId } = defineProps<{ loopId: string }>()
const { data: history, says: trouble } = useLive(loops.drift, () => ({ loop: loopId }))
const session = useSession()
const loop = useLoop()
const drift = computed(() => history.value && loopDrift(history.value.past, history.value.interval_months))
/** The chance of finding it out at the end of an interval, in words; empty where too little was seen. */
function risk(months: number | null | undefined): string {
  const p = drift.value && months != null ? riskAfter(drift.value, months) : null
  return p === null ? '' : `${sayProbability(p)} chance of finding it out`
}
/** An interval is changed by a revision of the loop, under the name of who takes the advice. */
async function take(months: number): Promise<void> {
  if (loop.detail?.id !== loopId || loop.dirty) return
  loop.setField('interval_months', months)
  await loop.save(
    `Interval ${months} months, by drift and use over ${drift.value?.verifications ?? 0} verifications.`,
  )
}
</script>

<template>
  <p v-if="drift">
    Recommended: <strong>{{ drift.recommended_months }} months</strong
    ><template v-if="risk(drift.recommended_months)">, {{ risk(drift.recommended_months) }}</template
    ><template v-if="history?.interval_months != null">
      (now {{ history.interval_months
      }}<template v-if="risk(history.interval_months)">, {{ risk(history.interval_months) }}</template
      >)</template
    >.
    <template v-if="session.mayWrite && drift.recommended_months !== history?.interval_months">
      <v-btn variant="text" :disabled="loop.dirty || loop.saving" @click="take(drift.recommended_months)"
        >Take {{ drift.recommended_months }} months</v-btn
      >
      <span v-if="loop.dirty" class="quiet"
        >This loop has changes that are not saved: save or discard them first.</span
      >
    </template>
  </p>
  <p v-else-if="trouble" role="status">The interval cannot be advised: {{ trouble }}</p>
</template>
