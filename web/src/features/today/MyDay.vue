<script setup lang="ts">
import type { PlacingTold } from '@calm/contract/today'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../../api/session-store.ts'
import StateMark from '../../ui/StateMark.vue'
import ReasonDialog from '../../ui/ReasonDialog.vue'
import { clockOf, markOf, momentOf, sayChance, sayOwn } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** What is next for one person, large; what comes after it; what is behind. */
const { mine } = defineProps<{ mine: boolean }>()
const p = usePlan()
const session = useSession()
const router = useRouter()
const chosen = ref<string | null>(null)
const whose = computed(() => chosen.value ?? (mine ? session.person?.id : p.plan.value?.people[0]?.id) ?? '')
const agenda = computed(() => p.agenda(whose.value))
const stateOf = (x: PlacingTold) => p.progress.value.get(x.job)?.state ?? 'open'
/** What was begun comes before what waits. */
const next = computed(
  () => agenda.value.find((x) => stateOf(x) === 'begun') ?? agenda.value.find((x) => stateOf(x) === 'open'),
)
const others = computed(() => agenda.value.filter((x) => x !== next.value))
const job = computed(() => (next.value ? p.jobs.value.get(next.value.job) : undefined))
const at = (iso: string) => clockOf(iso, p.plan.value?.zone ?? 'UTC')
const people = computed(() => (p.plan.value?.people ?? []).map((x) => ({ value: x.id, title: x.name })))
/** Whether it is done shows in the record of its loop. */
const isTold = computed(() => (job.value?.does ?? null) !== null)
const own = computed(() => (next.value ? sayOwn(p.plan.value, next.value.person, next.value.job) : null))
const turn = computed(() =>
  p.plan.value?.people.find((x) => x.id === whose.value)?.turns.find((t) => t.chance !== null),
)
const chance = computed(() => (turn.value ? sayChance(turn.value, p.plan.value?.zone ?? 'UTC') : null))
const isHelper = computed(() => next.value?.helper === whose.value)
const notes = computed(() => (p.plan.value?.notes ?? []).slice(-3).reverse())

const asking = ref<'stopped' | 'impossible' | null>(null)
const busy = ref(false)
async function done(): Promise<void> {
  if (!next.value || busy.value) return
  busy.value = true
  await p.mark(next.value.job, 'done', '').finally(() => (busy.value = false))
}
const ASKS = {
  stopped: ['Stop this job', 'It is told to the next shift.', 'Stop'],
  impossible: ['Not possible today', 'It is left for another day and told to who plans.', 'Not possible'],
} as const
</script>

