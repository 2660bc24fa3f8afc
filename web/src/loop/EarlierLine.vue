<script setup lang="ts">
import { sayInstant } from '../ui/dates.ts'

/** That what is shown is not the newest, and the way there. */
const { what, at } = defineProps<{ what: string; at: string }>()
</script>

<template>
  <p class="row" role="status">
    <span
      ><strong>An earlier {{ what }}, of {{ sayInstant(at) }}.</strong> There is a newer one.</span
    >
    <v-btn variant="text" :active="false" :to="{ query: {} }">Show the newest</v-btn>
  </p>
</template>
