<script setup lang="ts">
import { plant, plantLog, urlOf } from '@calm/contract/api/addresses'
import type { PlantProof } from '@calm/contract/plant-log'
import { mdiDownload } from '@mdi/js'
import { ref, shallowRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { sayInstant } from '../../ui/dates.ts'
import StateMark from '../../ui/StateMark.vue'

/** Whether the whole plant is what was recorded: asked for, never assumed. */
const head = useLive(plantLog.head, {})
const proof = shallowRef<PlantProof | null>(null)
const says = ref<string | null>(null)
const busy = ref(false)
const at = ref('')

interface Held {
  readonly what: string
  readonly grew: boolean
  readonly says: string
}
const held = shallowRef<readonly Held[]>([])
/** So many of a file: the newest ones tell most. */
const MOST_HEADS = 20
/** Heads out of a file that was kept elsewhere, one a line, each held against the record of now. */
async function holdAgainst(files: File | File[] | null | undefined): Promise<void> {
  const file = Array.isArray(files) ? files[0] : files
  if (!file) return
  held.value = []
  says.value = null
  const lines = (await file.text()).split('\n').filter((l) => l.trim() !== '')
  for (const line of lines.slice(-MOST_HEADS))
    try {
      const kept = JSON.parse(line) as { at: string; size: number }
      const told = await call(plantLog.grown, {}, kept as never)
      held.value = [...held.value, { what: `${kept.size} entries of ${kept.at}`, ...told }]
    } catch (error) {
      const wrong = error instanceof SyntaxError ? 'This line holds no head.' : sayProblem(error)
      held.value = [...held.value, { what: line.slice(0, 40), grew: false, says: wrong }]
    }
}

async function prove(): Promise<void> {
  busy.value = true
  says.value = null
  try {
    proof.value = await call(plant.proof, {})
    at.value = new Date().toISOString()
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <section class="stack" aria-label="Proof">
    <p class="answer" role="status">
      <StateMark v-if="proof === null" state="notYet" word="Not proved" />
      <StateMark v-else-if="proof.mismatches.length === 0" state="good" word="Whole" />
      <StateMark
        v-else
        state="stop"
        :word="`${proof.mismatches.length} ${proof.mismatches.length === 1 ? 'thing is' : 'things are'} not what was recorded`"
      />
    </p>
    <p v-if="proof === null" class="quiet">
      The proof reads every record from its first event, tells every row anew and compares, checks every
      signature and makes the tree over all of it again.
    </p>
    <p v-else>
      {{ proof.loops }} {{ proof.loops === 1 ? 'loop' : 'loops' }} with {{ proof.events }} events,
      {{ proof.entries }} entries of the log and {{ proof.signatures }} signatures were looked at on
      {{ sayInstant(at) }}.
      {{
        proof.heads > 0
          ? `It was held against ${proof.heads === 1 ? 'the head' : `${proof.heads} heads`} kept beside the server.`
          : 'No head kept outside the database was there to hold it against: whether an older backup was put back is not judged.'
      }}
      <template v-if="proof.foreign > 0"
        >{{ proof.foreign }} events are foreign: they came with packages, and their makers are not known
        here.</template
      >
    </p>
    <ul v-if="proof && proof.mismatches.length > 0" class="mismatches" aria-label="What is not as recorded">
      <li v-for="(m, i) in proof.mismatches.slice(0, 200)" :key="i">
        <strong>{{ m.where }}{{ m.field ? `, ${m.field}` : '' }}</strong
        >: {{ m.says }}
      </li>
    </ul>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <div class="row">
      <v-btn color="primary" variant="flat" height="48" :loading="busy" @click="prove"
        >Prove the whole plant</v-btn
      >
    </div>
    <section v-if="head.data.value" class="stack" aria-label="The newest head">
      <h2>The newest head</h2>
      <p v-if="head.data.value.head === null" class="quiet">Nothing is sealed yet.</p>
      <template v-else>
        <dl class="head">
          <dt>Entries</dt>
          <dd class="mono">{{ head.data.value.head.size }}</dd>
          <dt>Sealed</dt>
          <dd>{{ sayInstant(head.data.value.head.at) }}</dd>
          <dt>Root</dt>
          <dd class="mono long">{{ head.data.value.head.root }}</dd>
          <dt>Plant’s key</dt>
          <dd class="mono long">{{ head.data.value.publicKey }}</dd>
        </dl>
        <p class="quiet">
          Keep heads where this database is not, on paper or with somebody else: whether an older backup was
          put back, or everything was made anew, shows by them alone. What was added after the last head that
          left the house, by somebody who has the server and everybody’s passwords, shows by nothing.
        </p>
        <div class="row">
          <v-btn height="48" :href="urlOf(plantLog.heads, {})" :prepend-icon="mdiDownload"
            >Heads to keep</v-btn
          >
          <v-file-input
            label="Hold heads that were kept against it"
            accept=".jsonl,.txt,.json"
            class="file"
            variant="outlined"
            hide-details
            prepend-icon=""
            :clearable="false"
            @update:model-value="holdAgainst"
          />
        </div>
        <ul v-if="held.length > 0" class="held" aria-label="Heads held against the record">
          <li v-for="(h, i) in held" :key="i">
            <StateMark :state="h.grew ? 'good' : 'stop'" :word="h.what" /> {{ h.says }}
          </li>
        </ul>
      </template>
    </section>
  </section>
</template>

<style scoped>
.head {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 6px 16px;
}
.long {
  overflow-wrap: anywhere;
}
.file {
  flex: 0 1 360px;
}
.held {
  padding-left: 20px;
}
.mismatches {
  padding: 12px 12px 12px 32px;
  background: var(--stop-surface);
  border-radius: var(--corner);
}
.wrong {
  color: var(--stop);
}
</style>
