<script setup lang="ts">
import type { LoopHistory } from '@calm/contract/drift'
import { driftChart, loopDrift, sayDrift } from '@calm/core/record/loop-drift'
import { computed, ref, watch } from 'vue'
import { api, sayProblem } from '../../api/http.ts'
import ChartView from '../../ui/ChartView.vue'

/** Where the loop goes over the years, and when to come back. */
const { loopId, newest } = defineProps<{ loopId: string; newest: string | null }>()
const history = ref<LoopHistory | null>(null)
const trouble = ref<string | null>(null)
watch(
  () => [loopId, newest],
  async () => {
    try {
      history.value = await api<LoopHistory>('GET', `/api/loops/${loopId}/drift`)
      trouble.value = null
    } catch (error) {
      trouble.value = sayProblem(error)
    }
  },
  { immediate: true },
)
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
