<script setup lang="ts">
import type { AnswerOf } from '@calm/contract/api/api'
import { loops, packages, runs as runsAt, urlOf } from '@calm/contract/api/addresses'
import type { Revision } from '@calm/contract/loops'
import { mdiDownload } from '@mdi/js'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { call, callFile, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useLongWork } from '../../api/long-work.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import { sayInstant } from '../../ui/dates.ts'
import LongWorkLine from '../../ui/LongWorkLine.vue'
import NextBar from '../../ui/NextBar.vue'
import { saveBlob } from '../../ui/save-file.ts'
import StateMark from '../../ui/StateMark.vue'
import { runMark } from '../../ui/run-mark.ts'
import DriftPanel from './DriftPanel.vue'
import { endWords, peopleIn, shownEntries, timeline, type EntryKind } from './timeline.ts'

const loop = useLoop()
const session = useSession()
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
const KINDS: readonly { value: EntryKind | 'all'; title: string }[] = [
  { value: 'all', title: 'Everything' },
  { value: 'revision', title: 'Revisions' },
  { value: 'verification', title: 'Verifications' },
  { value: 'procedure', title: 'Procedures' },
  { value: 'note', title: 'Notes' },
  { value: 'other', title: 'What else was recorded' },
]
const kind = ref<EntryKind | 'all'>('all')
const person = ref<string | null>(null)
const people = computed(() => [
  { value: null, title: 'Everybody' },
  ...peopleIn(entries.value).map((name) => ({ value: name, title: name })),
])
const shown = computed(() => shownEntries(entries.value, { kind: kind.value, by: person.value }))

/** The revision that is about to be made the newest one again. */
const restoring = shallowRef<{ number: number; document: Revision['document'] } | null>(null)
const why = ref('')
async function restore(): Promise<void> {
  const { value: old } = restoring
  if (!old || why.value.trim() === '' || loop.dirty) return
  notRestored.value = null
  loop.change(() => old.document)
  if (await loop.save(`As revision ${old.number} again: ${why.value.trim()}`)) {
    restoring.value = null
    why.value = ''
    return
  }
  // Nothing half restored stays behind.
  notRestored.value = loop.clash
    ? `${loop.clash.theirs.by} saved revision ${loop.clash.theirs.number} meanwhile. Look at it, then restore again.`
    : (loop.problem?.message ?? null)
  loop.discard()
}
const notRestored = ref<string | null>(null)
const opened = ref(false)
/** On paper everything is open. */
async function print(): Promise<void> {
  opened.value = true
  await nextTick()
  window.print()
}
/** How a run is marked, once there is something to mark. */
/** Where it is looked at in full, signed and countersigned. */
const benchOf = (tag: string, run: { readonly id: string; readonly kind: string }) => ({
  path: `/loops/${tag}/${run.kind === 'procedure' ? 'trim' : 'verify'}`,
  query: { run: run.id },
})
</script>

