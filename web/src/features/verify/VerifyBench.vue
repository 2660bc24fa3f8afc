<script setup lang="ts">
import { runs as runsAt, urlOf } from '@calm/contract/api/addresses'
import { allowedOver, errorChart } from '@calm/core/verify/error-chart'
import { mdiDownload, mdiTrayArrowDown } from '@mdi/js'
import type { Column, Phase } from '@calm/core/record/kinds/reading-values'
import type { Finding } from '@calm/core/finding'
import { isForeignAuthor } from '@calm/core/signing/authors'
import { signingProblems } from '@calm/core/record/may-sign'
import { openQuestions } from '@calm/core/record/open-questions'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import type { RowValues } from '@calm/core/record/run'
import { partsChart, trimEffect } from '@calm/core/verify/parts-chart'
import { sayTolerance } from '@calm/core/verify/tolerance'
import { sayPct, verdictOf } from '@calm/core/verify/verdict'
import type { QuickRow } from '@calm/core/scale/diagnosis/quick'
import { loopScale } from '@calm/core/verify/reading-errors'
import type { ReadReadings } from '@calm/core/verify/read-readings'
import { computed, defineAsyncComponent, onScopeDispose, ref, useTemplateRef, watchEffect } from 'vue'
import { useSession } from '../../api/session-store.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import BenchViews from '../../loop/BenchViews.vue'
import EarlierLine from '../../loop/EarlierLine.vue'
import { useLoop } from '../../loop/loop-store.ts'
import { useView } from '../../loop/use-view.ts'
import { VERDICT_SHORT } from '../../ui/verdict.ts'
import ChartView from '../../ui/ChartView.vue'
import NextBar from '../../ui/NextBar.vue'
import { carriedRow } from './carried-row.ts'
import { keptQuickly, QUICK_PLAN } from './kept-quickly.ts'
import { useRunAsked } from '../../loop/run-asked.ts'
import { columnsOf, nextStep, phaseOpen, phaseShown, setting, toSet } from './phases.ts'
import ReadingsTable from './ReadingsTable.vue'
import SignPanel from './SignPanel.vue'
import { useReadingNotes } from './use-reading-notes.ts'
import { useVerification, type Agreed } from './use-verification.ts'
import VerdictPanel from './VerdictPanel.vue'

// Needed only now and then: fetched when they are.
const NoteDialog = defineAsyncComponent(() => import('../../loop/NoteDialog.vue'))
const ImportReadings = defineAsyncComponent(() => import('./ImportReadings.vue'))
const ComparisonBench = defineAsyncComponent(() => import('./ComparisonBench.vue'))
const IntervalAdvice = defineAsyncComponent(() => import('../../loop/IntervalAdvice.vue'))
const InputBench = defineAsyncComponent(() => import('./InputBench.vue'))
const LoopLogs = defineAsyncComponent(() => import('./LoopLogs.vue'))
const QuickBench = defineAsyncComponent(() => import('./QuickBench.vue'))
const StartRun = defineAsyncComponent(() => import('./StartRun.vue'))

