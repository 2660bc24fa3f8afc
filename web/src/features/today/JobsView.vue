<script setup lang="ts">
import { today, urlOf } from '@calm/contract/api/addresses'
import type { JobsImported } from '@calm/contract/today'
import { KIND_WORDS } from '@calm/core/today/job'
import { sayPlace } from '@calm/core/today/place'
import { wallOf } from '@calm/core/today/wall-time'
import { mdiPlus, mdiTrayArrowDown } from '@mdi/js'
import { computed, defineAsyncComponent, ref } from 'vue'
import { call } from '../../api/call.ts'
import { useSubmit } from '../../api/submit.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import { readListFile } from '../../ui/read-sheet.ts'
import StateMark from '../../ui/StateMark.vue'
import { sayDayShort } from './say-day.ts'
import { IMPORTANCE_WORDS, markOf } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** Everything that has to be done, each with its reason. */
const NewJob = defineAsyncComponent(() => import('./NewJob.vue'))
const p = usePlan()
const adding = ref(false)
const find = ref('')
const today0 = computed(() =>
  p.plan.value ? wallOf(Date.parse(p.plan.value.now), p.plan.value.zone).day : '',
)
const shown = computed(() => {
  const words = (find.value ?? '').toLowerCase().split(/\s+/).filter(Boolean)
  return [...(p.plan.value?.jobs ?? [])]
    .filter((j) =>
      words.every((w) =>
        `${j.title} ${sayPlace(j)} ${j.why} ${KIND_WORDS[j.kind]} ${j.wish.order ?? ''}`
          .toLowerCase()
          .includes(w),
      ),
    )
    .sort(
      (a, b) =>
        (b.wish.importance ?? b.importance) - (a.wish.importance ?? a.importance) ||
        a.due.localeCompare(b.due),
    )
})
const otherDay = computed(() => new Map((p.plan.value?.elsewhere ?? []).map((e) => [e.job, e.day])))
const table = computed(() => urlOf(today.jobsTable, { ...(p.plan.value ? { day: p.plan.value.day } : {}) }))
const { says, submit, at } = useSubmit()
const imported = ref<JobsImported | null>(null)
async function take(chosen: File | File[] | null): Promise<void> {
  const file = Array.isArray(chosen) ? chosen[0] : chosen
  if (!file) return
  let text = ''
  try {
    text = await readListFile(file)
  } catch (error) {
    says.value = error instanceof Error ? error.message : 'The file cannot be read.'
    return
  }
  await submit(async () => {
    imported.value = await call(today.importJobs, {}, { text })
  })
}
const picking = ref(false)
</script>

<template>
  <div class="stack">
    <div class="row">
      <v-btn
        v-if="p.mayPlan.value"
        color="primary"
        variant="flat"
        height="48"
        :prepend-icon="mdiPlus"
        @click="adding = true"
        >Enter a job</v-btn
      >
      <v-btn
        v-if="p.mayPlan.value"
        height="48"
        variant="text"
        :prepend-icon="mdiTrayArrowDown"
        @click="picking = !picking"
        >From a list</v-btn
      >
      <v-btn height="48" variant="text" :href="table">CSV</v-btn>
      <span class="gap" />
      <v-text-field v-model="find" label="Find" hide-details clearable class="find" />
    </div>
    <v-file-input
      v-if="picking"
      label="List of jobs (CSV or spreadsheet)"
      hint="Columns: order, title, loop or area, due, minutes, importance, done by (verification or a procedure)"
      persistent-hint
      accept=".csv,.txt,.xlsx,text/csv"
      :error-messages="at('text') ?? []"
      @update:model-value="take"
    />
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <div v-if="imported" role="status">
      <p>{{ imported.created }} entered, {{ imported.same }} were here already.</p>
      <ul v-if="imported.wrong.length > 0" class="wrong">
        <li v-for="w in imported.wrong" :key="w.row">Row {{ w.row }}: {{ w.says }}</li>
      </ul>
    </div>
    <p v-if="shown.length === 0" class="answer">
      {{
        find
          ? 'No job has these words.'
          : 'The record asks for nothing in these days, and nobody entered a job.'
      }}
    </p>
    <div v-else v-key-scroll class="scroll" aria-label="Jobs, scrolls sideways">
      <table class="rows">
        <thead>
          <tr>
            <th scope="col">Job</th>
            <th scope="col">Why</th>
            <th scope="col">Area</th>
            <th scope="col">Due</th>
            <th scope="col" class="num">min</th>
            <th scope="col">Importance</th>
            <th scope="col">State</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="j in shown" :key="j.key">
            <th scope="row">
              <button type="button" class="link mono" @click="p.opened.value = j.key">{{ j.title }}</button>
            </th>
            <td class="why">
              {{ j.why }}
              <span v-if="j.wish.order || j.wish.agreed" class="quiet small under">{{
                [j.wish.order, j.wish.agreed].filter(Boolean).join(': ')
              }}</span>
            </td>
            <td>{{ sayPlace(j) }}</td>
            <td class="mono day" :class="{ late: j.due < today0 }">
              {{ j.due === '2000-01-01' ? '' : j.due }}
            </td>
            <td class="num mono">{{ j.minutes }}</td>
            <td>{{ IMPORTANCE_WORDS[(j.wish.importance ?? j.importance) - 1] }}</td>
            <td>
              <StateMark v-bind="markOf(p.progress.value.get(j.key))" />
              <span v-if="otherDay.has(j.key)" class="quiet small under"
                >on {{ sayDayShort(otherDay.get(j.key) ?? '') }}</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <NewJob v-if="adding" @close="adding = false" />
  </div>
</template>

<style scoped>
.gap {
  flex: 1;
}
.find {
  max-width: 280px;
}
.wrong {
  color: var(--stop);
}
.rows th,
.rows td {
  padding: 6px 8px;
  vertical-align: top;
  white-space: normal;
}
.rows td {
  padding-top: 14px;
}
.why {
  min-width: 260px;
}
.rows .day {
  white-space: nowrap;
}
.late {
  color: var(--stop);
}
.link {
  min-height: 44px;
  border: 0;
  background: transparent;
  color: var(--accent);
  font: inherit;
  font-family: var(--mono);
  font-weight: 600;
  text-align: left;
  cursor: pointer;
}
</style>
