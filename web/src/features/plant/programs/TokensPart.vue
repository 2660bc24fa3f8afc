<script setup lang="ts">
import { programs, urlOf } from '@calm/contract/api/addresses'
import type { Token } from '@calm/contract/programs'
import { computed, ref, shallowRef } from 'vue'
import { call } from '../../../api/call.ts'
import { useLive } from '../../../api/live-cache.ts'
import { useSession } from '../../../api/session-store.ts'
import { useSubmit } from '../../../api/submit.ts'
import { sayDay, sayInstant } from '../../../ui/dates.ts'
import NumberField from '../../../ui/NumberField.vue'
import SecretOnce from './SecretOnce.vue'

/** Tokens: what a program of the plant may look at, and until when. */
const session = useSession()
const { data } = useLive(programs.tokens, {})
const name = ref('')
const scope = ref<Token['scope']>('look')
const days = ref<number | null>(365)
const { busy, says, submit, at } = useSubmit()
const made = shallowRef<{ token: Token; secret: string } | null>(null)
const SCOPES = [
  { value: 'look', title: 'looks where a viewer may; changes nothing' },
  { value: 'calendar', title: 'the calendar of due days alone' },
] as const
/** Where a calendar program subscribes. */
const calendar = computed(() =>
  made.value ? location.origin + urlOf(programs.calendar, { token: made.value.secret }) : '',
)
const stands = (t: Token) =>
  t.endedAt
    ? `ended ${sayDay(t.endedAt.slice(0, 10))}`
    : Date.parse(t.until) < Date.now()
      ? `ran out ${sayDay(t.until.slice(0, 10))}`
      : `until ${sayDay(t.until.slice(0, 10))}`
const good = (t: Token) => t.endedAt === null && Date.parse(t.until) >= Date.now()

const make = () =>
  submit(async () => {
    if (days.value === null) {
      says.value = 'Say for how many days it is good.'
      return
    }
    made.value = await call(
      programs.makeToken,
      {},
      { name: name.value, scope: scope.value, days: days.value },
    )
    name.value = ''
  })
const end = (t: Token) =>
  submit(async () => {
    await call(programs.endToken, { token: t.id })
  })
</script>

<template>
  <section class="stack" aria-label="Tokens">
    <h2>Tokens</h2>
    <form v-if="session.isAdministrator" class="row form" novalidate @submit.prevent="make">
      <v-text-field
        v-model="name"
        label="What it is for"
        maxlength="80"
        class="grow"
        :error-messages="at('name') ?? []"
      />
      <v-select v-model="scope" label="What it opens" :items="SCOPES" class="grow" />
      <NumberField v-model="days" label="Good for, days" class="days" :error="at('days')" />
      <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Make a token</v-btn>
    </form>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <SecretOnce
      v-if="made"
      :label="made.token.scope === 'calendar' ? 'The calendar’s address' : 'The token'"
      :secret="made.token.scope === 'calendar' ? calendar : made.secret"
      :says="
        made.token.scope === 'calendar'
          ? 'Subscribe to it in a calendar program; add &area=… for one area, &assignee=… for who looks after the loops.'
          : 'Put it into the program that looks.'
      "
    />
    <div v-for="t in data ?? []" :key="t.id" class="row line">
      <span class="grow" :class="{ quiet: !good(t) }">
        <strong>{{ t.name }}</strong>
        {{ t.scope === 'look' ? 'looks' : 'calendar' }}, {{ stands(t) }}, made by {{ t.madeBy }}.
        <span class="quiet">{{ t.usedAt ? `Used last ${sayInstant(t.usedAt)}.` : 'Never used.' }}</span>
      </span>
      <v-btn v-if="session.isAdministrator && good(t)" variant="text" @click="end(t)">End it</v-btn>
    </div>
    <p v-if="data?.length === 0" class="quiet">No program looks here by a token.</p>
  </section>
</template>

<style scoped>
.form {
  align-items: start;
}
.grow {
  flex: 1 1 220px;
}
.days {
  flex: 0 1 160px;
}
.line {
  border-bottom: var(--line) solid var(--hair);
  min-height: 48px;
}
.wrong {
  color: var(--stop);
}
</style>
