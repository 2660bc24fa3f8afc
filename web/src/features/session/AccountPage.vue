<script setup lang="ts">
import { sayAreas } from '@calm/core/signing/roles'
import { session as at } from '@calm/contract/api/addresses'
import type { OpenSession, OwnKey } from '@calm/contract/people'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'
import { canSign, makeKey, wrapAnew, wrapProved } from '../../api/signing-key.ts'
import { sayInstant } from '../../ui/dates.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import NewPassword from './NewPassword.vue'
import SecondFactor from './SecondFactor.vue'

/** One's own account: the key, the password, and where it is open. */
const session = useSession()
const key = shallowRef<OwnKey | null>(null)
const open = shallowRef<readonly OpenSession[]>([])
/** Signs in by the plant's own sign-in: no password here but the one for signing. */
const isElsewhere = ref(false)
const says = ref<string | null>(null)
const done = ref<string | null>(null)
const old = ref('')
const oldSays = ref<string | null>(null)

async function look(): Promise<void> {
  try {
    open.value = await call(at.open, {})
    const told = await call(at.key, {})
    key.value = told.key
    isElsewhere.value = told.signsInElsewhere
  } catch (error) {
    says.value = sayProblem(error)
  }
}
onMounted(look)

async function change(next: string): Promise<void> {
  oldSays.value = null
  done.value = null
  const id = session.person?.id ?? ''
  const anew = key.value
    ? await wrapAnew(key.value, old.value, next, id)
    : canSign()
      ? await makeKey(next, id)
      : null
  if (key.value && anew === null) {
    oldSays.value = 'This is not your password of now.'
    return
  }
  try {
    const { ended } = await call(at.changePassword, {}, { now: old.value, next, key: anew })
    old.value = ''
    done.value = `The password is changed. ${ended === 0 ? 'You were' : `${ended} other ${ended === 1 ? 'session' : 'sessions'} ended; you are`} signed in here only.`
    await look()
  } catch (error) {
    if (error instanceof ApiProblem && error.status === 401)
      oldSays.value = 'This is not your password of now.'
    else throw error
  }
}
/** Of who signs in elsewhere: what opens the key is known to nobody else. */
async function beginKey(password: string): Promise<void> {
  key.value = (await call(at.beginKey, {}, await makeKey(password, session.person?.id ?? ''))).key
}
/** The same key under another signing password; it proves itself that it was opened. */
async function changeSigning(next: string): Promise<void> {
  oldSays.value = null
  done.value = null
  if (!key.value) return
  const anew = await wrapProved(key.value, old.value, next, session.person?.id ?? '')
  if (anew === null) {
    await call(at.noteFailure, {}, { tag: 'the change of the signing password' })
    oldSays.value = 'This is not your signing password of now.'
    return
  }
  key.value = (await call(at.wrapKey, {}, anew)).key
  old.value = ''
  done.value = 'The signing password is changed. The old one opens nothing any more.'
}
/** Which password can be changed here: who signs in elsewhere has only that of the key. */
const changes = computed(() =>
  !isElsewhere.value
    ? { title: 'Password', path: 'next', act: change }
    : key.value && canSign()
      ? { title: 'Signing password', path: 'wrapped', act: changeSigning }
      : null,
)
async function end(s: OpenSession): Promise<void> {
  try {
    open.value = await call(at.endOpen, { session: s.id })
  } catch (error) {
    says.value = sayProblem(error)
  }
}
</script>

<template>
  <div class="page stack">
    <h1>{{ session.person?.shownName }}</h1>
    <p class="quiet">
      {{ session.person?.role }}<template v-if="session.person">, {{ sayAreas(session.person) }}</template>
    </p>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <section class="stack" aria-label="Signing key">
      <h2>Signing key</h2>
      <p v-if="key">
        Key <span class="mono">{{ key.fingerprint.slice(0, 16) }}</span> since {{ sayInstant(key.from) }}. It
        was made in a browser, and only your {{ isElsewhere ? 'signing password' : 'password' }} opens it, for
        one signature at a time.
        <template v-if="isElsewhere"
          >Lost, an administrator ends the key, and you begin another one.</template
        >
      </p>
      <div v-else-if="isElsewhere && canSign()" class="stack narrow">
        <p class="quiet">
          You sign in by the plant’s own sign-in. To sign records, choose a password for signing: it opens
          your key, for one signature at a time, and nobody else knows it.
        </p>
        <NewPassword does="Make my key" path="wrapped" :act="beginKey" />
      </div>
      <p v-else class="quiet">
        No key. One is made when you sign in over a secure connection, if your role signs.
      </p>
    </section>
    <section v-if="changes" class="stack narrow" :aria-label="changes.title">
      <h2>{{ changes.title }}</h2>
      <p v-if="done" role="status">{{ done }}</p>
      <NewPassword :key="done ?? ''" does="Change it" :path="changes.path" :act="changes.act">
        <v-text-field
          v-model="old"
          type="password"
          :label="`${changes.title} of now`"
          autocomplete="current-password"
          :error-messages="oldSays ?? undefined"
        />
      </NewPassword>
    </section>
    <SecondFactor v-if="!isElsewhere" />
    <section class="stack" aria-label="Where you are signed in">
      <h2>Where you are signed in</h2>
      <v-table v-key-scroll aria-label="Sessions, scrolls sideways">
        <thead>
          <tr>
            <th scope="col">Since</th>
            <th scope="col">Seen</th>
            <th scope="col">From</th>
            <th scope="col">Browser</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in open" :key="s.id">
            <td>{{ sayInstant(s.begunAt) }}</td>
            <td>{{ sayInstant(s.seenAt) }}</td>
            <td class="mono">{{ s.address }}</td>
            <td class="agent">{{ s.agent || 'not told' }}</td>
            <td>
              <strong v-if="s.here">this one</strong>
              <v-btn v-else height="44" @click="end(s)">End it</v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
    </section>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 460px;
}
.agent {
  max-width: 380px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.wrong {
  color: var(--stop);
}
</style>
