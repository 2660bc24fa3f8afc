<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { driftChart, loopDrift, riskAfter, sayDrift } from '@calm/core/record/loop-drift'
import { sayProbability } from '@calm/core/verify/decision'
import { mdiTrayArrowDown } from '@mdi/js'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import ChartView from '../../ui/ChartView.vue'

const PastCertificates = defineAsyncComponent(() => import('../../loop/PastCertificates.vue'))

/** Where the loop goes over the years, and when to come back. */
const { loopId, tag, measures } = defineProps<{ loopId: string; tag: string; measures: boolean }>()
const { data: history, says: trouble } = useLive(loops.drift, () => ({ loop: loopId }))
const session = useSession()
const loop = useLoop()
const drift = computed(() => history.value && loopDrift(history.value.past, history.value.interval_months))
const chart = computed(() => history.value && drift.value && driftChart(history.value.past, drift.value))
const entering = ref(false)
const entered = computed(() => history.value?.past.filter((p) => p.entered).length ?? 0)
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
  <section v-if="drift || (measures && session.mayWrite)" class="stack" aria-label="Drift">
    <div class="row">
      <h2>Drift and interval</h2>
      <span class="gap" />
      <v-btn v-if="session.mayWrite" variant="text" :prepend-icon="mdiTrayArrowDown" @click="entering = true"
        >Earlier certificates</v-btn
      >
    </div>
    <template v-if="drift">
      <p v-for="line in sayDrift(drift)" :key="line">{{ line }}</p>
      <p>
        Recommended: <strong>{{ drift.recommended_months }} months</strong
        ><template v-if="risk(drift.recommended_months)">, {{ risk(drift.recommended_months) }}</template
        ><template v-if="history?.interval_months != null">
          (now {{ history.interval_months
          }}<template v-if="risk(history.interval_months)">, {{ risk(history.interval_months) }}</template
          >)</template
        >.
        <v-btn
          v-if="session.mayWrite && drift.recommended_months !== history?.interval_months"
          variant="text"
          :disabled="loop.dirty || loop.saving"
          @click="take(drift.recommended_months)"
          >Take {{ drift.recommended_months }} months</v-btn
        >
      </p>
      <p v-if="entered > 0" class="quiet small">
        {{ entered }} of {{ drift.verifications }} come from certificates that were entered later.
      </p>
      <ChartView v-if="chart" :chart="chart" :height="260" />
    </template>
    <p v-else class="quiet">No history yet. Certificates from before make one.</p>
    <PastCertificates v-if="entering" :tag="tag" @close="entering = false" />
  </section>
  <p v-else-if="trouble" role="alert">{{ trouble }}</p>
</template>

<style scoped>
.gap {
  flex: 1;
}
</style>
