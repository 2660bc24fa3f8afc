<script setup lang="ts">
import { runs } from '@calm/contract/api/addresses'
import type { WaitingRecord } from '@calm/contract/signatures'
import { computed, ref } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import StateMark from '../../ui/StateMark.vue'
import { sayInstant } from '../../ui/dates.ts'
import { runMark } from '../../ui/run-mark.ts'

/** Verifications and procedures that wait for a signature: those that I can give, then everybody’s. */
const live = useLive(runs.waiting, {})
const all = ref(false)
const mine = computed(() => (live.data.value ?? []).filter((w) => w.mine))
const others = computed(() => (live.data.value ?? []).filter((w) => !w.mine))
const shown = computed(() => (all.value ? [...mine.value, ...others.value] : mine.value))

const bench = (w: WaitingRecord) => ({
  path: `/loops/${w.loop}/${w.kind === 'procedure' ? 'trim' : 'verify'}`,
  query: { run: w.run },
})
const waits = (w: WaitingRecord): string =>
  w.waitsFor === 'performed' ? 'its first signature' : w.there > 1 ? 'one more person' : 'a second person'
</script>

<template>
  <section class="stack" aria-label="To sign">
    <p v-if="live.says.value" role="alert" class="trouble">{{ live.says.value }}</p>
    <p v-if="live.data.value && mine.length === 0" class="quiet">Nothing waits for your signature.</p>
    <ul v-if="shown.length > 0" class="list">
      <li v-for="w in shown" :key="w.run">
        <router-link :to="bench(w)" class="line">
          <span
            ><strong class="mono">{{ w.loop }}</strong> {{ w.service }}</span
          >
          <span
            >{{ w.title }} of {{ sayInstant(w.startedAt) }} <span class="quiet">by {{ w.byName }}</span></span
          >
          <StateMark v-bind="runMark(w)" />
          <span class="quiet">waits for {{ waits(w) }}</span>
        </router-link>
      </li>
    </ul>
    <div v-if="others.length > 0" class="row">
      <v-btn variant="text" height="48" :aria-expanded="all" @click="all = !all">{{
        all
          ? 'Only what I can sign'
          : `${others.length} ${others.length === 1 ? 'waits' : 'wait'} for others: show ${others.length === 1 ? 'it' : 'them'}`
      }}</v-btn>
    </div>
  </section>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(160px, 1.2fr) minmax(180px, 2fr) minmax(120px, auto) minmax(150px, auto);
  gap: 4px 16px;
  align-items: center;
  min-height: 56px;
  padding: 6px 4px;
  border-bottom: var(--line) solid var(--hair);
  color: inherit;
  text-decoration: none;
}
.trouble {
  color: var(--stop);
}
@media (max-width: 640px) {
  .line {
    grid-template-columns: 1fr;
  }
}
</style>
