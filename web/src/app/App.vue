<script setup lang="ts">
import {
  mdiCalculatorVariantOutline,
  mdiCalendarTodayOutline,
  mdiFormatListBulletedSquare,
  mdiChartTimelineVariant,
  mdiWaveform,
  mdiFactory,
  mdiGaugeFull,
  mdiKeyboardOutline,
  mdiLogout,
  mdiMagnify,
  mdiThemeLightDark,
} from '@mdi/js'
import { useEventListener, useIntervalFn, useLocalStorage } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useTheme } from 'vuetify'
import { loopList, urlOf } from '@calm/contract/api/addresses'
import { useOutbox } from '../api/outbox.ts'
import { useSession } from '../api/session-store.ts'
import SignInForm from '../features/session/SignInForm.vue'
import TourCard from '../features/help/TourCard.vue'
import SignOutDialog from '../features/session/SignOutDialog.vue'
import WaitingForOthers from '../features/session/WaitingForOthers.vue'
import NamePlate from '../ui/NamePlate.vue'
import { sayInstant } from '../ui/dates.ts'
import { noteIfStale, stalePage } from '../ui/stale-page.ts'
import { activeShortcuts, handleKey, useShortcut, useSingleKeys } from '../ui/shortcuts.ts'
import { THEME_NAMES, type ThemeName } from './tokens.ts'

const search = () => import('./SearchDialog.vue')
const SearchDialog = defineAsyncComponent(search)

const session = useSession()
const outbox = useOutbox()
const route = useRoute()
const router = useRouter()
/** The search is there before anybody presses its key; counted from when the page itself stands, however slow the line. */
const AHEAD_MS = 4000
void router.isReady().then(() => setTimeout(() => void search().catch(noteIfStale), AHEAD_MS))
const theme = useTheme()
/** To the minute: every page that is printed says when. */
const now = ref(new Date().toISOString())
useIntervalFn(() => (now.value = new Date().toISOString()), 20_000)
const searching = ref(false)
const keys = ref(false)
const singleKeys = useSingleKeys()

const chosen = useLocalStorage<ThemeName>(
  'calm-theme',
  matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light',
)
watch(chosen, (name) => theme.change(THEME_NAMES.includes(name) ? name : 'light'), { immediate: true })
const nextTheme = computed(
  () => THEME_NAMES[(THEME_NAMES.indexOf(chosen.value) + 1) % THEME_NAMES.length] ?? 'light',
)

const PLACES = [
  { to: '/today', title: 'Today', icon: mdiCalendarTodayOutline, key: 'y' },
  { to: '/loops', title: 'Loops', icon: mdiFormatListBulletedSquare, key: 'l' },
  { to: '/quick-sums', title: 'Quick sums', icon: mdiCalculatorVariantOutline, key: 'q' },
  { to: '/instruments', title: 'Instruments', icon: mdiGaugeFull, key: 'i' },
  { to: '/drift', title: 'Drift', icon: mdiChartTimelineVariant, key: 'd' },
  { to: '/logs', title: 'Logs', icon: mdiWaveform, key: 'g' },
  { to: '/plant', title: 'Plant', icon: mdiFactory, key: 'p' },
]
for (const place of PLACES) useShortcut(place.key, `Go to ${place.title}`, () => void router.push(place.to))
useShortcut('/', 'Search', () => void (searching.value = true))
useShortcut('?', 'Show the keys', () => void (keys.value = !keys.value))
useEventListener(window, 'keydown', handleKey)

const framed = computed(() => session.person !== null && route.meta['open'] !== true)
watch(
  () => session.person,
  (person) => {
    outbox.reload()
    if (person) void outbox.flush()
  },
)

/** Signed in again, the hands go on where they were. */
let hands: Element | null = null
watch(
  () => session.expired,
  async (expired) => {
    if (expired) hands = document.activeElement
    else if (session.person) {
      await nextTick()
      if (hands instanceof HTMLElement && hands.isConnected) hands.focus()
    }
  },
  { flush: 'sync' },
)

const reload = () => window.location.reload()
/** Past the rail and the head, to where the work is. */
function toTheWork(): void {
  document.querySelector<HTMLElement>('#work, #content')?.focus()
}

