<script setup lang="ts">
import { computed } from 'vue'
import { TOUR, useTour } from '../../ui/tour.ts'

/** The tour, in a corner: it covers nothing that is needed and can be left at any step. */
const { step, leave, next } = useTour()
const now = computed(() => (step.value === null ? null : (TOUR[step.value] ?? null)))
</script>

<template>
  <aside v-if="now && step !== null" class="tour stack no-print" aria-label="Tour">
    <h2>
      {{ now.title }} <span class="quiet small">{{ step + 1 }} of {{ TOUR.length }}</span>
    </h2>
    <p>{{ now.says }}</p>
    <div class="row">
      <v-btn color="primary" variant="flat" @click="next">{{
        step + 1 < TOUR.length ? 'Next' : 'Done'
      }}</v-btn>
      <v-btn variant="text" @click="leave">Leave the tour</v-btn>
    </div>
  </aside>
</template>

<style scoped>
.tour {
  position: fixed;
  right: 24px;
  bottom: 76px;
  z-index: 12;
  width: min(360px, calc(100vw - 32px));
  padding: 16px;
  background: var(--surface);
  border: 2px solid var(--accent);
  border-radius: var(--corner);
}
@media (max-width: 640px) {
  .tour {
    right: 16px;
    bottom: 132px;
  }
}
</style>
