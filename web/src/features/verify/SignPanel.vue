<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { maybeSamePerson } from '@calm/core/signing/authors'
import type { Run } from '@calm/core/record/run'
import { contentsText } from '@calm/core/record/signing/statement'
import { saySignaturesMissing, signaturesAsked } from '@calm/core/record/signing/asked'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { SigningProblem } from '@calm/core/record/may-sign'
import { useEquipment } from '../../api/equipment.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import SignatureList from '../../loop/SignatureList.vue'

// Only who signs needs it.
const SignDialog = defineAsyncComponent(() => import('../../loop/SignDialog.vue'))
const SignedRecord = defineAsyncComponent(() => import('./SignedRecord.vue'))

/** Signatures: the technician's, then another person's as reviewer, or its return with a reason. */
const { run, names, open, runId, loop, family, verdicts, record } = defineProps<{
  run: Run
  verdicts: readonly string[]
  runId: string
  loop: { readonly id: string; readonly tag: string }
  /** What kind of meter it is. */
  family: string | null
  /** Sends a signed event. @returns what is against it, or null */
  record: (body: RunEventBody, made: { id: string; at: string }) => Promise<string | null>
  names: ReadonlyMap<string, string>
  /** What stands between the record and its signature. */
  open: readonly SigningProblem[]
}>()
const emit = defineEmits<{ happen: [body: RunEventBody] }>()
const session = useSession()
/** What the open dialog signs as; null while none is open. */
const signing = ref<'technician' | 'reviewer' | null>(null)
const reason = ref('')
const { instruments } = useEquipment()
const named = ref<string[]>([])
const choices = computed(() => instruments.value.map((e) => ({ value: e.id, title: e.name })))
const rules = useLive(settings.rules, {})
/** Signatures that the plant still asks for on this kind of meter, in words. */
const missing = computed(() =>
  rules.data.value && run.signatures.length > 0
    ? saySignaturesMissing(run.signatures.length, signaturesAsked(rules.data.value, family))
    : null,
)
const mayReview = computed(
  () =>
    (run.state === 'signed' || missing.value !== null) &&
    run.signatures.length > 0 &&
    session.isReviewer &&
    !run.signatures.some((s) => maybeSamePerson(s.by, session.person?.id ?? '')),
)

function name(): void {
  if (named.value.length === 0) return
  emit('happen', { type: 'equipment.named', payload: { equipment: named.value } })
  named.value = []
}
function giveBack(): void {
  if (reason.value.trim() === '') return
  emit('happen', { type: 'returned', payload: { reason: reason.value.trim() } })
  reason.value = ''
}
</script>

<template>
  <section
    v-if="run.signatures.length > 0 || run.state === 'ready'"
    class="stack sign"
    aria-label="Signatures"
  >
    <h2>Signatures</h2>
    <SignatureList :signatures="run.signatures" :names="names" />
    <p v-if="missing" class="quiet">{{ missing }}</p>
    <ul v-if="run.state === 'ready' && open.length > 0" class="open" aria-label="Before it can be signed">
      <li v-for="p in open" :key="p.says">{{ p.says }}</li>
    </ul>
    <div v-if="run.state === 'ready' && session.mayWrite && run.equipment.length === 0" class="row">
      <v-select
        v-model="named"
        :items="choices"
        label="Instruments that were used"
        multiple
        chips
        class="text"
      />
      <v-btn height="48" :disabled="named.length === 0" @click="name">Name them</v-btn>
    </div>
    <div v-if="run.state === 'ready' && session.mayWrite" class="row">
      <v-btn
        color="primary"
        variant="flat"
        height="48"
        :disabled="open.length > 0"
        @click="signing = 'technician'"
        >Look it through and sign</v-btn
      >
    </div>
    <div v-if="mayReview" class="row">
      <v-btn color="primary" variant="flat" height="48" @click="signing = 'reviewer'"
        >Look it through and countersign</v-btn
      >
      <v-text-field
        v-if="run.state === 'signed'"
        v-model="reason"
        label="or return it, because"
        maxlength="500"
        class="text"
      />
      <v-btn v-if="run.state === 'signed'" :disabled="reason.trim() === ''" @click="giveBack">Return</v-btn>
    </div>
    <SignDialog
      v-if="signing"
      :run-id="runId"
      :loop="loop"
      :as="signing"
      :signatures="run.signatures"
      :contents="(around) => contentsText(run, around)"
      :record="(payload, made) => record({ type: 'signed', payload }, made)"
      @close="signing = null"
    >
      <SignedRecord :run="run" :verdicts="verdicts" />
    </SignDialog>
  </section>
</template>

<style scoped>
.sign {
  border-top: var(--line) solid var(--hair);
  padding-top: 12px;
}
.open {
  padding: 8px 12px 8px 28px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
.text {
  flex: 1 1 200px;
}
</style>
