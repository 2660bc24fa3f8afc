<script setup lang="ts">
import type { AnswerOf } from '@calm/contract/api/api'
import { loops, packages, runs as runsAt, urlOf } from '@calm/contract/api/addresses'
import type { VerdictClass } from '@calm/core/verify/verdict'
import { mdiDownload } from '@mdi/js'
import { computed, ref } from 'vue'
import { call, callFile, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useLongWork } from '../../api/long-work.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import { useLoop } from '../../loop/loop-store.ts'
import { sayInstant } from '../../ui/dates.ts'
import LongWorkLine from '../../ui/LongWorkLine.vue'
import NextBar from '../../ui/NextBar.vue'
import { saveBlob } from '../../ui/save-file.ts'
import { sayValue } from '../../ui/say-value.ts'
import StateMark from '../../ui/StateMark.vue'
import { VERDICT_SHORT, VERDICT_STATE } from '../../ui/verdict.ts'
import DriftPanel from './DriftPanel.vue'
import { STATE_WORDS, timeline } from './timeline.ts'

const loop = useLoop()
const here = computed(() => (loop.detail ? { loop: loop.detail.id } : null))
const [liveEvents, liveRevisions, liveRuns] = [
  useLive(loops.events, here),
  useLive(loops.revisions, here),
  useLive(loops.runs, here),
]
const events = computed(() => liveEvents.data.value ?? [])
const revisions = computed(() => liveRevisions.data.value ?? [])
const runs = computed(() => liveRuns.data.value ?? [])
const proof = ref<AnswerOf<typeof loops.proof> | null>(null)
const notProved = ref<string | null>(null)
const trouble = computed(
  () => notProved.value ?? liveEvents.says.value ?? liveRevisions.says.value ?? liveRuns.says.value,
)

async function prove(): Promise<void> {
  if (!here.value) return
  notProved.value = null
  try {
    proof.value = await call(loops.proof, here.value)
  } catch (error) {
    notProved.value = sayProblem(error)
  }
}

const packing = useLongWork()
/** Certificates of decades are printed for it: the page says how far it is. */
async function pack(): Promise<void> {
  const { detail } = loop
  if (!detail) return
  await packing.begin(async (given) => {
    saveBlob(`${detail.tag}-package.zip`, await callFile(packages.make, { loop: detail.id }, given))
  })
}

const entries = computed(() => timeline(revisions.value, runs.value, events.value))
</script>

<template>
  <BenchFrame>
    <BenchSplit work="Record" beside="Drift" fold="Drift over the years" work-first>
      <template #work>
        <h2>Record</h2>
        <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
        <LongWorkLine :work="packing" doing="Printing its certificates" />
        <ol class="timeline">
          <li v-for="e in entries" :key="e.title + e.at">
            <div class="when small quiet">{{ sayInstant(e.at) }}<br />{{ e.by }}</div>
            <div class="what">
              <h3>
                {{ e.title }}<template v-if="e.run">, {{ STATE_WORDS[e.run.state] }}</template>
              </h3>
              <p v-for="line in e.says ?? []" :key="line">{{ line }}</p>
              <p v-for="mark in e.marks ?? []" :key="mark">
                <StateMark state="look" :word="mark" />
              </p>
              <template v-if="e.revision">
                <p v-if="e.revision.reason" class="quiet">{{ e.revision.reason }}</p>
                <ul v-if="e.revision.changes.length > 0" class="changes">
                  <li v-for="c in e.revision.changes" :key="c.path">
                    {{ c.name }}: <span class="mono">{{ sayValue(c.before) }}</span> became
                    <span class="mono">{{ sayValue(c.after) }}</span>
                  </li>
                </ul>
              </template>
              <div v-if="e.run?.kind === 'verification'" class="row">
                <StateMark
                  v-if="e.run.verdict"
                  :state="VERDICT_STATE[e.run.verdict as VerdictClass]"
                  :word="VERDICT_SHORT[e.run.verdict as VerdictClass]"
                />
                <v-btn
                  variant="text"
                  :href="urlOf(runsAt.certificate, { run: e.run.id })"
                  :prepend-icon="mdiDownload"
                  >Certificate</v-btn
                >
                <v-btn
                  variant="text"
                  :href="urlOf(runsAt.readings, { run: e.run.id })"
                  :prepend-icon="mdiDownload"
                  >Readings</v-btn
                >
              </div>
            </div>
          </li>
        </ol>
      </template>
      <template #beside><DriftPanel v-if="loop.detail" :loop-id="loop.detail.id" /></template>
    </BenchSplit>
    <template #foot>
      <NextBar
        :next="
          proof === null
            ? `${events.length} events are recorded, each tied to the one before it by its hash.`
            : proof.kind === 'whole'
              ? `The record is complete and unchanged: ${proof.events} events${proof.foreign > 0 ? `, ${proof.foreign} of them foreign, by package` : ''}, ending in ${proof.head.slice(0, 12)}…`
              : proof.says
        "
      >
        <StateMark
          v-if="proof"
          :state="proof.kind === 'whole' ? 'good' : 'stop'"
          :word="proof.kind === 'whole' ? 'whole' : 'broken'"
        />
        <v-btn v-if="loop.detail" :prepend-icon="mdiDownload" :disabled="packing.busy.value" @click="pack"
          >Package (ZIP)</v-btn
        >
        <v-btn @click="prove">Prove the record</v-btn>
      </NextBar>
    </template>
  </BenchFrame>
</template>

<style scoped>
.timeline {
  list-style: none;
  padding: 0;
}
.timeline > li {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 20px;
}
.what {
  border-left: 2px solid var(--hair);
  padding: 0 0 20px 20px;
  position: relative;
}
.what::before {
  content: '';
  position: absolute;
  left: -6px;
  top: 6px;
  width: 10px;
  height: 10px;
  border-radius: 50%;
  background: var(--accent);
}
.changes {
  padding-left: 18px;
}
.trouble {
  color: var(--stop);
}
@media (max-width: 640px) {
  .timeline > li {
    grid-template-columns: 1fr;
    gap: 4px;
  }
}
</style>
