<script setup lang="ts">
import { ref } from 'vue'
import { useSubmit } from '../api/submit.ts'

/** Something that is done once, with the reason that stands in the record or the log. */
const { title, says, does, act } = defineProps<{
  title: string
  says: string
  /** What the button says. */
  does: string
  act: (reason: string) => Promise<void>
}>()
const emit = defineEmits<{ close: [] }>()
const reason = ref('')
const { busy, says: trouble, submit, at } = useSubmit()

async function go(): Promise<void> {
  if (reason.value.trim() === '') {
    trouble.value = 'Say why: it stays on record.'
    return
  }
  if (await submit(() => act(reason.value.trim()))) emit('close')
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="reason-title"
    max-width="480"
    @update:model-value="emit('close')"
  >
    <v-card>
      <form class="stack" novalidate @submit.prevent="go">
        <h2 id="reason-title">{{ title }}</h2>
        <p>{{ says }}</p>
        <v-text-field
          v-model="reason"
          label="Because"
          maxlength="300"
          autofocus
          :error-messages="at('reason') ?? []"
          :hide-details="at('reason') === null"
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
