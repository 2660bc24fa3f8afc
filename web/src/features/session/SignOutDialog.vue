<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { sayProblem } from '../../api/call.ts'
import { useOutbox } from '../../api/outbox.ts'
import { useSession } from '../../api/session-store.ts'

/** Signing out, with what is not stored yet said first: it stays, and goes out when the same person is back. */
const emit = defineEmits<{ close: [] }>()
const session = useSession()
const outbox = useOutbox()
const router = useRouter()
const says = ref<string | null>(null)

async function leave(everywhere: boolean): Promise<void> {
  try {
    await (everywhere ? session.signOutEverywhere() : session.signOut())
    emit('close')
    await router.push('/sign-in')
  } catch (error) {
    says.value = sayProblem(error)
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="out-title"
    max-width="440"
    @update:model-value="emit('close')"
  >
    <v-card class="stack">
      <h2 id="out-title">Sign out, {{ session.person?.shownName }}?</h2>
      <p v-if="outbox.count > 0" class="unsent" role="alert">
        <strong
          >{{ outbox.count === 1 ? '1 entry is' : `${outbox.count} entries are` }} not stored yet.</strong
        >
        {{ outbox.count === 1 ? 'It stays' : 'They stay' }} in this browser under your name and
        {{ outbox.count === 1 ? 'goes' : 'go' }} out when you sign in here again. Nobody else can send
        {{ outbox.count === 1 ? 'it' : 'them' }}.
      </p>
      <p v-else class="quiet">Everything you recorded is stored.</p>
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <v-btn color="primary" variant="flat" height="48" @click="leave(false)">Sign out here</v-btn>
      <v-btn height="48" @click="leave(true)">Sign out on every machine</v-btn>
      <v-btn variant="text" height="48" @click="emit('close')">Stay</v-btn>
      <div class="row">
        <router-link to="/account" @click="emit('close')">Your account</router-link>
        <router-link to="/plant" @click="emit('close')">Plant</router-link>
        <router-link to="/about" class="quiet" @click="emit('close')">About Calm Loop</router-link>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.unsent {
  background: var(--look-surface);
  padding: 8px 12px;
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