const THEME_WORDS = { light: 'Light colours', dark: 'Dark colours', field: 'Colours for the field' } as const
/** What can be done from anywhere; found by the search. */
const actions = computed(() => [
  ...THEME_NAMES.map((name) => ({
    id: `action ${name}`,
    sort: 'action' as const,
    title: THEME_WORDS[name],
    hint: 'action',
    also: `${name} theme mode contrast`,
    run: () => (chosen.value = name),
  })),
  ...(session.mayWrite
    ? [
        {
          id: 'action new',
          sort: 'action' as const,
          title: 'New loop',
          hint: 'action',
          also: 'add create',
          run: () => void router.push('/loops?new=yes'),
        },
      ]
    : []),
  {
    id: 'action export',
    sort: 'action' as const,
    title: 'Export the loop list (CSV)',
    hint: 'action',
    also: 'download spreadsheet',
    run: () => window.location.assign(urlOf(loopList.export, {})),
  },
  {
    id: 'action keys',
    sort: 'action' as const,
    title: 'Keys on this screen',
    hint: 'action',
    also: 'shortcuts',
    run: () => (keys.value = true),
  },
  {
    id: 'action leave',
    sort: 'action' as const,
    title: 'Sign out',
    hint: 'action',
    also: 'leave log off',
    run: () => (leaving.value = true),
  },
])
const leaving = ref(false)
/** Another person goes on at this device; what was typed and not sent stays for who did it. */
async function giveUp(): Promise<void> {
  session.giveUp()
  await router.push('/sign-in')
}
// Another page of this browser may have signed somebody else in meanwhile.
useEventListener(document, 'visibilitychange', () => {
  if (document.visibilityState === 'visible') void session.lookAgain()
})
</script>

<template>
  <v-app>
    <template v-if="framed">
      <nav class="rail no-print" aria-label="Places">
        <a class="skip" href="#content" @click.prevent="toTheWork">Skip to the work</a>
        <router-link to="/loops" class="plate" aria-label="Calm Loop, to the loops"
          ><NamePlate
        /></router-link>
        <router-link
          v-for="place in PLACES"
          :key="place.to"
          :to="place.to"
          class="place"
          :class="{ 'wide-only': ['/plant', '/drift'].includes(place.to) }"
          active-class="here"
        >
          <v-icon :icon="place.icon" aria-hidden="true" />
          <span>{{ place.title }}</span>
        </router-link>
        <button type="button" class="place" @click="searching = true">
          <v-icon :icon="mdiMagnify" aria-hidden="true" /><span>Search</span>
        </button>
        <span class="gap" />
        <button type="button" class="place wide-only" @click="keys = true">
          <v-icon :icon="mdiKeyboardOutline" aria-hidden="true" /><span>Keys</span>
        </button>
        <button
          type="button"
          class="place"
          :title="`Colours are ${chosen}; change to ${nextTheme}`"
          @click="chosen = nextTheme"
        >
          <v-icon :icon="mdiThemeLightDark" aria-hidden="true" /><span
            >Colours<br /><span class="wide-only">{{ chosen }}</span></span
          >
        </button>
        <button type="button" class="place" :title="session.person?.shownName" @click="leaving = true">
          <v-icon :icon="mdiLogout" aria-hidden="true" /><span
            >Sign out<br /><span class="wide-only">{{ session.person?.name }}</span></span
          >
        </button>
      </nav>
      <main id="content" class="place-content" tabindex="-1">
        <div
          v-if="stalePage || outbox.trouble || outbox.refused.length > 0 || outbox.others.length > 0"
          class="banner"
          role="status"
        >
          <p v-if="stalePage">
            <strong>This part of the page could not be fetched.</strong> The server cannot be reached, or it
            was updated after this page was opened. What you typed is kept here.
            <v-btn variant="text" @click="reload">Reload the page</v-btn>
          </p>
          <p v-if="outbox.trouble">
            <strong>{{ outbox.count }} kept here, not stored yet.</strong> {{ outbox.trouble }} Sent as soon
            as it answers.
          </p>
          <WaitingForOthers />
          <p v-for="(r, i) in outbox.refused" :key="i"><strong>Not recorded:</strong> {{ r.says }}</p>
          <v-btn v-if="outbox.refused.length > 0" variant="text" @click="outbox.forgetRefused()"
            >Understood</v-btn
          >
        </div>
        <router-view />
        <p class="print-only small">Printed {{ sayInstant(now) }} by {{ session.person?.shownName }}</p>
      </main>
      <SignOutDialog v-if="leaving" @close="leaving = false" />
      <SearchDialog v-if="searching" :actions="actions" @close="searching = false" />
      <TourCard />
      <v-dialog v-model="keys" aria-labelledby="keys-title" max-width="440">
        <v-card class="stack">
          <h2 id="keys-title">Keys on this screen</h2>
          <dl class="keys">
            <template v-for="s in activeShortcuts()" :key="s.key + s.says">
              <dt class="mono">{{ s.key }}</dt>
              <dd>{{ s.says }}</dd>
            </template>
          </dl>
          <v-switch
            v-model="singleKeys"
            color="primary"
            hide-details
            :label="singleKeys ? 'Single keys are on' : 'Single keys are off; Ctrl with a key still works'"
          />
          <div class="row">
            <router-link to="/help" @click="keys = false">Help</router-link>
            <router-link to="/about" @click="keys = false">About Calm Loop</router-link>
          </div>
          <v-btn @click="keys = false">Close</v-btn>
        </v-card>
      </v-dialog>
      <v-dialog :model-value="session.expired" persistent aria-labelledby="again-title" max-width="440">
        <v-card class="stack">
          <h2 id="again-title">Please sign in again</h2>
          <p>
            The session of {{ session.person?.shownName }} has ended here. Everything that was typed is still
            here and is sent after {{ session.person?.name }} signs in.
          </p>
          <SignInForm :as="session.person" />
          <v-btn variant="text" height="48" @click="giveUp">I am somebody else</v-btn>
        </v-card>
      </v-dialog>
    </template>
    <router-view v-else />
  </v-app>
