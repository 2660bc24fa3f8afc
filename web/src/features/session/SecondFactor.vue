<script setup lang="ts">
import { session as at } from '@calm/contract/api/addresses'
import type { FactorOffer, FactorState } from '@calm/contract/people'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useSubmit } from '../../api/submit.ts'
import { sayInstant } from '../../ui/dates.ts'
import { saveFile } from '../../ui/save-file.ts'

/** A code from one's own phone beside the password: begun, confirmed, ended. */
const state = shallowRef<FactorState | null>(null)
const offer = shallowRef<FactorOffer | null>(null)
const codes = ref<readonly string[]>([])
const password = ref('')
const code = ref('')
const { busy, says, submit, at: wrongAt } = useSubmit()
onMounted(async () => {
  try {
    state.value = await call(at.factor, {})
  } catch (error) {
    says.value = sayProblem(error)
  }
})
const picture = computed(() =>
  offer.value ? `data:image/svg+xml;utf8,${encodeURIComponent(offer.value.picture)}` : '',
)
/** In groups of four, as it is typed. */
const spelled = computed(() => offer.value?.secret.replace(/(.{4})/g, '$1 ').trim() ?? '')

const begin = () =>
  submit(async () => {
    offer.value = await call(at.offerFactor, {}, { password: password.value })
    password.value = ''
  })
const confirm = () =>
  submit(async () => {
    codes.value = (await call(at.confirmFactor, {}, { code: code.value })).codes
    offer.value = null
    code.value = ''
    state.value = await call(at.factor, {})
  })
const end = () =>
  submit(async () => {
    state.value = await call(at.endFactor, {}, { password: password.value })
    password.value = ''
    codes.value = []
  })
const keep = () =>
  saveFile('recovery-codes.txt', 'text/plain', `Each opens once.\n${codes.value.join('\n')}\n`)
</script>

<template>
  <section v-if="state" class="stack narrow" aria-label="Second factor">
    <h2>Second factor</h2>
    <template v-if="codes.length > 0">
      <p role="status">
        <strong>From now on a code is asked for.</strong> These recovery codes open once each, if the phone is
        lost. They are told this once: print them or keep the file away from the phone.
      </p>
      <ul class="codes mono">
        <li v-for="c in codes" :key="c">{{ c }}</li>
      </ul>
      <div><v-btn @click="keep">Keep them as a file</v-btn></div>
    </template>
    <p v-if="state.since">
      A code of your phone is asked for since {{ sayInstant(state.since) }}; {{ state.codesLeft }} recovery
      codes are left.
    </p>
    <p v-else-if="!offer" class="quiet">
      A code from a phone beside the password: who has the password alone does not come in.
    </p>
    <form v-if="offer" class="stack" novalidate @submit.prevent="confirm">
      <p>Scan it with an app for time codes, then type the code that it shows.</p>
      <img :src="picture" alt="The secret as a picture to be scanned" class="scan" />
      <p>
        or type it there: <span class="mono">{{ spelled }}</span>
      </p>
      <v-text-field
        v-model="code"
        label="Code that the phone shows"
        inputmode="numeric"
        autocomplete="one-time-code"
        autofocus
        class="mono-field"
        :error-messages="wrongAt('code') ?? []"
      />
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy"
        >Ask for it from now on</v-btn
      >
    </form>
    <form v-else class="stack" novalidate @submit.prevent="state.since ? end() : begin()">
      <v-text-field
        v-model="password"
        type="password"
        label="Your password"
        autocomplete="current-password"
        :error-messages="wrongAt('password') ?? []"
      />
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <div>
        <v-btn type="submit" height="48" :loading="busy">{{
          state.since ? 'Ask for no code any more' : 'Begin with a second factor'
        }}</v-btn>
      </div>
    </form>
  </section>
</template>

<style scoped>
.narrow {
  max-width: 460px;
}
.scan {
  width: 200px;
  height: 200px;
  background: white;
}
.codes {
  columns: 2;
  list-style: none;
  padding: 0;
}
.wrong {
  color: var(--stop);
}
</style>
