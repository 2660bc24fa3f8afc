<script setup lang="ts">
import type { LongWork } from '../api/long-work.ts'

/** How far something long is, and the way out of it. Shown while it runs and where it did not end well. */
const { work, doing } = defineProps<{ work: LongWork; doing: string }>()
</script>

<template>
  <div v-if="work.busy.value" class="long-work" role="status">
    <div class="line">
      <span
        >{{ doing
        }}<template v-if="work.progress.value"
          >: {{ work.progress.value.done }} of {{ work.progress.value.of }}</template
        ></span
      >
      <v-progress-linear
        :indeterminate="work.progress.value === null"
        :model-value="work.progress.value ? (100 * work.progress.value.done) / work.progress.value.of : 0"
        color="primary"
        :aria-label="doing"
      />
    </div>
    <v-btn variant="outlined" @click="work.giveUp()">Give up</v-btn>
  </div>
  <p v-else-if="work.says.value" class="trouble" role="alert">{{ work.says.value }}</p>
</template>

<style scoped>
.long-work {
  display: flex;
  align-items: center;
  gap: 16px;
}
.line {
  flex: 1;
  max-width: 420px;
}
.trouble {
  color: var(--stop);
}
</style>
