<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { dayAfter } from '@calm/core/today/from-loop'
import DayStrip from './DayStrip.vue'
import PersonList from './PersonList.vue'
import { sayQuality } from './say-plan.ts'
import { sayDayShort } from './say-day.ts'
import { usePlan } from './use-plan.ts'

/** Who does what when: planned at a touch, moved by hand, with every conflict in a sentence. */
const WhoIsThere = defineAsyncComponent(() => import('./WhoIsThere.vue'))
const PlacesDialog = defineAsyncComponent(() => import('./PlacesDialog.vue'))
const p = usePlan()
const asking = ref<'people' | 'places' | null>(null)
const plan = computed(() => p.plan.value)
const isAnyone = computed(() => plan.value?.people.some((x) => x.turns.length > 0) ?? false)
const isBegun = computed(() => plan.value?.progress.some((x) => x.state !== 'open') ?? false)
const days = computed(() =>
  Array.from({ length: plan.value?.days ?? 1 }, (_, i) => dayAfter(plan.value?.day ?? '2000-01-01', i)),
)
const shown = ref<string | null>(null)
const day = computed(() =>
  shown.value && days.value.includes(shown.value) ? shown.value : (days.value[0] ?? ''),
)
const leftSays = computed(() => new Map((plan.value?.left ?? []).map((l) => [l.job, l.says])))
const title = (key: string | null) => (key === null ? '' : (p.jobs.value.get(key)?.title ?? ''))
</script>

<template>
  <div v-if="plan" class="stack">
    <div class="row">
      <v-btn
        v-if="p.mayPlan.value"
        color="primary"
        variant="flat"
        height="48"
        :loading="p.busy.value"
        :disabled="!isAnyone"
        @click="p.make(isBegun ? 'from now' : 'planned')"
        >{{ !plan.made ? 'Plan it' : isBegun ? 'Plan the rest anew' : 'Plan it anew' }}</v-btn
      >
      <v-btn
        v-if="p.mayPlan.value && plan.made?.mayUndo"
        height="48"
        variant="text"
        :disabled="p.busy.value"
        @click="p.undo()"
        >Undo</v-btn
      >
      <v-btn
        v-if="p.mayPlan.value && plan.made?.worked && !plan.made.worked.proved && !isBegun"
        height="48"
        variant="text"
        :disabled="p.busy.value"
        @click="p.make('planned', 9000)"
        >Look longer</v-btn
      >
      <v-btn height="48" variant="text" @click="asking = 'people'">Who is there</v-btn>
      <v-btn height="48" variant="text" @click="asking = 'places'">Places and stock</v-btn>
      <span class="gap" />
      <span class="quiet small" role="status">{{ p.note.value ?? sayQuality(plan) }}</span>
    </div>
    <p v-if="!isAnyone" class="answer">Nobody is there on this day. Say who is there, then plan.</p>
    <div role="status">
      <ul v-if="plan.broken.length > 0" class="conflicts" aria-label="Conflicts">
        <li v-for="(b, i) in plan.broken" :key="i">
          <button type="button" class="plain" :disabled="b.job === null" @click="p.opened.value = b.job">
            {{ b.says }}
          </button>
        </li>
      </ul>
    </div>
    <v-btn-toggle
      v-if="days.length > 1"
      :model-value="day"
      mandatory
      variant="outlined"
      aria-label="Which day"
      @update:model-value="shown = $event as string"
    >
      <v-btn v-for="d in days" :key="d" :value="d">{{ sayDayShort(d) }}</v-btn>
    </v-btn-toggle>
    <DayStrip v-if="isAnyone" :day="day" />
    <div class="columns">
      <PersonList v-for="x in plan.people" :key="x.id" :person="x.id" :day="day" />
      <section class="column" aria-label="Not planned">
        <h2 class="part">
          Not planned <span class="quiet">{{ p.unplaced.value.length }}</span>
        </h2>
        <PersonList :person="null" :day="day" />
        <p v-if="p.unplaced.value.length === 0" class="quiet small">Every job has its place.</p>
      </section>
    </div>
    <section v-if="plan.left.length > 0" class="stack" aria-label="Why jobs were left">
      <h2 class="part">Why they were left</h2>
      <ul class="why">
        <li v-for="l in plan.left" :key="l.job">
          <strong class="mono">{{ title(l.job) }}</strong> {{ leftSays.get(l.job) }}
        </li>
      </ul>
    </section>
    <WhoIsThere v-if="asking === 'people'" :day="day" @close="asking = null" />
    <PlacesDialog v-if="asking === 'places'" @close="asking = null" />
  </div>
</template>

<style scoped>
.gap {
  flex: 1;
}
.conflicts {
  list-style: none;
  padding: 8px 16px;
  background: var(--stop-surface);
  border-radius: var(--corner);
}
.plain {
  border: 0;
  background: transparent;
  color: var(--ink);
  font: inherit;
  text-align: left;
  min-height: 32px;
  cursor: pointer;
}
.columns {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
  gap: 16px;
  align-items: start;
}
.why {
  padding-left: 20px;
}
</style>
