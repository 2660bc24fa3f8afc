<script setup lang="ts">
import FindingRow from '../../ui/FindingRow.vue'
import type { WiringBench } from './use-wiring-bench.ts'

/** What the solved circuit tells; apart from the bench, so that a moving current repaints only this. */
const { bench } = defineProps<{ bench: WiringBench }>()
</script>

<template>
  <section class="stack" aria-label="What the circuit tells">
    <h2>What the circuit tells</h2>
    <FindingRow v-for="f in bench.findings.value" :key="`${f.code}${f.where.join()}`" :finding="f" />
  </section>
</template>
