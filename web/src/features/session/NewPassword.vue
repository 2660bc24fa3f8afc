<script setup lang="ts">
import { computed, ref } from 'vue'
import { ApiProblem, sayProblem } from '../../api/call.ts'

/** A password typed twice, with what current advice asks of it: length, and that it is not a common one. */
const { does, path, act } = defineProps<{
  /** What the button says. */
  does: string
  /** Where a refusal of it is told. */
  path: string
  act: (password: string) => Promise<void>
}>()
const LEAST = 12
const password = ref('')
const again = ref('')
const problem = ref<ApiProblem | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
const left = computed(() => LEAST - password.value.length)
const different = computed(() => again.value !== '' && again.value !== password.value)

async function submit(): Promise<void> {
  if (busy.value) return
  problem.value = null
  says.value = null
  if (left.value > 0) says.value = `At least ${LEAST} characters. A sentence is easy to remember.`
  else if (again.value !== password.value) says.value = 'The two are not the same. Type the second one again.'
  if (says.value !== null) return
  busy.value = true
  try {
    await act(password.value)
  } catch (error) {
    if (error instanceof ApiProblem && error.at(path) !== null) problem.value = error
    else says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <form class="stack" novalidate @submit.prevent="submit">
    <slot />
    <v-text-field
      v-model="password"
      type="password"
      label="New password"
      autocomplete="new-password"
      maxlength="128"
      persistent-hint
      :hint="
        left > 0 && password !== ''
          ? `${left} more characters`
          : 'At least 12 characters, nothing else is asked. A sentence is easy to remember.'
      "
      :error-messages="problem?.at(path) ?? undefined"
    />
    <v-text-field
      v-model="again"
      type="password"
      label="The same again"
      autocomplete="new-password"
      maxlength="128"
      :error-messages="different ? ['Not the same yet.'] : []"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">{{ does }}</v-btn>
  </form>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
