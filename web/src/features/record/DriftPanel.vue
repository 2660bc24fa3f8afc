<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { driftChart, loopDrift, sayDrift } from '@calm/core/record/loop-drift'
import { computed } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import ChartView from '../../ui/ChartView.vue'

/** Where the loop goes over the years, and when to come back. */
const { loopId } = defineProps<{ loopId: string }>()
const { data: history, says: trouble } = useLive(loops.drift, () => ({ loop: loopId }))
const drift = computed(() => history.value && loopDrift(history.value.past, history.value.interval_months))
const chart = computed(() => history.value && drift.value && driftChart(history.value.past, drift.value))
</script>

<template>
  <section v-if="drift" class="stack" aria-label="Drift">
    <h2>Drift and interval</h2>
    <p v-for="line in sayDrift(drift)" :key="line">{{ line }}</p>
    <p>
      Recommended: <strong>{{ drift.recommended_months }} months</strong
      ><template v-if="history?.interval_months != null"> (now {{ history.interval_months }})</template>.
    </p>
    <ChartView v-if="chart" :chart="chart" :height="260" />
  </section>
  <p v-else-if="trouble" role="alert">{{ trouble }}</p>
</template>
