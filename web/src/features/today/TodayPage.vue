<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useView } from '../../loop/use-view.ts'
import { useShortcut } from '../../ui/shortcuts.ts'
import { sayDayLong } from './say-day.ts'
import { providePlan } from './use-plan.ts'

/** The day: what is next, the plan of it, the jobs that there are, what to pack, what is handed over. */
const MyDay = defineAsyncComponent(() => import('./MyDay.vue'))
const PlanView = defineAsyncComponent(() => import('./PlanView.vue'))
const JobsView = defineAsyncComponent(() => import('./JobsView.vue'))
const KitView = defineAsyncComponent(() => import('./KitView.vue'))
const ToSign = defineAsyncComponent(() => import('./ToSign.vue'))
const HandOver = defineAsyncComponent(() => import('./HandOver.vue'))
const JobDialog = defineAsyncComponent(() => import('./JobDialog.vue'))

const session = useSession()
const p = providePlan()
type View = 'mine' | 'plan' | 'jobs' | 'kit' | 'sign' | 'hand-over'
const VIEWS: { id: View; title: string }[] = [
  { id: 'mine', title: 'My day' },
  { id: 'plan', title: 'Plan' },
  { id: 'jobs', title: 'Jobs' },
  { id: 'kit', title: 'Kit' },
  { id: 'sign', title: 'To sign' },
  { id: 'hand-over', title: 'Hand-over' },
]
const isPlanned = computed(() => p.plan.value?.people.some((x) => x.id === session.person?.id) ?? false)
const first = session.person?.role === 'technician' ? 'mine' : 'plan'
const view = useView<View>(VIEWS, first)
const PANELS = {
  mine: MyDay,
  plan: PlanView,
  jobs: JobsView,
  kit: KitView,
  sign: ToSign,
  'hand-over': HandOver,
}
const title = computed(() =>
  p.plan.value ? sayDayLong(p.plan.value.day, p.plan.value.now, p.plan.value.zone) : 'Today',
)
const pick = ref(false)
useShortcut('Ctrl+z', 'The plan before', () => {
  if (view.value === 'plan' && p.plan.value?.made?.mayUndo) void p.undo()
})
</script>

<template>
  <div class="page stack">
    <div class="row head">
      <h1>{{ title }}</h1>
      <span class="days">
        <v-btn
          icon="$prev"
          variant="text"
          size="48"
          :aria-label="p.days.value === 1 ? 'The day before' : 'The days before'"
          @click="p.step(-1)"
        />
        <input
          v-if="pick"
          class="pick mono"
          type="date"
          aria-label="Day"
          :value="p.plan.value?.day"
          @change="p.goTo({ day: ($event.target as HTMLInputElement).value || undefined })"
        />
        <v-btn v-else variant="text" height="48" class="mono" @click="pick = true">{{
          p.plan.value?.day ?? ''
        }}</v-btn>
        <v-btn
          icon="$next"
          variant="text"
          size="48"
          :aria-label="p.days.value === 1 ? 'The day after' : 'The days after'"
          @click="p.step(1)"
        />
      </span>
      <v-btn-toggle
        v-if="view === 'plan'"
        :model-value="p.days.value"
        mandatory
        variant="outlined"
        aria-label="How many days"
        @update:model-value="p.goTo({ days: $event as number })"
      >
        <v-btn :value="1">Day</v-btn>
        <v-btn :value="5">5 days</v-btn>
      </v-btn-toggle>
      <span class="gap" />
      <v-btn-toggle v-model="view" mandatory variant="outlined" aria-label="What is shown" class="views">
        <v-btn v-for="v in VIEWS" :key="v.id" :value="v.id">{{ v.title }}</v-btn>
      </v-btn-toggle>
    </div>
    <p v-if="p.live.says.value" role="alert" class="trouble">{{ p.live.says.value }}</p>
    <p v-if="p.says.value" role="alert" class="trouble">{{ p.says.value }}</p>
    <p v-if="!p.plan.value && !p.live.says.value" class="quiet">Looking what there is to do.</p>
    <component :is="PANELS[view]" v-if="p.plan.value || view === 'sign'" :mine="isPlanned" />
    <JobDialog v-if="p.opened.value !== null" :job="p.opened.value" @close="p.opened.value = null" />
  </div>
</template>

<style scoped>
.head {
  row-gap: 4px;
}
.days {
  display: inline-flex;
  align-items: center;
}
.pick {
  min-height: 48px;
  padding: 0 8px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: var(--surface);
  color: var(--ink);
}
.gap {
  flex: 1;
}
.trouble {
  color: var(--stop);
}
.views {
  max-width: 100%;
  overflow-x: auto;
}
</style>
