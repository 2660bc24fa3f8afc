<script setup lang="ts">
import { loops, people } from '@calm/contract/api/addresses'
import type { PasswordLink, RegisteredPerson } from '@calm/contract/people'
import { sayAreas } from '@calm/core/signing/roles'
import { computed, ref, shallowRef } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { sayDay, sayInstant } from '../../ui/dates.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import StateMark from '../../ui/StateMark.vue'
import LinkDialog from './LinkDialog.vue'
import PersonDialog from './PersonDialog.vue'
import ReasonDialog from '../../ui/ReasonDialog.vue'

/** Who works here, and what an administrator does to an account. Nobody is ever deleted. */
const session = useSession()
const register = useLive(people.register, {})
const list = useLive(loops.list, {})
const areas = computed(() => [...new Set((list.data.value ?? []).map((l) => l.area))].sort())

const inviting = ref(false)
const changing = shallowRef<RegisteredPerson | null>(null)
const linked = shallowRef<{ who: string; link: PasswordLink } | null>(null)
interface Asked {
  readonly title: string
  readonly says: string
  readonly does: string
  readonly act: (reason: string) => Promise<void>
}
const asked = shallowRef<Asked | null>(null)

const STATES = {
  active: { state: 'good', word: 'at work' },
  invited: { state: 'look', word: 'invited' },
  locked: { state: 'stop', word: 'locked' },
  left: { state: 'notYet', word: 'has left' },
} as const

/** What can be done to somebody now. */
function actsOn(p: RegisteredPerson): readonly (Asked & { readonly id: string })[] {
  const named = { person: p.id }
  const link = async (reason: string) => {
    linked.value = { who: p.shownName, link: await call(people.resetPassword, named, { reason }) }
  }
  const to = (state: 'active' | 'locked' | 'left') => async (reason: string) => {
    await call(people.changeState, named, { state, reason })
  }
  const mine = p.id === session.person?.id
  if (p.state === 'left') return []
  return [
    ...(p.state === 'active'
      ? [
          {
            id: 'reset',
            title: `Reset the password of ${p.shownName}?`,
            says: 'The old password opens nothing any more; the signing key and a second factor end. A link sets a new one.',
            does: 'Reset',
            act: link,
          },
        ]
      : []),
    ...(p.state === 'invited'
      ? [
          {
            id: 'link',
            title: `A new link for ${p.shownName}?`,
            says: 'The link of before opens nothing any more.',
            does: 'Make a new link',
            act: link,
          },
        ]
      : []),
    ...(p.key
      ? [
          {
            id: 'key',
            title: `Revoke the signing key of ${p.shownName}?`,
            says: 'It signs nothing from now on; what it signed before stays signed. A new key is made at the next sign-in.',
            does: 'Revoke the key',
            act: async (reason: string) => {
              await call(people.endKey, named, { reason })
            },
          },
        ]
      : []),
    ...(p.sessions > 0 && !mine
      ? [
          {
            id: 'sessions',
            title: `Sign ${p.shownName} out everywhere?`,
            says: 'What was typed and not sent stays in that browser under that name.',
            does: 'Sign out',
            act: async (reason: string) => {
              await call(people.endSessions, named, { reason })
            },
          },
        ]
      : []),
    ...(mine
      ? []
      : p.state === 'locked'
        ? [
            {
              id: 'unlock',
              title: `Unlock ${p.shownName}?`,
              says: 'The password of before opens the account again.',
              does: 'Unlock',
              act: to('active'),
            },
          ]
        : [
            {
              id: 'lock',
              title: `Lock ${p.shownName}?`,
              says: 'Signed out at once, and not let in until unlocked.',
              does: 'Lock',
              act: to('locked'),
            },
          ]),
    ...(mine
      ? []
      : [
          {
            id: 'left',
            title: `${p.shownName} has left?`,
            says: 'The account closes for good and the signing key ends. The name stays on every record.',
            does: 'Has left',
            act: to('left'),
          },
        ]),
  ]
}
</script>

<template>
  <section class="stack" aria-label="People">
    <div class="row">
      <p class="quiet grow">
        Nobody is deleted: names stay on records. What is done here stands in the log with its reason.
      </p>
      <v-btn color="primary" variant="flat" height="48" @click="inviting = true">Invite somebody</v-btn>
    </div>
    <p v-if="register.says.value" class="wrong" role="alert">{{ register.says.value }}</p>
    <v-table v-key-scroll class="stacked" aria-label="People, scrolls sideways">
      <thead>
        <tr>
          <th scope="col">Name</th>
          <th scope="col">Signs in as</th>
          <th scope="col">Role</th>
          <th scope="col">Works in</th>
          <th scope="col">State</th>
          <th scope="col">Key</th>
          <th scope="col">Seen</th>
          <td></td>
        </tr>
      </thead>
      <tbody>
        <tr v-for="p in register.data.value ?? []" :key="p.id">
          <td>{{ p.shownName }}<span v-if="p.demo" class="quiet"> (demo)</span></td>
          <td class="mono" data-says="signs in as">{{ p.name }}</td>
          <td data-says="role">{{ p.role }}</td>
          <td data-says="works in">{{ sayAreas(p) }}</td>
          <td>
            <StateMark :state="STATES[p.state].state" :word="STATES[p.state].word" />
            <span v-if="p.until" class="quiet small"> until {{ sayDay(p.until) }}</span>
            <span v-if="p.linkUntil" class="quiet small"> link until {{ sayInstant(p.linkUntil) }}</span>
          </td>
          <td class="mono" data-says="key">{{ p.key ? p.key.slice(0, 8) : 'none' }}</td>
          <td data-says="seen">{{ p.seenAt ? sayInstant(p.seenAt) : 'not signed in' }}</td>
          <td>
            <v-menu v-if="p.state !== 'left'">
              <template #activator="{ props }">
                <v-btn v-bind="props" height="44" :aria-label="`What can be done: ${p.shownName}`"
                  >Actions</v-btn
                >
              </template>
              <v-list>
                <v-list-item title="Change" @click="changing = p" />
                <v-list-item v-for="a in actsOn(p)" :key="a.id" :title="a.does" @click="asked = a" />
              </v-list>
            </v-menu>
          </td>
        </tr>
      </tbody>
    </v-table>
    <PersonDialog
      v-if="inviting"
      :areas="areas"
      @linked="(who, link) => (linked = { who, link })"
      @close="inviting = false"
    />
    <PersonDialog v-if="changing" :person="changing" :areas="areas" @close="changing = null" />
    <ReasonDialog v-if="asked" v-bind="asked" @close="asked = null" />
    <LinkDialog v-if="linked" v-bind="linked" @close="linked = null" />
  </section>
</template>

<style scoped>
.grow {
  flex: 1 1 240px;
}
.wrong {
  color: var(--stop);
}
</style>
