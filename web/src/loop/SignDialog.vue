<script setup lang="ts">
import { runs, session as sessionAt, settings } from '@calm/contract/api/addresses'
import type { NewEquipment } from '@calm/contract/equipment'
import { statementText, type SignedAround } from '@calm/core/record/signing/statement'
import type { Meaning } from '@calm/core/signing/meanings'
import type { Signing } from '@calm/core/signing/signing'
import type { Signature } from '@calm/core/signing/signature'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { ApiProblem, call, sayProblem } from '../api/call.ts'
import { useLive } from '../api/live-cache.ts'
import { plantTime } from '../api/clock.ts'
import { canSign, openKey, sha256, signText } from '../api/signing-key.ts'
import { useSession } from '../api/session-store.ts'
import { sayDay } from '../ui/dates.ts'

/** A signature: the record as it is signed, what it means, and the password that opens the key for this once. */
const {
  runId,
  loop,
  as,
  signatures,
  contents,
  record,
  performed = 'Done as recorded.',
} = defineProps<{
  runId: string
  loop: { readonly id: string; readonly tag: string }
  as: 'technician' | 'reviewer'
  /** Those that are there already. */
  signatures: readonly Signature[]
  /** What is proposed to be said by who did it. */
  performed?: string
  /** The text that is signed, with what stands around the run. */
  contents: (around: SignedAround) => string
  /** Sends the signed event. @returns what is against it, or null */
  record: (signing: Required<Signing>, made: { id: string; at: string }) => Promise<string | null>
}>()
/** The record as it is signed. */
defineSlots<{ default: () => unknown }>()
const emit = defineEmits<{ close: [] }>()
const session = useSession()

const MEANS: Readonly<Record<Meaning, string>> = {
  performed: 'performed: I did this work as recorded',
  reviewed: 'reviewed: I looked it through and it is in order',
  approved: 'approved: it may be used',
  witnessed: 'witnessed: I was there',
}
const rules = useLive(settings.rules, {})
/** What the plant lets a second signature mean, and nobody has said with one yet. */
const meanings = computed((): readonly Meaning[] =>
  as === 'technician'
    ? ['performed']
    : (rules.data.value?.signing.second ?? []).filter(
        (m) => !signatures.some((s) => s.signature?.meaning === m),
      ),
)
const chosen = ref<Meaning | null>(null)
const meaning = computed<Meaning>({
  get: () => chosen.value ?? meanings.value[0] ?? (as === 'technician' ? 'performed' : 'reviewed'),
  set: (to) => (chosen.value = to),
})
const statement = ref(as === 'technician' ? performed : 'Checked.')
const password = ref('')
const says = ref<string | null>(null)
const busy = ref(false)
const around = shallowRef<{ document: string; instruments: NewEquipment[] } | null>(null)

onMounted(async () => {
  try {
    around.value = await call(runs.signing, { run: runId })
  } catch (error) {
    says.value = sayProblem(error)
  }
})

/** Opens the key for this signature only. @throws ApiProblem */
async function keyNow(): Promise<CryptoKey | string> {
  const { key } = await call(sessionAt.key, {})
  if (key === null)
    return 'You have no signing key yet. It is made when you sign in with a password, or under your name if you sign in elsewhere.'
  const priv = await openKey(key, password.value, session.person?.id ?? '')
  if (priv) {
    fingerprint = key.fingerprint
    return priv
  }
  await call(sessionAt.noteFailure, {}, { tag: loop.tag })
  return 'This is not your password. Nothing was signed; the try is in the log.'
}
let fingerprint = ''

async function sign(): Promise<void> {
  const here = around.value
  if (busy.value || !here) return
  if (password.value === '') {
    says.value = 'Type your password: it opens your key for this one signature.'
    return
  }
  busy.value = true
  says.value = null
  try {
    const priv = await keyNow()
    if (typeof priv === 'string') {
      says.value = priv
      return
    }
    const of = await sha256(contents(here))
    const made = { id: crypto.randomUUID(), at: plantTime() }
    const told = {
      v: 1,
      loop: loop.id,
      event: made.id,
      by: session.person?.id ?? '',
      meaning: meaning.value,
      of,
      at: made.at,
    } as const
    const value = await signText(priv, statementText(told))
    const signature = { meaning: meaning.value, of, key: fingerprint, value }
    const against = await record({ as, statement: statement.value.trim(), signature }, made)
    if (against === null) emit('close')
    else says.value = against
  } catch (error) {
    says.value =
      error instanceof ApiProblem ? sayProblem(error) : 'The key could not be used in this browser.'
  } finally {
    busy.value = false
    password.value = ''
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="sign-title"
    max-width="720"
    scrollable
    @update:model-value="emit('close')"
  >
    <v-card class="stack">
      <h2 id="sign-title">{{ as === 'technician' ? 'Sign' : 'Countersign' }} {{ loop.tag }}</h2>
      <div class="record stack" tabindex="0" aria-label="What you sign">
        <slot />
        <p v-for="e in around?.instruments ?? []" :key="e.id">
          {{ e.name }}, serial {{ e.serial }}, certificate {{ e.certificate }} until {{ sayDay(e.dueOn) }}.
        </p>
        <p v-for="s in signatures" :key="s.by">Signed as {{ s.as }}: {{ s.statement }}</p>
      </div>
      <p v-if="!canSign()" class="wrong" role="alert">
        Signing needs a secure connection: open Calm Loop by https, or on the machine that serves it. A
        browser makes no keys otherwise.
      </p>
      <form v-else class="stack" novalidate aria-label="Signature" @submit.prevent="sign">
        <v-select
          v-if="meanings.length > 1"
          v-model="meaning"
          label="What it means"
          :items="meanings.map((value) => ({ value, title: MEANS[value] }))"
          hide-details
        />
        <p v-else class="quiet">{{ MEANS[meaning] }}</p>
        <v-text-field
          v-model="statement"
          label="Statement"
          maxlength="300"
          :error-messages="
            statement.trim() === ''
              ? ['Say what is signed: a signature without a statement says nothing.']
              : []
          "
        />
        <v-text-field
          v-model="password"
          type="password"
          label="Your password"
          autocomplete="current-password"
          autofocus
          hide-details
        />
        <p v-if="says" class="wrong" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn
            type="submit"
            color="primary"
            variant="flat"
            height="48"
            :loading="busy"
            :disabled="statement.trim() === '' || around === null"
            >Sign as {{ session.person?.shownName }}</v-btn
          >
          <v-btn variant="text" height="48" @click="emit('close')">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.record {
  max-height: 34vh;
  overflow: auto;
  padding: 12px;
  background: var(--paper);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
