<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { driftChart, loopDrift, sayDrift } from '@calm/core/record/loop-drift'
import { mdiTrayArrowDown } from '@mdi/js'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import IntervalAdvice from '../../loop/IntervalAdvice.vue'
import ChartView from '../../ui/ChartView.vue'

const PastCertificates = defineAsyncComponent(() => import('../../loop/PastCertificates.vue'))

/** Where the loop goes over the years, and when to come back. */
const { loopId, tag, measures } = defineProps<{ loopId: string; tag: string; measures: boolean }>()
const { data: history, says: trouble } = useLive(loops.drift, () => ({ loop: loopId }))
const session = useSession()
const drift = computed(() => history.value && loopDrift(history.value.past, history.value.interval_months))
const chart = computed(() => history.value && drift.value && driftChart(history.value.past, drift.value))
const entering = ref(false)
const entered = computed(() => history.value?.past.filter((p) => p.entered).length ?? 0)
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
      <IntervalAdvice :loop-id="loopId" />
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
