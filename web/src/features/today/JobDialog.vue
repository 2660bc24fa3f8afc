<script setup lang="ts">
import { today } from '@calm/contract/api/addresses'
import { dayAfter } from '@calm/core/today/from-loop'
import { instantOf, minuteIso } from '@calm/core/today/wall-time'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSubmit } from '../../api/submit.ts'
import ReasonDialog from '../../ui/ReasonDialog.vue'
import StateMark from '../../ui/StateMark.vue'
import { clockOf, IMPORTANCE_WORDS, markOf, sayOwn } from './say-plan.ts'
import { usePlan } from './use-plan.ts'
import { wishForm, wishOf } from './wish-form.ts'

/** One job: why, where it lies and why there, what was agreed about it, what became of it. */
const { job: key } = defineProps<{ job: string }>()
const emit = defineEmits<{ close: [] }>()
const p = usePlan()
const router = useRouter()
const job = computed(() => p.jobs.value.get(key))
const zone = computed(() => p.plan.value?.zone ?? 'UTC')
const placing = computed(() => p.plan.value?.placings.find((x) => x.job === key))
const left = computed(() => p.plan.value?.left.find((l) => l.job === key))
const progress = computed(() => p.progress.value.get(key))
/** Told on this job, or on another one because of it. */
const conflicts = computed(() => {
  const title = job.value?.title ?? key
  return (p.plan.value?.broken ?? []).filter((b) => b.job === key || b.says.includes(title))
})

const form = ref(wishForm(job.value, zone.value))
const before = { ...form.value }
const asked = JSON.stringify(form.value)
const isChanged = computed(() => JSON.stringify(form.value) !== asked)
const { busy, says, submit, at } = useSubmit()
const plant = useLive(today.plant, {})
const roles = computed(() => [...new Set((plant.data.value?.holders ?? []).map((h) => h.role))])
/** Where its time comes from; of who does it, where that was seen. */
const timeSays = computed(() => {
  const own = placing.value ? sayOwn(p.plan.value, placing.value.person, key) : null
  const n = job.value?.learntFrom ?? 0
  return (
    own ??
    (n > 0 ? `usual here, from ${n} ${n === 1 ? 'time' : 'times'}` : 'usual; nobody has done it here yet')
  )
})
const IMPORTANCE = IMPORTANCE_WORDS.map((title, i) => ({ value: i + 1, title }))
const HELPERS = [
  { value: 'none', title: 'nobody' },
  { value: 'radio', title: 'by radio at the beginning and the end' },
  { value: 'throughout', title: 'throughout' },
]

async function save(): Promise<void> {
  const j = job.value
  if (!j) return
  const done = await submit(async () => {
    await call(
      today.changeJob,
      { job: key },
      { id: crypto.randomUUID(), wish: wishOf(j, form.value, before, dayOf.value, zone.value) },
    )
  })
  if (done) emit('close')
}

const people = computed(() => (p.plan.value?.people ?? []).map((x) => ({ value: x.id, title: x.name })))
const who = ref(placing.value?.person ?? people.value[0]?.value ?? '')
const when = ref(placing.value ? clockOf(placing.value.start, zone.value) : '')
const dayOf = computed(() => p.plan.value?.day ?? '')
/** A clock time of the day; after midnight where the turn of that day goes on. */
function startAt(time: string): string {
  const at = instantOf(dayOf.value, time, zone.value)
  const turn = p.plan.value?.people.find((x) => x.id === who.value)?.turns.find((t) => t.day === dayOf.value)
  const next = instantOf(dayAfter(dayOf.value, 1), time, zone.value)
  const isNight = turn !== undefined && at < Date.parse(turn.from) && next < Date.parse(turn.to)
  return minuteIso(isNight ? next : at)
}
const move = (locked?: boolean) =>
  p.place(
    key,
    /^\d{2}:\d{2}$/.test(when.value)
      ? { person: who.value, start: startAt(when.value) }
      : { person: who.value, after: null, day: dayOf.value },
    locked,
  )
const isMoved = computed(
  () =>
    who.value !== placing.value?.person ||
    when.value !== (placing.value ? clockOf(placing.value.start, zone.value) : ''),
)

const asking = ref<'stopped' | 'impossible' | 'let go' | null>(null)
const ASKS = {
  stopped: ['Stop this job', 'It is told to the next shift.', 'Stop'],
  impossible: ['Not possible today', 'It is left for another day.', 'Not possible'],
  'let go': ['Needed no more', 'The job goes from the list; the log keeps it.', 'Let it go'],
} as const
async function act(reason: string): Promise<void> {
  if (asking.value === 'let go') {
    await call(today.letGo, { job: key }, { id: crypto.randomUUID(), reason })
    emit('close')
  } else await p.mark(key, asking.value ?? 'stopped', reason)
}
</script>

