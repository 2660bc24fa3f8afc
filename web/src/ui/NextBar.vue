<script setup lang="ts">
/** The quiet bar at the foot of every bench: what is next, one primary action, what is stored. */
const { next, stored = null } = defineProps<{ next: string; stored?: string | null }>()
</script>

<template>
  <div class="next no-print">
    <span class="quiet small label">What is next</span>
    <span class="sentence">{{ next }}</span>
    <slot />
    <span v-if="stored" class="quiet small" role="status">{{ stored }}</span>
  </div>
</template>

<style scoped>
.next {
  position: sticky;
  bottom: 0;
  margin-top: auto;
  z-index: 5;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px 20px;
  min-height: 64px;
  padding: 8px 24px;
  background: var(--surface);
  border-top: var(--line) solid var(--hair);
}
.sentence {
  flex: 1;
  min-width: 200px;
}
@media (max-width: 640px) {
  .next {
    bottom: 60px;
    padding: 8px 14px;
  }
}
</style>
