<script setup lang="ts">
import type { PasswordLink } from '@calm/contract/people'
import { useClipboard } from '@vueuse/core'
import { computed } from 'vue'
import { sayInstant } from '../../ui/dates.ts'

/** A link to set a password by: shown once, kept nowhere. */
const { who, link } = defineProps<{ who: string; link: PasswordLink }>()
const emit = defineEmits<{ close: [] }>()
const address = computed(() => `${window.location.origin}/join/${link.token}`)
const { copy, copied, isSupported } = useClipboard({ source: address })
</script>

<template>
  <v-dialog :model-value="true" persistent aria-labelledby="link-title" max-width="560">
    <v-card class="stack">
      <h2 id="link-title">A link for {{ who }}</h2>
      <p>
        Give it to {{ who }} and to nobody else. It sets the password once and is good until
        {{ sayInstant(link.until) }}. It is shown only now: a lost one is made anew.
      </p>
      <p class="mono link" tabindex="0" aria-label="The link">{{ address }}</p>
      <div class="row">
        <v-btn v-if="isSupported" color="primary" variant="flat" height="48" @click="copy()">{{
          copied ? 'Copied' : 'Copy the link'
        }}</v-btn>
        <v-btn variant="text" height="48" @click="emit('close')">I have it</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.link {
  overflow-wrap: anywhere;
  padding: 12px;
  background: var(--paper);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  user-select: all;
}
</style>
