<script setup lang="ts">
import { session as at } from '@calm/contract/api/addresses'
import type { DemoSignIn } from '@calm/contract/people'
import { computed, defineAsyncComponent, onMounted, shallowRef, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { call } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'
import { beginTour } from '../../ui/tour.ts'
import NamePlate from '../../ui/NamePlate.vue'
import SignInForm from './SignInForm.vue'
import WaitingForOthers from './WaitingForOthers.vue'

/** Told by the server of a demo plant only. */
const demo = shallowRef<readonly DemoSignIn[]>([])
onMounted(async () => {
  demo.value = await call(at.demo, {}).catch(() => [])
})
// Asked for once in a plant's life.
const FirstAdministrator = defineAsyncComponent(() => import('./FirstAdministrator.vue'))
// As it was when the page opened: who begins the plant is led on from here.
const { first } = useSession()
const form = useTemplateRef('form')
async function enter(p: DemoSignIn): Promise<void> {
  beginTour()
  await form.value?.enter(p.name, p.password)
}
const route = useRoute()
/** Why the plant's own sign-in did not let somebody in. */
const ELSEWHERE: Readonly<Record<string, string>> = {
  away: 'The plant’s own sign-in does not answer. Try again in a moment.',
  answer: 'The plant’s own sign-in did not let you in, or it took too long. Try again.',
  role: 'The plant’s own sign-in knows you, but no group of yours works in Calm Loop. Ask who keeps the groups.',
  taken:
    'Somebody signs in here by your name and a password. If that is you, use the password; else ask an administrator.',
  first: 'Nobody works here yet. The first one is an administrator, who lets the others in.',
  locked: 'Your account here is locked or closed. Ask an administrator.',
}
const kept = computed(() => ELSEWHERE[String(route.query['elsewhere'] ?? '')] ?? null)
const router = useRouter()
function onward(): void {
  const next = route.query['next']
  // Only addresses of our own: "//elsewhere" would leave.
  void router.replace(typeof next === 'string' && /^\/(?!\/)/.test(next) ? next : '/loops')
}
</script>

<template>
  <main class="sign-in">
    <div class="box stack">
      <h1><NamePlate large /></h1>
      <p class="quiet">From the nameplate to the signed record of a measuring loop.</p>
      <WaitingForOthers />
      <FirstAdministrator v-if="first" @done="onward" />
      <p v-if="kept" role="alert" class="kept">{{ kept }}</p>
      <SignInForm v-if="!first" ref="form" @done="onward" />
      <section v-if="demo.length > 0" class="stack demo" aria-label="The demo plant">
        <p>This is the demo plant: an invented works, with nobody’s real data. Sign in with one click:</p>
        <v-btn v-for="p in demo" :key="p.name" @click="enter(p)">{{ p.shownName }}</v-btn>
        <p class="quiet small">
          The password of all of them is <span class="mono">{{ demo[0]?.password }}</span>.
        </p>
      </section>
      <p class="quiet small">
        Calm Loop advises. Local codes, permits, the device’s manual and licensed practice decide.
      </p>
    </div>
  </main>
</template>

<style scoped>
.sign-in {
  min-height: 100vh;
  display: grid;
  place-items: center;
  padding: 24px;
}
.kept {
  color: var(--stop);
}
.demo {
  border-top: var(--line) solid var(--hair);
  padding-top: 16px;
}
.box {
  width: min(400px, 100%);
  gap: 20px;
}
</style>
