<script setup lang="ts">
import { programs } from '@calm/contract/api/addresses'
import type { Webhook } from '@calm/contract/programs'
import { storeToRefs } from 'pinia'
import { ref } from 'vue'
import { call } from '../../../api/call.ts'
import { useLive } from '../../../api/live-cache.ts'
import { useSession } from '../../../api/session-store.ts'
import { useSubmit } from '../../../api/submit.ts'
import { sayDay, sayInstant } from '../../../ui/dates.ts'
import SecretOnce from './SecretOnce.vue'

/** Addresses that are told what is recorded, and how that goes. */
const { isAdministrator } = storeToRefs(useSession())
const { data } = useLive(programs.webhooks, {})
const ABOUT: Webhook['about'] = ['records of loops', 'the log of the plant', 'heads of the record']
const url = ref('')
const about = ref<Webhook['about']>(['records of loops'])
const { busy, says, submit, at } = useSubmit()
const secret = ref<string | null>(null)
function stands(w: Webhook): string {
  if (w.endedAt) return `ended ${sayDay(w.endedAt.slice(0, 10))}`
  return [
    w.arrivedAt ? `arrived last ${sayInstant(w.arrivedAt)}` : 'nothing arrived yet',
    ...(w.waiting > 0 ? [`${w.waiting} waiting`] : []),
    ...(w.givenUp > 0 ? [`${w.givenUp} given up`] : []),
    ...(w.trouble && w.waiting + w.givenUp > 0 ? [w.trouble] : []),
  ].join(', ')
}
const begin = () =>
  submit(async () => {
    const made = await call(programs.beginWebhook, {}, { url: url.value, about: about.value })
    secret.value = made.secret
    url.value = ''
  })
const end = (w: Webhook) =>
  submit(async () => {
    await call(programs.endWebhook, { webhook: w.id })
  })
</script>

<template>
  <section class="stack" aria-label="Webhooks">
    <h2>Webhooks</h2>
    <p class="quiet">
      What is recorded is told there within seconds, signed, and sent again for a day where nobody answers.
    </p>
    <form v-if="isAdministrator" class="row form" novalidate @submit.prevent="begin">
      <v-text-field
        v-model="url"
        label="Address, https://…"
        maxlength="500"
        class="grow"
        :error-messages="at('url') ?? []"
      />
      <v-select
        v-model="about"
        label="Told of"
        :items="ABOUT"
        multiple
        class="grow"
        :error-messages="at('about') ?? []"
      />
      <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Tell it</v-btn>
    </form>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <SecretOnce
      v-if="secret"
      label="The secret that signs"
      :secret="secret"
      says="Whoever hears checks by it that it was this plant (HMAC-SHA256 over webhook-id.webhook-timestamp.body)."
    />
    <div v-for="w in data ?? []" :key="w.id" class="row line">
      <span class="grow" :class="{ quiet: w.endedAt }">
        <span class="mono">{{ w.url }}</span> {{ w.about.join(', ') }}: {{ stands(w) }}.
      </span>
      <v-btn v-if="isAdministrator && !w.endedAt" variant="text" @click="end(w)">End it</v-btn>
    </div>
    <p v-if="data?.length === 0" class="quiet">Nobody is told.</p>
  </section>
</template>

<style scoped>
.form {
  align-items: start;
}
.grow {
  flex: 1 1 220px;
  overflow-wrap: anywhere;
}
.line {
  border-bottom: var(--line) solid var(--hair);
  min-height: 48px;
}
.wrong {
  color: var(--stop);
}
</style>
