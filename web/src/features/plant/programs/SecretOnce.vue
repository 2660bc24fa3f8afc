<script setup lang="ts">
import { ref } from 'vue'

/** A secret that is told once: it is kept nowhere here. */
const { label, secret, says } = defineProps<{ label: string; secret: string; says: string }>()
const copied = ref(false)
async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(secret)
    copied.value = true
  } catch {
    copied.value = false
  }
}
</script>

<template>
  <div class="once stack" role="status">
    <p>
      <strong>{{ label }}</strong> is told this once and kept nowhere. {{ says }}
    </p>
    <div class="row">
      <v-text-field :model-value="secret" :label="label" readonly hide-details class="mono-field grow" />
      <v-btn @click="copy">{{ copied ? 'Copied' : 'Copy' }}</v-btn>
    </div>
  </div>
</template>

<style scoped>
.once {
  padding: 12px;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.grow {
  flex: 1 1 280px;
}
</style>
