<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { WATER_SAYS, WATERS, type Water } from '@calm/core/quantity/water-column'
import { shallowRef } from 'vue'
import { call, sayProblem } from '../api/call.ts'

/** Asked once for the plant: how dense the water of its water columns is taken. */
const emit = defineEmits<{ said: [] }>()
const says = shallowRef<string | null>(null)

async function say(water: Water): Promise<void> {
  try {
    await call(settings.changeRules, {}, { water })
    emit('said')
  } catch (error) {
    says.value = sayProblem(error)
  }
}
</script>

<template>
  <div class="question" role="group" aria-label="Water columns of this plant">
    <p class="small">
      A water column needs the temperature of its water. How does this plant count them? Asked once; changed
      under “Plant”.
    </p>
    <p v-if="says" class="trouble small" role="alert">{{ says }}</p>
    <div class="row">
      <v-btn
        v-for="w in WATERS"
        :key="w"
        variant="outlined"
        size="small"
        @mousedown.prevent
        @click="say(w)"
        >{{ WATER_SAYS[w] }}</v-btn
      >
    </div>
  </div>
</template>

<style scoped>
.question {
  padding: 10px 16px;
  max-width: 420px;
}
.row {
  flex-wrap: wrap;
}
.trouble {
  color: var(--stop);
}
</style>
