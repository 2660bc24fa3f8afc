<script setup lang="ts">
import { computed, ref } from 'vue'
import { ApiProblem } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'
import NewPassword from './NewPassword.vue'

/** A plant that nobody works in yet asks for who lets others in. */
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const name = ref('')
const shownName = ref('')
const problem = ref<ApiProblem | null>(null)
const at = computed(() => (path: string) => problem.value?.at(path) ?? undefined)
async function begin(password: string): Promise<void> {
  problem.value = null
  try {
    await session.beginPlant(name.value, shownName.value, password)
    emit('done')
  } catch (error) {
    if (error instanceof ApiProblem) problem.value = error
    throw error
  }
}
</script>

<template>
  <section class="stack" aria-label="The first administrator">
    <h2>Nobody works here yet</h2>
    <p>
      Begin with the first administrator: somebody who invites people, locks accounts and decides the plant’s
      rules, and who signs no work. Invite yourself a second time under another name for that.
    </p>
    <NewPassword does="Begin this plant" path="password" :act="begin">
      <v-text-field
        v-model="shownName"
        label="Your name, as it stands on papers"
        autocomplete="name"
        maxlength="120"
        :error-messages="at('shownName')"
      />
      <v-text-field
        v-model="name"
        label="Sign-in name (small letters)"
        autocomplete="username"
        autocapitalize="none"
        maxlength="40"
        :error-messages="at('name')"
      />
    </NewPassword>
  </section>
</template>
