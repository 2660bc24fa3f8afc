<script setup lang="ts">
const { large = false } = defineProps<{ large?: boolean }>()
</script>

<template>
  <span class="plate" :class="{ large }">
    <svg viewBox="0 0 64 40" :width="large ? 84 : 44" aria-hidden="true">
      <path
        d="M2 28h20V14h40"
        fill="none"
        stroke="currentColor"
        stroke-width="4"
        stroke-linecap="round"
        stroke-linejoin="round"
      />
      <circle cx="22" cy="21" r="5" fill="currentColor" />
      <circle cx="44" cy="14" r="4" class="ring" stroke="currentColor" stroke-width="3" />
    </svg>
    <span v-if="large" class="name">Calm Loop</span>
  </span>
</template>

<style scoped>
.plate {
  display: inline-flex;
  align-items: center;
  gap: 16px;
  color: var(--accent);
}
.name {
  font-size: var(--size-xxl);
  font-weight: 600;
  color: var(--ink);
}
.ring {
  fill: var(--paper);
}
</style>