</template>

<style scoped>
.rail {
  position: fixed;
  inset: 0 auto 0 0;
  width: var(--rail);
  display: flex;
  flex-direction: column;
  gap: 4px;
  padding: 12px 4px;
  background: var(--paper);
  border-right: var(--line) solid var(--hair);
  z-index: 10;
}
.plate {
  display: grid;
  place-items: center;
  height: 48px;
  margin-bottom: 8px;
}
.place {
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 2px;
  min-height: 56px;
  border: 0;
  border-radius: var(--corner);
  background: transparent;
  color: var(--quiet);
  text-decoration: none;
  font-size: var(--size-s);
  font-family: var(--text);
  cursor: pointer;
  text-align: center;
  line-height: 1.2;
}
.place:hover {
  color: var(--ink);
}
.here {
  color: var(--accent);
  background: var(--surface);
  font-weight: 600;
}
.gap {
  flex: 1;
}
.place-content {
  margin-left: var(--rail);
  min-height: 100vh;
}
.place-content:focus {
  outline: none;
}
.skip {
  position: fixed;
  top: -60px;
  left: 8px;
  z-index: 20;
  padding: 12px 16px;
  background: var(--surface);
  border: 2px solid var(--accent);
  border-radius: var(--corner);
}
.skip:focus {
  top: 8px;
}
/* Where the screen is low the places scroll. */
@media (min-width: 641px) {
  .rail {
    overflow-y: auto;
  }
}
/* A loop fills the screen, its foot at the foot; where there is room its work scrolls and its frame stays. */
.place-content:has(> .loop, > .site) {
  display: flex;
  flex-direction: column;
}
@media (min-width: 641px) and (min-height: 561px) {
  .place-content:has(> .loop, > .site) {
    height: 100vh;
    height: 100dvh;
  }
}
.banner {
  background: var(--look-surface);
  color: var(--ink);
  padding: 10px 24px;
  border-bottom: var(--line) solid var(--look);
  position: sticky;
  top: 0;
  z-index: 9;
}
.keys {
  display: grid;
  grid-template-columns: 48px 1fr;
  gap: 6px 12px;
}
@media (max-width: 640px) {
  .rail {
    inset: auto 0 0 0;
    width: auto;
    flex-direction: row;
    padding: 2px 4px;
    border-right: 0;
    border-top: var(--line) solid var(--hair);
    justify-content: space-around;
    overflow-x: auto;
  }
  .plate,
  .gap,
  .wide-only {
    display: none;
  }
  /* Eight of them on 360 px: what a browser puts around a button would push the last one out. */
  .place {
    flex: 1 1 auto;
    padding: 0;
  }
  .place-content {
    margin-left: 0;
    padding-bottom: 64px;
  }
}
</style>