const loop = useLoop()
const session = useSession()
const v = useVerification(() => loop.detail, useRunAsked())
const starting = ref(false)
/** What has a reference in service is also held against it: in the unit that the loop shows. */
const comparable = computed(() => {
  const { family = null, shows = null } = loop.facts ?? {}
  return family && family.references.length > 0 ? shows : null
})
/** What the set-up tells of a temperature sensor; what nobody typed is nobody's word. */
const sensor = computed(() => {
  const { family, values, entries } = loop.facts ?? {}
  return family?.id === 'temperature' && entries?.['sensor'] === 'typed' ? String(values?.['sensor']) : null
})
type View = 'standard' | 'quickly' | 'reference' | 'logs'
const ready = computed(() => loop.detail !== null && loop.detail.document.path.length > 0)
const views = computed((): { id: View; title: string }[] =>
  ready.value
    ? [
        { id: 'standard', title: 'By a standard' },
        { id: 'quickly', title: 'Quickly' },
        ...(comparable.value ? [{ id: 'reference' as const, title: 'Against a reference' }] : []),
        { id: 'logs', title: 'Logs' },
      ]
    : [],
)
const view = useView<View>(views, 'standard')
const importing = ref(false)
const adjustment = ref('')
/** What is judged, as it is looked through before it is signed. */
const verdicts = computed(() =>
  [v.asFound.value, v.run.value?.leftAsFound ? null : v.asLeft.value].flatMap((j) => j?.sentence ?? []),
)
/** A signature is stored or refused at once: it is told in its own dialog. */
async function signNow(body: RunEventBody, made: { id: string; at: string }): Promise<string | null> {
  if (await v.happenNow(body, made)) return null
  const says = v.refusal.value ?? 'It was not stored. Try again.'
  v.refusal.value = null
  return says
}
const table = useTemplateRef('table')
const start = useTemplateRef<{ begin: () => void }>('start')

const scale = computed(() => loopScale(v.stages.value))
/** A new run is on the path as it is now, whatever the last one was on. */
const startScale = computed(() => loopScale(loop.detail?.document.path ?? []))
const showStart = computed(
  () => v.loaded.value && session.mayWrite && ready.value && (starting.value || v.run.value === null),
)
const finished = computed(
  () => v.run.value !== null && ['signed', 'countersigned'].includes(v.run.value.state),
)
/** Another verification can be begun: the last one is at its end. */
const isOver = computed(
  () => v.run.value !== null && ['ready', 'signed', 'countersigned'].includes(v.run.value.state),
)
/** The readings on screen: the phase that is being taken, afterwards the one that was asked for. */
const asked = ref<Phase | null>(null)
const phase = computed(() => phaseShown(v.run.value, asked.value))
const openPhase = computed(() => phaseOpen(v.run.value, asked.value, session.mayWrite))
const columns = computed(() => (v.run.value ? columnsOf(v.run.value, v.stages.value) : []))
const judgement = computed(() => (phase.value === 'asFound' ? v.asFound.value : v.asLeft.value))
const doubts = computed(() => {
  const by: Record<number, Finding[]> = {}
  for (const q of v.run.value ? openQuestions(v.run.value, v.stages.value, phase.value) : [])
    (by[q.index] ??= []).push(q.finding)
  return by
})
/** The rows on screen: as left may be as found, by reference. */
const shownPhase = computed((): Phase => (v.run.value?.leftAsFound ? 'asFound' : phase.value))
const rowsShown = computed(() => v.run.value?.[shownPhase.value] ?? {})
/** While a new verification is being agreed, the last one's readings are not on the line. */
watchEffect(() => {
  const apart = showStart.value || view.value !== 'standard'
  loop.carried = apart ? null : carriedRow(v.run.value, shownPhase.value)
})
onScopeDispose(() => (loop.carried = null))
const noted = useReadingNotes(() => {
  const [here, run, id] = [loop.detail, v.run.value, v.runId.value]
  return here && run && id !== null
    ? { loop: here.id, run: id, phase: shownPhase.value, plan: run.plan, read: rowsShown.value }
    : null
})
const open = computed(() => v.run.value && signingProblems(v.run.value, v.stages.value))
function confirm(index: number, columns: Column[]): void {
  v.happen({ type: 'reading.confirmed', payload: { phase: shownPhase.value, index, columns } })
}
const chart = computed(() => {
  const run = v.run.value
  const allowed = run && scale.value ? allowedOver(scale.value, run.started.tolerance, run.plan) : []
  return errorChart(v.asFound.value, run?.leftAsFound ? null : v.asLeft.value, allowed)
})
/** For who does not look at the screen: what the last stored reading came to, and the verdict as it stands. */
const spoken = computed(() => {
  const last = judgement.value?.points.filter((p) => p.loop_pct !== null).at(-1)
  const verdict = verdictOf(judgement.value)
  return last && judgement.value
    ? `Point ${last.index + 1} stored: ${sayPct(last.loop_pct)} % of span. ${verdict ? `So far ${VERDICT_SHORT[verdict]}.` : judgement.value.sentence}`
    : ''
})
const parts = computed(() => judgement.value && partsChart(judgement.value))
const effect = computed(() =>
  v.asFound.value && v.asLeft.value && v.run.value && !v.run.value.leftAsFound
    ? trimEffect(v.asFound.value, v.asLeft.value)
    : [],
)
const missing = computed(() => judgement.value?.missing ?? v.run.value?.plan.map((p) => p.index) ?? [])

