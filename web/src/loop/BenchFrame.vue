<script setup lang="ts">
/** A bench: the work, which takes all the room that is left, and one bar at its foot. */
import { inject, ref } from 'vue'
import { LINE_IS_WORK } from './line-is-work.ts'

/** Then the work area is larger than this: the line above belongs to it. */
const part = inject(LINE_IS_WORK, ref(false))
</script>

<template>
  <div class="bench-frame">
    <div id="work" class="work" :data-work-area="part ? undefined : ''" tabindex="-1"><slot /></div>
    <slot name="foot" />
  </div>
</template>

<style scoped>
.bench-frame {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.work {
  position: relative;
  flex: 1;
  min-height: 0;
}
.work:focus {
  outline: none;
}
@media (min-width: 641px) and (min-height: 561px) {
  .work {
    overflow-y: auto;
    scroll-padding: 24px;
  }
}
</style>
