<script setup lang="ts">
import { overruledOf, RESULT_WORDS, type Outcome } from '@calm/core/procedure/outcome'
import type { ProcedureEventBody } from '@calm/core/procedure/events'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { sayStepDone } from '@calm/core/procedure/say-step'
import { procedureContentsText } from '@calm/core/record/signing/statement'
import { maybeSamePerson } from '@calm/core/signing/authors'
import type { Signing } from '@calm/core/signing/signing'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import SignatureList from '../../loop/SignatureList.vue'
import { sayDay, sayInstant } from '../../ui/dates.ts'

// Only who signs needs it.
const SignDialog = defineAsyncComponent(() => import('../../loop/SignDialog.vue'))

/** Signatures under a procedure that has ended: of who worked at it, then of others who looked it through. */
const { run, runId, title, outcome, loop, names, record } = defineProps<{
  run: ProcedureRun
  runId: string
  title: string
  outcome: Outcome | null
  loop: { readonly id: string; readonly tag: string }
  names: ReadonlyMap<string, string>
  /** Sends the signed event. @returns what is against it, or null */
  record: (body: ProcedureEventBody, made: { id: string; at: string }) => Promise<string | null>
}>()
const session = useSession()
const signing = ref<'technician' | 'reviewer' | null>(null)
const signatures = computed(() => run.signatures ?? [])
const me = computed(() => session.person?.id ?? '')
const may = computed((): typeof signing.value => {
  if (signatures.value.length === 0)
    return session.mayWrite && (run.runner === me.value || run.done.some((d) => d.by === me.value))
      ? 'technician'
      : null
  return session.isReviewer && !signatures.value.some((s) => maybeSamePerson(s.by, me.value))
    ? 'reviewer'
    : null
})
const against = computed(() =>
  overruledOf(run).map((o) => `${o.step.title}: done against a gate, because ${o.reason}`),
)
const send = (payload: Required<Signing>, made: { id: string; at: string }) =>
  record({ type: 'procedure.signed', payload }, made)
</script>

<template>
  <section class="stack" aria-label="Signatures">
    <SignatureList :signatures="signatures" :names="names" />
    <div v-if="may" class="row">
      <v-btn variant="outlined" height="48" @click="signing = may">{{
        may === 'technician' ? 'Look it through and sign' : 'Look it through and countersign'
      }}</v-btn>
    </div>
    <p v-else-if="signatures.length === 0" class="quiet">Not signed.</p>
    <SignDialog
      v-if="signing"
      :run-id="runId"
      :loop="loop"
      :as="signing"
      :signatures="signatures"
      :performed="run.state === 'done' ? undefined : 'Recorded as it happened.'"
      :contents="(around) => procedureContentsText(run, around)"
      :record="send"
      @close="signing = null"
    >
      <p>
        {{ title }} of {{ sayDay(run.startedAt.slice(0, 10)) }} on revision {{ run.started.revision
        }}<template v-if="run.started.withDevice">, <strong>simulated</strong></template
        ><template v-if="outcome">: {{ RESULT_WORDS[outcome.result] }}</template
        >.
      </p>
      <p v-for="line in outcome?.says ?? []" :key="line">{{ line }}</p>
      <p v-if="run.started.withoutInstrument">
        <strong>Without an instrument that covers it:</strong> {{ run.started.withoutInstrument }}
      </p>
      <p v-for="line in against" :key="line">
        <strong>{{ line }}</strong>
      </p>
      <ol class="small">
        <li v-for="d in run.done" :key="d.step.id">
          {{ d.step.title }}
          <span class="quiet"
            >{{ sayInstant(d.at) }}, {{ names.get(d.by)
            }}<template v-if="sayStepDone(d).length > 0">: </template>{{ sayStepDone(d).join('; ') }}</span
          >
        </li>
      </ol>
    </SignDialog>
  </section>
</template>
