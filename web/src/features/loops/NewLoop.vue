<script setup lang="ts">
import { loops, settings } from '@calm/contract/api/addresses'
import { NOTHING_SAID } from '@calm/core/loop/usual'
import { LIST_COLUMNS, type ListColumn } from '@calm/core/loop-list/columns'
import { readRow, type Cells } from '@calm/core/loop-list/read-row'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'

/** One loop by hand: the same cells as a row of the plant's list, read the same way. */
const open = defineModel<boolean>({ required: true })
const { survey = undefined } = defineProps<{
  /** It is of a pipe of this survey: measured next, and by a portable meter. */
  survey?: string | undefined
}>()
const router = useRouter()
const ASKED: readonly ListColumn[] = [
  'tag',
  'service',
  'area',
  'floor',
  'type',
  'lrv',
  'urv',
  'unit',
  'signal',
  'tolerance',
  'interval',
]
const HINTS: Partial<Record<ListColumn, string>> = {
  type: 'pressure; level, radar; switch, inductive …',
  signal: '4-20 mA; PNP NO; dry contact NC …',
  floor: 'ground is 0, below it -1',
  lrv: 'the 4 mA point; empty for a switch',
  urv: 'the 20 mA point',
}
const fields = LIST_COLUMNS.filter((c) => ASKED.includes(c.id))
const EMPTY: Cells = { signal: '4-20 mA', ...(survey === undefined ? {} : { type: 'flow, clamp-on' }) }
const cells = ref<Cells>({ ...EMPTY })
const tried = ref(false)
const busy = ref(false)
const refusal = ref<string | null>(null)
let id = crypto.randomUUID()

const rules = useLive(settings.rules, {})
const read = computed(() => readRow(cells.value, rules.data.value ?? NOTHING_SAID))
/** What the plant's rule puts into a field that is left empty. */
const byRule = (column: ListColumn) =>
  read.value.findings.find((f) => f.severity === 'note' && f.where[0] === column)?.says
const wrong = (column: ListColumn) =>
  (tried.value && read.value.findings.find((f) => f.severity === 'stop' && f.where[0] === column)?.says) ||
  undefined
watch(open, (now) => {
  if (!now) return
  cells.value = { ...EMPTY }
  tried.value = false
  refusal.value = null
  id = crypto.randomUUID()
})

async function add(): Promise<void> {
  tried.value = true
  refusal.value = null
  const { document } = read.value
  if (!document || busy.value) return
  busy.value = true
  try {
    // The same identifier sent twice is stored once: a double click makes one loop.
    await call(loops.add, {}, { id, document })
    // The dialog stays until the bench is there: the second press of a hasty hand would open a row behind it.
    await router.push(
      survey === undefined
        ? { name: 'wire', params: { tag: document.tag } }
        : `/surveys/${survey}/${document.tag}/${crypto.randomUUID()}`,
    )
    open.value = false
  } catch (error) {
    refusal.value = error instanceof ApiProblem ? error.message : sayProblem(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <v-dialog v-model="open" persistent aria-labelledby="new-loop">
    <v-card>
      <form class="stack" novalidate @submit.prevent="add">
        <h2 id="new-loop">{{ survey === undefined ? 'A new loop' : 'A loop for this pipe' }}</h2>
        <div class="field-grid">
          <v-text-field
            v-for="f in fields"
            :key="f.id"
            v-model="cells[f.id]"
            :label="f.title"
            :error-messages="wrong(f.id)"
            :messages="byRule(f.id) ?? HINTS[f.id]"
            autocomplete="off"
          />
        </div>
        <p v-if="refusal" class="refusal" role="alert">{{ refusal }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" :loading="busy">{{
            survey === undefined ? 'Add the loop' : 'Add it and measure'
          }}</v-btn>
          <v-btn variant="text" @click="open = false">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.refusal {
  color: var(--stop);
}
</style>
