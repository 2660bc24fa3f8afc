<script setup lang="ts">
import type { Finding } from '@calm/core/finding'
import { worstFirst } from '@calm/core/finding'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import BenchViews from '../../loop/BenchViews.vue'
import SaveBar from '../../loop/SaveBar.vue'
import { useView } from '../../loop/use-view.ts'
import FindingRow from '../../ui/FindingRow.vue'
import PocketCard from './PocketCard.vue'
import RangeForm from './RangeForm.vue'
import StagesForm from './StagesForm.vue'

// What one of the other views needs is fetched when it is opened.
const LocatePanel = defineAsyncComponent(() => import('./LocatePanel.vue'))
const RangeWork = defineAsyncComponent(() => import('./RangeWork.vue'))

const loop = useLoop()
loop.needFacts()
const session = useSession()
const reason = ref('')
/** What the readings typed so far ask for. */
const readNext = ref<string | null>(null)
const VIEWS = [
  { id: 'ranges', title: 'Ranges' },
  { id: 'locate', title: 'Locate an error' },
  { id: 'range', title: 'Range work' },
] as const
const views = computed(() => (loop.draft && loop.draft.path.length > 0 ? VIEWS : []))
const view = useView<(typeof VIEWS)[number]['id']>(VIEWS, 'ranges')
/** Another type of card puts everything it was told back to its factory state. */
const resets = computed((): Finding[] =>
  loop.changes.some((c) => /^path\.input\.(signal|n4|n20)/.test(c.path))
    ? [
        {
          code: 'INPUT_TYPE_RESETS',
          severity: 'warn',
          where: ['input'],
          says: 'Changing the type of an input puts its scaling, filter, alarms and substitute value back to factory settings: note them first, and set them again before the loop goes back to automatic.',
        },
      ]
    : [],
)
const findings = computed(() =>
  loop.draft && loop.facts && loop.wrong.size === 0 ? worstFirst([...loop.audit, ...resets.value]) : [],
)
function take(why: string): void {
  if (reason.value === '') reason.value = why
}

function mend(finding: Finding): void {
  void loop.mend(finding)
  if (reason.value === '') reason.value = finding.fix?.label ?? ''
}
const next = computed(() => {
  if (!loop.draft || loop.draft.path.length === 0) return 'Nothing to scale on a loop that switches.'
  if (view.value === 'locate' && !loop.dirty)
    return (
      readNext.value ??
      'Type what was really measured, at two levels or more; the line steps where the error comes in.'
    )
  if (loop.wrong.size > 0) return `Mend first: ${[...loop.wrong.values()][0]}`
  if (loop.dirty)
    return `${loop.changes.length} ${loop.changes.length === 1 ? 'change' : 'changes'} not saved: ${loop.changes.map((c) => c.name).join('; ')}.`
  if (findings.value.some((f) => f.severity === 'stop'))
    return 'The ranges disagree. Take the fix beside the finding, or change the range.'
  const assumed = loop.draft.unconfirmed.filter((f) => f.startsWith('path.')).length
  if (assumed > 0)
    return `${assumed} ${assumed === 1 ? 'value is' : 'values are'} assumed. Confirm or change the outlined ones.`
  return 'Ranges agree along the whole line. Verify is next.'
})
</script>

<template>
  <BenchFrame v-if="loop.draft && loop.detail">
    <BenchViews v-model="view" :views="views" />
    <div v-if="view !== 'ranges'" class="page stack">
      <LocatePanel
        v-if="view === 'locate'"
        :readonly="!session.mayWrite"
        @mend="mend"
        @next="readNext = $event"
      />
      <RangeWork v-else :readonly="!session.mayWrite" @taken="take" />
    </div>
    <BenchSplit v-else work="Ranges" beside="Findings and values" fold="Findings and pocket card">
      <template #work>
        <p v-if="loop.draft.path.length === 0">
          This loop switches; it has no measuring range and so no signal path to compute.
        </p>
        <RangeForm :readonly="!session.mayWrite" />
        <StagesForm v-if="loop.draft.path.length > 0" :readonly="!session.mayWrite" />
      </template>
      <template #beside>
        <h2 class="wide-only">What the ranges tell</h2>
        <FindingRow v-for="f in findings" :key="f.code" :finding="f" @fix="mend" />
        <FindingRow
          v-if="loop.facts && findings.length === 0 && loop.draft.path.length > 0 && loop.wrong.size === 0"
          :finding="{
            code: 'AGREE',
            severity: 'good',
            where: [],
            says: 'Transmitter and receivers agree in range, unit, direction and function.',
          }"
        />
        <PocketCard
          v-if="loop.draft.path.length > 0 && loop.wrong.size === 0"
          :stages="loop.draft.path"
          :loop-id="loop.detail.id"
        />
      </template>
    </BenchSplit>
    <template #foot><SaveBar v-model="reason" :next="next" /></template>
  </BenchFrame>
</template>
