<script setup lang="ts">
import { ref } from 'vue'
import { ApiProblem, sayProblem } from '../api/call.ts'

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
const wrong = ref<{ tag?: string; reason?: string; rest?: string }>({})
const busy = ref(false)

async function go(): Promise<void> {
  if (busy.value) return
  wrong.value = {
    ...(tag.value.trim() === '' || tag.value.trim() === given ? { tag: 'Type the new tag.' } : {}),
    ...(withReason && reason.value.trim() === '' ? { reason: 'Say why: it stands with the revision.' } : {}),
  }
  if (Object.keys(wrong.value).length > 0) return
  busy.value = true
  try {
    await act(tag.value.trim(), reason.value.trim())
    emit('close')
  } catch (error) {
    const atTag = error instanceof ApiProblem ? error.at('document.tag') : null
    wrong.value = atTag ? { tag: atTag } : { rest: sayProblem(error) }
  } finally {
    busy.value = false
  }
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
          :error-messages="wrong.tag"
        />
        <v-text-field
          v-if="withReason"
          v-model="reason"
          label="Because"
          maxlength="300"
          :error-messages="wrong.reason"
        />
        <p v-if="wrong.rest" class="wrong" role="alert">{{ wrong.rest }}</p>
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