function begin(agreed: Agreed): void {
  v.start(agreed)
  starting.value = false
  asked.value = null
}
function record(index: number, values: RowValues): boolean {
  return v.happen({ type: 'reading.recorded', payload: { phase: phase.value, index, values } })
}
/** What was read in a hurry is the as-found of a verification; its instruments are named before it is signed. */
function keepQuick(rows: readonly QuickRow[]): void {
  const s = startScale.value
  if (!s) return
  begin({ plan: QUICK_PLAN, equipment: [], U_pct: 0, rule: 'simple' })
  for (const { index, values } of keptQuickly(s, rows))
    v.happen({ type: 'reading.recorded', payload: { phase: 'asFound', index, values } })
  view.value = 'standard'
}
function take(read: ReadReadings): void {
  for (const { index, values } of read.rows) {
    const set = values.applied && setting(values.applied, columns.value[0])
    const taken: RowValues = { ...values, applied: set }
    if (Object.keys(taken).length > 0) record(index, taken)
  }
  importing.value = false
}
function close(): void {
  table.value?.commitAll()
  if ((table.value?.wrong.length ?? 0) > 0) return
  v.happen({ type: 'phase.closed', payload: { phase: phase.value } })
  asked.value = null
}
function noteAdjustment(): void {
  if (adjustment.value.trim() === '') return
  v.happen({ type: 'adjusted', payload: { note: adjustment.value.trim() } })
  adjustment.value = ''
  asked.value = 'asLeft'
}
function nothingAdjusted(): void {
  v.happen({ type: 'left.asFound', payload: {} })
}

const next = computed(() =>
  nextStep({
    run: v.run.value,
    hasTolerance: loop.detail?.document.tolerance != null,
    mayWrite: session.mayWrite,
    isReviewer: session.isReviewer,
    choosing: showStart.value,
    asked: asked.value,
    missing: missing.value.length,
    unsigned: open.value?.[0]?.says ?? null,
    since: loop.detail?.summary.olderThanLoss
      ? 'loss'
      : loop.detail?.summary.olderThanTrim
        ? 'trim'
        : undefined,
  }),
)
</script>

