<script setup lang="ts">
/** The quiet bar at the foot of every bench: what is next, one primary action, what is stored. */
const {
  next,
  stored = null,
  refusal = null,
} = defineProps<{
  next: string
  stored?: string | null
  /** Why the last step could not be done; takes the sentence's place so that nothing moves. */
  refusal?: string | null
}>()
</script>

<template>
  <div class="next no-print">
    <span class="quiet small label">What is next</span>
    <span v-if="refusal" class="sentence refusal" role="alert">{{ refusal }}</span>
    <span v-else class="sentence">{{ next }}</span>
    <span class="quiet small stored" role="status">{{ stored }}</span>
    <slot />
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
/* Words in place of words: the bar keeps its size. */
.refusal {
  color: var(--stop);
}
/* Its place is kept free: a text that appears must not push a button from under the finger. */
.stored {
  min-width: 190px;
  text-align: right;
}
@media (max-width: 640px) {
  .label {
    display: none;
  }
  .stored:empty {
    display: none;
  }
  .stored {
    min-width: 0;
    flex-basis: 100%;
    text-align: left;
  }
  .next {
    bottom: 60px;
    padding: 6px 14px;
    gap: 6px 12px;
  }
}
</style>