<template>
  <div class="stack">
    <div class="row">
      <v-select
        v-if="people.length > 1"
        :model-value="whose"
        :items="people"
        label="Whose day"
        hide-details
        class="whose"
        @update:model-value="chosen = $event"
      />
      <span v-if="agenda.length > 0" class="quiet"
        >{{ agenda.filter((x) => stateOf(x) === 'done').length }} of {{ agenda.length }} done</span
      >
      <span v-if="chance" :class="turn?.chance?.low ? 'risky' : 'quiet'">{{ chance }}</span>
    </div>
    <p v-if="agenda.length === 0" class="answer">
      {{ p.plan.value?.made ? 'Nothing is planned here on this day.' : 'This day is not planned yet.' }}
    </p>
    <div v-if="p.plan.value && !p.plan.value.made && p.mayPlan.value" class="row">
      <v-btn
        color="primary"
        variant="flat"
        height="56"
        :loading="p.busy.value"
        :disabled="!p.plan.value.people.some((x) => x.turns.length > 0)"
        @click="p.make('planned')"
        >Plan it</v-btn
      >
    </div>
    <section v-if="next && job" class="next stack" aria-label="Next">
      <p class="row base">
        <strong class="time mono">{{ at(next.start) }}</strong>
        <span class="quiet">to {{ at(next.end) }}, {{ job.minutes }} min</span>
        <StateMark v-bind="markOf(p.progress.value.get(next.job))" />
      </p>
      <h2 class="mono">{{ job.title }}</h2>
      <p>
        <template v-if="job.loop">{{ job.loop.service }}. </template>{{ job.why }}
      </p>
      <dl class="facts">
        <dt>Where</dt>
        <dd>{{ p.placeOf(job.key) }}, leave at {{ at(next.leaves) }}</dd>
        <template v-if="own">
          <dt>Takes</dt>
          <dd>{{ own }}</dd>
        </template>
        <template v-if="next.helper !== null">
          <dt>{{ isHelper ? 'You help' : 'Helped by' }}</dt>
          <dd>{{ p.nameOf.value.get(isHelper ? next.person : next.helper) }}</dd>
        </template>
        <template v-if="next.instruments.length > 0">
          <dt>With</dt>
          <dd>{{ next.instruments.join(', ') }}</dd>
        </template>
        <template v-if="job.work.permissions.length > 0">
          <dt>Before</dt>
          <dd>{{ job.work.permissions.join('; ') }}</dd>
        </template>
        <template v-for="h in job.wish.holds ?? []" :key="h.role + h.at">
          <dt>Hold point</dt>
          <dd>{{ h.role }} lets it go on, after {{ h.at }} min</dd>
        </template>
        <template v-if="job.wish.order || job.wish.agreed">
          <dt>Agreed</dt>
          <dd>{{ [job.wish.order, job.wish.agreed].filter(Boolean).join(': ') }}</dd>
        </template>
      </dl>
      <div class="row">
        <v-btn v-if="job.to" color="primary" variant="flat" height="56" @click="router.push(job.to)">{{
          stateOf(next) === 'begun' ? 'Go on with it' : 'Begin it'
        }}</v-btn>
        <template v-if="p.mayPlan.value">
          <!-- What the record can tell, it tells: nobody ticks off a verification. -->
          <v-btn v-if="!isTold" height="56" :loading="busy" @click="done">Done</v-btn>
          <v-btn height="56" variant="text" @click="asking = 'stopped'">Stopped</v-btn>
          <v-btn height="56" variant="text" @click="asking = 'impossible'">Not possible</v-btn>
        </template>
      </div>
    </section>
    <p v-else-if="agenda.length > 0" class="answer">Everything that was planned here is behind you.</p>
    <ol v-if="others.length > 0" class="rest" aria-label="The rest of the day">
      <li v-for="x in others" :key="x.job">
        <button type="button" class="line" @click="p.opened.value = x.job">
          <span class="mono">{{ at(x.start) }}</span>
          <span>
            <strong class="mono">{{ p.jobs.value.get(x.job)?.title }}</strong>
            <span class="quiet under">{{ p.progress.value.get(x.job)?.says || p.placeOf(x.job) }}</span>
          </span>
          <StateMark v-bind="markOf(p.progress.value.get(x.job))" />
        </button>
      </li>
    </ol>
    <section v-if="notes.length > 0" class="stack" aria-label="Words from the shifts before">
      <h2 class="part">From the shifts before</h2>
      <p v-for="n in notes" :key="n.id">
        {{ n.says }}
        <span class="quiet small">{{ n.byName }}, {{ momentOf(n.at, p.plan.value?.zone ?? 'UTC') }}</span>
      </p>
    </section>
    <ReasonDialog
      v-if="asking && next"
      :title="ASKS[asking][0]"
      :says="ASKS[asking][1]"
      :does="ASKS[asking][2]"
      :act="(reason) => p.mark(next?.job ?? '', asking ?? 'stopped', reason)"
      @close="asking = null"
    />
  </div>
</template>

<style scoped>
.risky {
  color: var(--look);
}
.whose {
  max-width: 300px;
}
.next {
  padding: 20px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: var(--surface);
}
.base {
  align-items: baseline;
}
.time {
  font-size: var(--size-xxl);
}
h2:not(.part) {
  font-size: var(--size-xl);
}
.facts {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 16px;
}
.facts dt {
  color: var(--quiet);
}
.facts dd {
  margin: 0;
}
.rest {
  list-style: none;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: 64px 1fr auto;
  gap: 8px;
  align-items: center;
  width: 100%;
  min-height: 56px;
  padding: 6px 4px;
  border: 0;
  border-bottom: var(--line) solid var(--hair);
  background: transparent;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.under {
  display: block;
  font-size: var(--size-s);
}
</style>