<template>
  <v-dialog
    :model-value="true"
    aria-labelledby="job-title"
    max-width="720"
    scrollable
    @update:model-value="emit('close')"
  >
    <v-card>
      <form v-if="job" class="stack" novalidate @submit.prevent="save">
        <div class="row">
          <h2 id="job-title" class="mono">{{ job.title }}</h2>
          <StateMark v-bind="markOf(progress)" />
          <span class="gap" />
          <v-btn v-if="job.to" height="48" variant="text" @click="router.push(job.to)">Open its bench</v-btn>
        </div>
        <p>
          <template v-if="job.loop">{{ job.loop.service }}. </template>{{ job.why }}
          {{ progress?.says }}
        </p>
        <p v-if="placing" class="quiet">{{ placing.says }}</p>
        <p v-else-if="left" class="quiet">{{ left.says }}</p>
        <ul v-if="conflicts.length > 0" class="conflicts">
          <li v-for="b in conflicts" :key="b.says">{{ b.says }}</li>
        </ul>
        <template v-if="p.mayPlan.value">
          <div v-if="p.plan.value?.days === 1" class="row">
            <v-select v-model="who" :items="people" label="Who" hide-details class="who" />
            <v-text-field v-model="when" type="time" label="Begins" hide-details class="when" />
            <v-btn
              v-if="!placing && left?.says.startsWith('There is room')"
              height="48"
              :disabled="p.busy.value"
              @click="p.place(key, { room: true })"
              >Put it where there is room</v-btn
            >
            <v-btn height="48" :disabled="!isMoved || p.busy.value" @click="move()">{{
              placing ? 'Move it' : 'Put it there'
            }}</v-btn>
            <v-btn
              v-if="placing"
              height="48"
              variant="text"
              :aria-pressed="placing.locked"
              :disabled="p.busy.value"
              @click="move(!placing.locked)"
              >{{ placing.locked ? 'Agreed: stays there' : 'Stays there' }}</v-btn
            >
            <v-btn
              v-if="placing"
              height="48"
              variant="text"
              :disabled="p.busy.value"
              @click="p.place(key, null)"
              >Off the plan</v-btn
            >
          </div>
          <p v-if="p.says.value" class="wrong" role="alert">{{ p.says.value }}</p>
          <h3>What was agreed</h3>
          <div class="field-grid">
            <v-text-field
              v-model="form.minutes"
              label="Minutes"
              inputmode="numeric"
              :hint="timeSays"
              persistent-hint
              :error-messages="at('wish.minutes') ?? []"
            />
            <v-select v-model="form.importance" :items="IMPORTANCE" label="Importance" />
            <v-select v-model="form.helper" :items="HELPERS" label="A second person" />
            <v-text-field
              v-model="form.notBefore"
              type="date"
              label="Not before"
              :error-messages="at('wish.notBefore') ?? []"
            />
            <v-text-field
              v-model="form.from"
              type="time"
              label="Process can be taken out from"
              :error-messages="at('wish.windows.0.from') ?? []"
            />
            <v-text-field
              v-model="form.to"
              type="time"
              label="until"
              :error-messages="at('wish.windows.0.to') ?? []"
            />
            <v-text-field
              v-model="form.order"
              label="Work order"
              maxlength="60"
              :error-messages="at('wish.order') ?? []"
            />
            <v-text-field
              v-model="form.agreed"
              label="Agreed with operations"
              maxlength="300"
              :error-messages="at('wish.agreed') ?? []"
            />
          </div>
          <div class="field-grid">
            <v-text-field
              v-model="form.abilities"
              label="Asks for, besides"
              hint="what who does it must be allowed to, as under Places and stock"
              :error-messages="at('wish.abilities.0') ?? []"
            />
            <v-select v-model="form.hold" :items="roles" label="Hold point released by" clearable />
            <template v-if="form.hold !== null">
              <v-text-field
                v-model="form.holdAt"
                label="After so many minutes"
                inputmode="numeric"
                :error-messages="at('wish.holds.0.at') ?? []"
              />
              <v-text-field
                v-model="form.holdMinutes"
                label="They are needed for, minutes"
                inputmode="numeric"
                :error-messages="at('wish.holds.0.minutes') ?? []"
              />
            </template>
          </div>
          <v-checkbox
            v-if="job.work.needs.length > 0"
            v-model="form.borrowed"
            label="Its instruments come from elsewhere"
            hide-details
          />
          <p v-if="says" class="wrong" role="alert">{{ says }}</p>
          <div class="row">
            <v-btn
              type="submit"
              color="primary"
              variant="flat"
              height="48"
              :loading="busy"
              :disabled="!isChanged"
              >Save</v-btn
            >
            <v-btn
              v-if="job.does === null && progress?.state === 'open'"
              height="48"
              @click="p.mark(key, 'done', '')"
              >Done</v-btn
            >
            <v-btn v-if="progress?.state === 'open'" height="48" variant="text" @click="asking = 'impossible'"
              >Not possible</v-btn
            >
            <v-btn
              v-if="progress && ['stopped', 'impossible'].includes(progress.state)"
              height="48"
              @click="p.mark(key, 'open', '')"
              >To do again</v-btn
            >
            <v-btn v-if="job.kind === 'byHand'" height="48" variant="text" @click="asking = 'let go'"
              >Needed no more</v-btn
            >
            <span class="gap" />
            <v-btn variant="text" height="48" @click="emit('close')">Close</v-btn>
          </div>
        </template>
        <v-btn v-else variant="text" height="48" @click="emit('close')">Close</v-btn>
      </form>
    </v-card>
    <ReasonDialog
      v-if="asking"
      :title="ASKS[asking][0]"
      :says="ASKS[asking][1]"
      :does="ASKS[asking][2]"
      :act="act"
      @close="asking = null"
    />
  </v-dialog>
</template>

<style scoped>
.gap {
  flex: 1;
}
.who {
  min-width: 200px;
}
.when {
  max-width: 140px;
}
.conflicts {
  padding: 8px 28px;
  background: var(--stop-surface);
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