<template>
  <InputBench v-if="loop.detail && !ready" />
  <template v-else>
    <BenchViews v-model="view" :views="views" />
    <ComparisonBench
      v-if="view === 'reference' && comparable"
      :unit="comparable.unit"
      :allowed-pct="loop.detail?.document.tolerance?.pctSpan || 1"
    />
    <LoopLogs v-else-if="view === 'logs' && loop.detail" :tag="loop.detail.tag" />
    <QuickBench
      v-else-if="view === 'quickly' && loop.detail"
      :stages="loop.detail.document.path"
      :tolerance="loop.detail.document.tolerance"
      :needs-root="loop.facts?.needsRoot === true"
      :absolute="loop.facts?.pressureKind === 'absolute'"
      :may-write="session.mayWrite"
      :under-way="v.run.value !== null && !isOver"
      @keep="keepQuick"
    />
    <BenchFrame v-else>
      <p class="visually-hidden" aria-live="polite">{{ spoken }}</p>
      <div v-if="showStart" class="page">
        <StartRun
          v-if="loop.detail?.document.tolerance && startScale"
          ref="start"
          :scale="startScale"
          :tolerance="loop.detail.document.tolerance"
          :sensor="sensor"
          :last="v.run.value?.started ?? null"
          @start="begin"
        />
        <p v-if="v.trouble.value" role="alert" class="trouble">{{ v.trouble.value }}</p>
      </div>
      <BenchSplit v-else work="Readings" beside="Judgement" fold="Verdict and plot" work-first even>
        <template #work>
          <p v-if="v.trouble.value" role="alert" class="trouble">{{ v.trouble.value }}</p>
          <template v-if="v.run.value && v.runId.value && scale">
            <EarlierLine v-if="v.isEarlier.value" what="verification" :at="v.run.value.startedAt" />
            <div class="row">
              <h2>{{ phase === 'asFound' ? 'As found' : 'As left' }}</h2>
              <span class="gap" />
              <template v-if="v.run.value.state !== 'asFound' && !v.run.value.leftAsFound">
                <v-btn variant="text" :aria-pressed="phase === 'asFound'" @click="asked = 'asFound'"
                  >As found</v-btn
                >
                <v-btn
                  v-if="v.run.value.state !== 'adjust' || v.run.value.adjustments.length > 0"
                  variant="text"
                  :aria-pressed="phase === 'asLeft'"
                  @click="asked = 'asLeft'"
                  >As left</v-btn
                >
              </template>
              <v-btn v-if="session.mayWrite && v.unsent.value === 0" variant="text" @click="noted.write()"
                >Note at a reading</v-btn
              >
              <v-btn v-if="openPhase" :prepend-icon="mdiTrayArrowDown" @click="importing = true"
                >Import readings</v-btn
              >
            </div>
            <p v-if="isForeignAuthor(v.run.value.startedBy)" class="returned">
              Foreign: this verification came with a package, begun by
              {{ v.names.value.get(v.run.value.startedBy) }}. Nobody here vouches for it: verify the loop
              yourself.
            </p>
            <p v-if="v.run.value.started.deviation" class="returned">
              Judged by
              {{ sayTolerance(v.run.value.started.tolerance, v.run.value.started.outputRange.unit) }}, not by
              the recorded tolerance: {{ v.run.value.started.deviation.reason }}
            </p>
            <p v-for="(r, i) in v.run.value.returned" :key="i" class="returned">
              Returned by the reviewer: {{ r.reason }}
            </p>
            <ReadingsTable
              ref="table"
              :key="`${v.runId.value}/${phase}`"
              :plan="v.run.value.plan"
              :rows="rowsShown"
              :columns="columns"
              :applied="(level) => (scale && v.run.value ? toSet(v.run.value.started, scale, level) : 0)"
              :judgement="judgement"
              :doubts="doubts"
              :notes="noted.notes.value"
              :loop="v.run.value && loop.detail ? loop.detail.id : ''"
              :readonly="openPhase !== phase"
              :draft-key="`calm-cells/${v.runId.value}/${phase}/${session.person?.id}`"
              :label="phase === 'asFound' ? 'As found' : 'As left'"
              :may-confirm="session.mayWrite && !finished"
              :record="record"
              @confirm="confirm"
            />
            <ul v-if="v.run.value.adjustments.length > 0" class="plain">
              <li v-for="(a, i) in v.run.value.adjustments" :key="i">
                <strong>Adjusted:</strong> {{ a.note }}
              </li>
            </ul>
          </template>
          <p v-else-if="!v.loaded.value" class="quiet">Reading the record …</p>
        </template>
        <template #beside>
          <template v-if="v.run.value">
            <ChartView :chart="chart" :height="280" />
            <VerdictPanel
              v-if="v.asLeft.value && !v.run.value.leftAsFound"
              :judgement="v.asLeft.value"
              title="As left"
            />
            <VerdictPanel
              v-if="v.asFound.value"
              :judgement="v.asFound.value"
              :advice="v.advice.value"
              title="As found"
            />
            <ul v-if="effect.length > 0" class="plain" aria-label="What the adjustment did">
              <li v-for="line in effect" :key="line">{{ line }}</li>
            </ul>
            <ChartView v-if="parts" :chart="parts" :height="200" />
            <SignPanel
              v-if="v.runId.value && loop.detail"
              :run="v.run.value"
              :run-id="v.runId.value"
              :loop="loop.detail"
              :family="loop.detail.document.family"
              :names="v.names.value"
              :open="open ?? []"
              :verdicts="verdicts"
              :record="signNow"
              @happen="v.happen"
            />
            <IntervalAdvice v-if="finished && loop.detail" :loop-id="loop.detail.id" />
            <div v-if="v.unsent.value === 0 && v.runId.value" class="row no-print">
              <v-btn :href="urlOf(runsAt.certificate, { run: v.runId.value })" :prepend-icon="mdiDownload">{{
                finished ? 'Certificate (PDF)' : 'Draft certificate (PDF)'
              }}</v-btn>
              <v-btn :href="urlOf(runsAt.readings, { run: v.runId.value })" :prepend-icon="mdiDownload"
                >Readings (CSV)</v-btn
              >
            </div>
          </template>
        </template>
      </BenchSplit>
      <template #foot>
        <NextBar :next="next" :stored="v.stored.value" :refusal="v.refusal.value">
          <template v-if="session.mayWrite && ready">
            <v-btn
              v-if="showStart && loop.detail?.document.tolerance"
              color="primary"
              variant="flat"
              height="48"
              :disabled="!start"
              @click="start?.begin()"
              >Begin</v-btn
            >
            <v-btn v-if="showStart && v.run.value" variant="text" @click="starting = false">Not now</v-btn>
            <template v-else-if="!showStart && v.run.value">
              <v-btn
                v-if="openPhase"
                :color="missing.length === 0 ? 'primary' : undefined"
                :variant="missing.length === 0 ? 'flat' : 'outlined'"
                height="48"
                @click="close"
              >
                Close {{ phase === 'asFound' ? 'as found' : 'as left' }}
              </v-btn>
              <template v-if="v.run.value.state === 'adjust' && asked !== 'asLeft'">
                <v-btn v-if="v.run.value.adjustments.length === 0" @click="nothingAdjusted"
                  >Nothing was adjusted</v-btn
                >
                <v-text-field
                  v-model="adjustment"
                  class="adjust"
                  label="What was adjusted"
                  maxlength="500"
                  @keydown.enter="noteAdjustment"
                />
                <v-btn
                  color="primary"
                  variant="flat"
                  height="48"
                  :disabled="adjustment.trim() === ''"
                  @click="noteAdjustment"
                  >Record and read as left</v-btn
                >
              </template>
              <v-btn v-if="finished" color="primary" variant="flat" height="48" @click="starting = true"
                >New verification</v-btn
              >
            </template>
          </template>
        </NextBar>
      </template>
      <NoteDialog
        v-if="noted.writing.value && loop.detail"
        :detail="loop.detail"
        :reading="noted.writing.value"
        @close="noted.kept()"
      />
      <ImportReadings
        v-if="importing && v.run.value && columns[0]"
        :units="{
          input: v.run.value.started.inputRange.unit,
          output: v.run.value.started.outputRange.unit,
        }"
        :plan="v.run.value.plan"
        :applied="columns[0]"
        @take="take"
        @close="importing = false"
      />
    </BenchFrame>
  </template>
</template>

<style scoped>
.gap {
  flex: 1;
}
.trouble {
  color: var(--stop);
}
.returned {
  background: var(--look-surface);
  padding: 8px 12px;
  border-radius: var(--corner);
}
.plain {
  list-style: none;
  padding: 0;
}
.adjust {
  flex: 1 1 240px;
  max-width: 340px;
}
.v-btn[aria-pressed='true'] {
  color: var(--accent);
  text-decoration: underline;
}
</style>
