<script setup lang="ts">
import { session as at, urlOf } from '@calm/contract/api/addresses'
import { computed, onMounted, ref, watch } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
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
/** The time code, once the server asks for it; null before. */
const code = ref<string | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
/** What the plant calls a sign-in of its own; null where it has none. */
const provider = ref<string | null>(null)
onMounted(async () => {
  provider.value = (await call(at.provider, {}).catch(() => null))?.name ?? null
})
watch([name, password], () => (code.value = null))
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
    await session.signIn(name.value, password.value, code.value ?? undefined)
    emit('done')
  } catch (error) {
    const asks = error instanceof ApiProblem && error.problem.type === 'urn:calm-loop:second-factor'
    const first = asks && code.value === null
    if (asks) code.value = ''
    // The field itself says what is asked for, the first time.
    says.value = first ? null : sayProblem(error)
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
    <v-text-field
      v-if="code !== null"
      v-model="code"
      label="Code of your phone, or a recovery code"
      autocomplete="one-time-code"
      autocapitalize="none"
      autofocus
      class="mono-field"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Sign in</v-btn>
    <v-btn v-if="provider" height="48" :href="urlOf(at.toProvider, {})">By {{ provider }}</v-btn>
  </form>
</template>

<style scoped>
.wrong {
  color: var(--stop);
}
</style>