<template>
  <BenchFrame>
    <BenchSplit work="Record" beside="Over the years" fold="Drift over the years" work-first even>
      <template #work>
        <h2 class="visually-hidden">What was done</h2>
        <div class="row no-print filters">
          <v-select v-model="kind" :items="KINDS" label="Show" density="compact" class="filter" />
          <v-select v-model="person" :items="people" label="By" density="compact" class="filter" />
          <v-btn variant="text" class="print" @click="print">Print</v-btn>
        </div>
        <h2 class="print-only">
          Record of <span class="mono">{{ loop.detail?.tag }}</span>, {{ loop.detail?.service }}
        </h2>
        <p v-if="notRestored" role="alert" class="trouble">{{ notRestored }}</p>
        <p v-if="shown.length === 0 && entries.length > 0" class="quiet">
          Nothing of that kind is recorded here.
        </p>
        <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
        <LongWorkLine :work="packing" doing="Printing its certificates" />
        <ol class="timeline">
          <li v-for="e in shown" :key="e.id">
            <div class="when small quiet">{{ sayInstant(e.at) }}<br />{{ e.by }}</div>
            <div class="what">
              <h3>
                {{ e.title }}<template v-if="e.run">, {{ endWords(e.run) }}</template>
              </h3>
              <p v-for="line in e.says ?? []" :key="line">{{ line }}</p>
              <div v-if="e.pictures && e.pictures.length > 0 && loop.detail" class="row">
                <a
                  v-for="(p, i) in e.pictures"
                  :key="p"
                  :href="urlOf(loops.picture, { loop: loop.detail.id, picture: p })"
                  target="_blank"
                  ><img
                    :src="urlOf(loops.picture, { loop: loop.detail.id, picture: p })"
                    :alt="`Picture ${i + 1} of the note of ${sayInstant(e.at)}`"
                    class="picture"
                    loading="lazy"
                /></a>
              </div>
              <p v-for="mark in e.marks ?? []" :key="mark">
                <StateMark state="look" :word="mark" />
              </p>
              <template v-if="e.revision">
                <p v-if="e.revision.reason" class="quiet">{{ e.revision.reason }}</p>
                <template v-for="g in e.revision.changes" :key="g.bench">
                  <h4 class="small">{{ g.bench }}</h4>
                  <ul class="changes">
                    <li v-for="c in g.changes" :key="c.name">
                      {{ c.name }}: <span class="mono">{{ c.before }}</span> →
                      <span class="visually-hidden">is now</span> <span class="mono">{{ c.after }}</span>
                    </li>
                  </ul>
                </template>
                <template v-if="session.mayWrite && e.revision.number !== loop.detail?.revision">
                  <div v-if="restoring?.number === e.revision.number" class="stack no-print">
                    <v-text-field
                      v-model="why"
                      label="Why it is made the newest again"
                      maxlength="240"
                      autofocus
                      @keydown.enter="restore"
                    />
                    <p v-if="loop.dirty" class="trouble">
                      Changes on this loop are not saved. Save or discard them first.
                    </p>
                    <div class="row">
                      <v-btn
                        :disabled="why.trim() === '' || loop.dirty"
                        :loading="loop.saving"
                        @click="restore"
                        >Save as the newest revision</v-btn
                      >
                      <v-btn variant="text" @click="restoring = null">Leave it</v-btn>
                    </div>
                  </div>
                  <v-btn
                    v-else
                    variant="text"
                    class="no-print"
                    @click="restoring = { number: e.revision.number, document: e.revision.document }"
                    >Restore revision {{ e.revision.number }}</v-btn
                  >
                </template>
              </template>
              <details v-if="e.story && e.story.length > 0" :open="opened">
                <summary>
                  {{ e.story.length }} {{ e.story.length === 1 ? 'step' : 'steps' }}, with readings, names and
                  times
                </summary>
                <ol class="story small">
                  <li v-for="s in e.story" :key="s.id">
                    <span class="quiet">{{ sayInstant(s.at) }}, {{ s.by }}</span>
                    <strong>{{ s.title }}</strong>
                    <span v-for="(line, i) in s.says" :key="i" class="line">{{ line }}</span>
                  </li>
                </ol>
              </details>
              <div v-if="e.run" class="row">
                <StateMark v-if="e.run.verdict !== null" v-bind="runMark(e.run)" />
                <v-btn
                  v-if="loop.detail"
                  variant="text"
                  class="no-print"
                  :to="benchOf(loop.detail.tag, e.run)"
                  >{{ e.run.kind === 'procedure' ? 'Open on Trim' : 'Open on Verify' }}</v-btn
                >
                <v-btn
                  variant="text"
                  :href="urlOf(runsAt.certificate, { run: e.run.id })"
                  :prepend-icon="mdiDownload"
                  >{{ e.run.kind === 'procedure' ? 'Report as PDF' : 'Certificate' }}</v-btn
                >
                <v-btn
                  v-if="e.run.kind === 'verification'"
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
      <template #beside
        ><DriftPanel
          v-if="loop.detail"
          :loop-id="loop.detail.id"
          :tag="loop.detail.tag"
          :measures="loop.detail.document.path.length > 0"
      /></template>
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
.picture {
  max-width: 180px;
  max-height: 140px;
  border-radius: var(--corner);
}
.filter {
  flex: 0 1 220px;
}
.story {
  padding-left: 20px;
}
.story li {
  padding: 4px 0;
}
.story strong {
  display: block;
  font-weight: 600;
}
.line {
  display: block;
}
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
  .filters {
    flex-wrap: nowrap;
    gap: 8px;
  }
  .filter {
    flex: 1 1 0;
    min-width: 0;
  }
  .print {
    min-width: 0;
    padding: 0 8px;
  }
  .timeline > li {
    grid-template-columns: 1fr;
    gap: 4px;
  }
}
</style>
