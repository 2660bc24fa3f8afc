<script setup lang="ts">
import { useRoute, useRouter } from 'vue-router'
import NamePlate from '../../ui/NamePlate.vue'
import SignInForm from './SignInForm.vue'
import WaitingForOthers from './WaitingForOthers.vue'

const route = useRoute()
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
      <SignInForm @done="onward" />
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
.box {
  width: min(400px, 100%);
  gap: 20px;
}
</style>
