<script setup lang="ts">
import { people } from '@calm/contract/api/addresses'
import type { Invitation } from '@calm/contract/people'
import { onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'
import NamePlate from '../../ui/NamePlate.vue'
import NewPassword from './NewPassword.vue'

/** Where a link to set a password leads. */
const { token } = defineProps<{ token: string }>()
const session = useSession()
const router = useRouter()
const told = shallowRef<Invitation | null>(null)
const says = ref<string | null>(null)
onMounted(async () => {
  try {
    told.value = await call(people.invitation, { token })
  } catch (error) {
    says.value =
      error instanceof ApiProblem && error.status === 404
        ? 'This link is over: it was used, a newer one was made, or its day has passed. Ask an administrator for another.'
        : sayProblem(error)
  }
})
async function join(password: string): Promise<void> {
  await session.join(token, password)
  await router.replace('/loops')
}
</script>

<template>
  <main class="join">
    <div class="box stack">
      <h1><NamePlate large /></h1>
      <p v-if="says" role="alert">{{ says }}</p>
      <template v-else-if="told">
        <p v-if="told.joins">
          Welcome, {{ told.shownName }}. You sign in as <span class="mono">{{ told.name }}</span>. Choose a
          password: it also opens the key that you sign with, and nobody can read it here.
        </p>
        <p v-else>
          {{ told.shownName }}, choose a new password. A new signing key is made with it; what you signed
          before stays signed.
        </p>
        <NewPassword does="Set it and go in" path="password" :act="join" />
      </template>
    </div>
  </main>
</template>

<style scoped>
.join {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 24px;
}
.box {
  width: min(400px, 100%);
  gap: 20px;
}
</style>
