<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useView } from '../../loop/use-view.ts'

/** The plant itself: its rules, its people, what happened outside the loops, and the proof of it all. */
const session = useSession()
const PeoplePanel = defineAsyncComponent(() => import('./PeoplePanel.vue'))
const LogPanel = defineAsyncComponent(() => import('./LogPanel.vue'))
const ProofPanel = defineAsyncComponent(() => import('./ProofPanel.vue'))
const ProgramsPanel = defineAsyncComponent(() => import('./ProgramsPanel.vue'))
const RulesPanel = defineAsyncComponent(() => import('./RulesPanel.vue'))

type View = 'rules' | 'people' | 'log' | 'proof' | 'programs'
const views = computed((): { id: View; title: string }[] => [
  { id: 'rules', title: 'Rules' },
  ...(session.isAdministrator ? [{ id: 'people' as const, title: 'People' }] : []),
  ...(session.oversees
    ? [
        { id: 'log' as const, title: 'Log' },
        { id: 'proof' as const, title: 'Proof' },
        { id: 'programs' as const, title: 'Programs' },
      ]
    : []),
])
const view = useView<View>(views, 'rules')
const PANELS = {
  rules: RulesPanel,
  people: PeoplePanel,
  log: LogPanel,
  proof: ProofPanel,
  programs: ProgramsPanel,
}
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Plant</h1>
      <v-btn-toggle
        v-if="views.length > 1"
        v-model="view"
        mandatory
        variant="outlined"
        aria-label="What is shown"
      >
        <v-btn v-for="v in views" :key="v.id" :value="v.id">{{ v.title }}</v-btn>
      </v-btn-toggle>
    </div>
    <component :is="PANELS[view]" />
  </div>
</template>
