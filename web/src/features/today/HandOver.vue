<script setup lang="ts">
import { today, urlOf } from '@calm/contract/api/addresses'
import { computed, ref } from 'vue'
import { call } from '../../api/call.ts'
import { useSubmit } from '../../api/submit.ts'
import StateMark from '../../ui/StateMark.vue'
import { clockOf, markOf, momentOf } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** The evening: what was done and found, what is left and why, and a word to who comes next. */
const p = usePlan()
const plan = computed(() => p.plan.value)
const startOf = computed(() => new Map((plan.value?.placings ?? []).map((x) => [x.job, x.start])))
/** In the order in which they were planned; what came besides stands behind. */
const all = computed(() =>
  (plan.value?.progress ?? [])
    .filter((x) => startOf.value.has(x.job) || x.state !== 'open')
    .sort((a, b) => (startOf.value.get(a.job) ?? '9').localeCompare(startOf.value.get(b.job) ?? '9')),
)
/** Before anything happened it is all still to do; what is left in the evening is left. */
const isBefore = computed(() => all.value.every((x) => x.state === 'open'))
const GROUPS = [
  { title: 'Found bad', of: (x: (typeof all.value)[number]) => x.bad },
  { title: 'Done', of: (x: (typeof all.value)[number]) => x.state === 'done' && !x.bad },
  { title: 'Under way', of: (x: (typeof all.value)[number]) => x.state === 'begun' && !x.bad },
  {
    title: 'Stopped or not possible',
    of: (x: (typeof all.value)[number]) => (x.state === 'stopped' || x.state === 'impossible') && !x.bad,
  },
  { title: 'Asked for no more', of: (x: (typeof all.value)[number]) => x.state === 'gone' },
  { title: 'Left', of: (x: (typeof all.value)[number]) => x.state === 'open' },
]
const groups = computed(() =>
  GROUPS.map((g) => ({
    title: g.title === 'Left' && isBefore.value ? 'To do' : g.title,
    rows: all.value.filter((x) => g.of(x)),
  })).filter((g) => g.rows.length > 0),
)
const paper = computed(() => urlOf(today.daySheet, { day: plan.value?.day ?? '' }))
const calendar = computed(() => urlOf(today.calendar, { day: plan.value?.day ?? '', days: p.days.value }))
const word = ref('')
const { busy, says, submit, at } = useSubmit()
let id = crypto.randomUUID()
async function tell(): Promise<void> {
  const done = await submit(async () => {
    await call(today.note, {}, { id, day: plan.value?.day ?? '', says: word.value })
  })
  if (!done) return
  word.value = ''
  id = crypto.randomUUID()
  await p.live.reload()
}
</script>

<template>
  <div v-if="plan" class="stack">
    <div class="row">
      <v-btn height="48" :href="paper">Day sheet</v-btn>
      <v-btn height="48" :href="calendar">Calendar file</v-btn>
    </div>
    <p v-if="groups.length === 0" class="answer">Nothing was planned and nothing happened on this day.</p>
    <section v-for="g in groups" :key="g.title" :aria-label="g.title">
      <h2 class="part">
        {{ g.title }} <span class="quiet">{{ g.rows.length }}</span>
      </h2>
      <ul class="list">
        <li v-for="x in g.rows" :key="x.job">
          <button type="button" class="line" @click="p.opened.value = x.job">
            <strong class="mono">{{ p.jobs.value.get(x.job)?.title }}</strong>
            <span>{{ x.says || p.jobs.value.get(x.job)?.why }}</span>
            <span class="quiet small">{{ x.at ? `${x.byName}, ${clockOf(x.at, plan.zone)}` : '' }}</span>
            <StateMark v-bind="markOf(x)" />
          </button>
        </li>
      </ul>
    </section>
    <section class="stack" aria-label="Words to the next shift">
      <h2 class="part">To the next shift</h2>
      <p v-for="n in plan.notes" :key="n.id">
        {{ n.says }}
        <span class="quiet small">{{ n.byName }}, {{ momentOf(n.at, plan.zone) }}</span>
      </p>
      <form v-if="p.mayPlan.value" class="stack no-print" novalidate @submit.prevent="tell">
        <v-textarea
          v-model="word"
          label="What they have to know"
          rows="2"
          auto-grow
          maxlength="1000"
          :error-messages="at('says') ?? []"
        />
        <p v-if="says" role="alert" class="wrong">{{ says }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" height="48" :loading="busy">Leave word</v-btn>
        </div>
      </form>
    </section>
  </div>
</template>

<style scoped>
.list {
  list-style: none;
  padding: 0;
}
.line {
  display: grid;
  grid-template-columns: minmax(140px, 1fr) 3fr minmax(120px, auto) auto;
  gap: 4px 16px;
  align-items: center;
  width: 100%;
  min-height: 48px;
  padding: 6px 4px;
  border: 0;
  border-bottom: var(--line) solid var(--hair);
  background: transparent;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
}
.wrong {
  color: var(--stop);
}
@media (max-width: 640px) {
  .line {
    grid-template-columns: 1fr auto;
  }
  .line > :nth-child(2) {
    grid-column: 1 / -1;
    grid-row: 2;
  }
}
</style>
