<script setup lang="ts">
import { computed, ref } from 'vue'
import { sayProblem } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'

/** Name and password; used on the sign-in page and over a screen whose session has ended. */
const { as = null } = defineProps<{
  /** Whose screen it is: only that person goes on here. */
  as?: { readonly name: string; readonly shownName: string } | null
}>()
const emit = defineEmits<{ done: [] }>()
const session = useSession()
const name = ref(as?.name ?? '')
const password = ref('')
const says = ref<string | null>(null)
const busy = ref(false)
const another = computed(
  () => as !== null && name.value.trim().toLowerCase() !== as.name.toLowerCase() && name.value.trim() !== '',
)

async function submit(): Promise<void> {
  if (busy.value) return
  if (name.value.trim() === '' || password.value === '') {
    says.value = 'Type your sign-in name and your password.'
    return
  }
  if (as && another.value) {
    says.value = `This is the screen of ${as.shownName}. Sign in as ${as.name}, or leave it below.`
    return
  }
  busy.value = true
  says.value = null
  try {
    await session.signIn(name.value, password.value)
    emit('done')
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
/** One click on a demo plant. */
async function enter(who: string, its: string): Promise<void> {
  name.value = who
  password.value = its
  await submit()
}
defineExpose({ enter })
</script>

<template>
  <form class="stack" aria-label="Sign in" novalidate @submit.prevent="submit">
    <v-text-field
      v-model="name"
      label="Sign-in name"
      autocomplete="username"
      :autofocus="as === null"
      autocapitalize="none"
    />
    <v-text-field
      v-model="password"
      label="Password"
      type="password"
      autocomplete="current-password"
      :autofocus="as !== null"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Sign in</v-btn>
  </form>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
