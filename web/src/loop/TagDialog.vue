<script setup lang="ts">
import { ref } from 'vue'
import { useSubmit } from '../api/submit.ts'

/** A tag that is given to a loop, the first time or anew. */
const {
  title,
  says,
  does,
  tag: given,
  withReason = false,
  act,
} = defineProps<{
  title: string
  says: string
  /** What the button says. */
  does: string
  tag: string
  withReason?: boolean
  act: (tag: string, reason: string) => Promise<void>
}>()
const emit = defineEmits<{ close: [] }>()
const tag = ref(given)
const reason = ref('')
const { busy, says: trouble, submit, at } = useSubmit()
/** What is missing, once it was tried. */
const missing = ref<{ tag?: string; reason?: string }>({})

async function go(): Promise<void> {
  missing.value = {
    ...(tag.value.trim() === '' || tag.value.trim() === given ? { tag: 'Type the new tag.' } : {}),
    ...(withReason && reason.value.trim() === '' ? { reason: 'Say why: it stands with the revision.' } : {}),
  }
  if (Object.keys(missing.value).length > 0) return
  if (await submit(() => act(tag.value.trim(), reason.value.trim()))) emit('close')
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="tag-title"
    max-width="480"
    @update:model-value="emit('close')"
  >
    <v-card>
      <form class="stack" novalidate @submit.prevent="go">
        <h2 id="tag-title">{{ title }}</h2>
        <p>{{ says }}</p>
        <v-text-field
          v-model="tag"
          label="New tag"
          maxlength="40"
          autofocus
          class="mono-field"
          :error-messages="missing.tag ?? at('document.tag') ?? []"
        />
        <v-text-field
          v-if="withReason"
          v-model="reason"
          label="Because"
          maxlength="300"
          :error-messages="missing.reason ?? []"
        />
        <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">{{ does }}</v-btn>
          <v-btn variant="text" height="48" @click="emit('close')">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
