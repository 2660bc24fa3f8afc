<script setup lang="ts">
import { maybeSamePerson } from '@calm/core/record/authors'
import type { Run } from '@calm/core/record/run'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { computed, ref } from 'vue'
import type { SigningProblem } from '@calm/core/record/may-sign'
import { useEquipment } from '../../api/equipment.ts'
import { useSession } from '../../api/session-store.ts'
import { sayInstant } from '../../ui/dates.ts'

/** Signatures: the technician's, then another person's as reviewer, or its return with a reason. */
const { run, names, open } = defineProps<{
  run: Run
  names: ReadonlyMap<string, string>
  /** What stands between the record and its signature. */
  open: readonly SigningProblem[]
}>()
const emit = defineEmits<{ happen: [body: RunEventBody] }>()
const session = useSession()
const statement = ref('Done as recorded.')
const reason = ref('')
const { instruments } = useEquipment()
const named = ref<string[]>([])
const choices = computed(() => instruments.value.map((e) => ({ value: e.id, title: e.name })))
const blocked = computed(() => open.length > 0 || statement.value.trim() === '')
const nameOf = (id: string) => (id === session.person?.id ? session.person.shownName : (names.get(id) ?? ''))
const mayReview = computed(
  () =>
    run.state === 'signed' &&
    session.isReviewer &&
    !run.signatures.some((s) => maybeSamePerson(s.by, session.person?.id ?? '')),
)

function sign(as: 'technician' | 'reviewer', text: string): void {
  emit('happen', { type: 'signed', payload: { as, statement: text } })
}
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
    <p v-for="s in run.signatures" :key="s.as">
      <strong>{{ s.as === 'technician' ? 'Technician' : 'Reviewer' }}:</strong> {{ nameOf(s.by) }},
      {{ sayInstant(s.at) }}. {{ s.statement }}
    </p>
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
      <v-text-field
        v-model="statement"
        label="Statement"
        maxlength="300"
        class="text"
        :error-messages="
          statement.trim() === '' ? ['Say what is signed: a signature without a statement says nothing.'] : []
        "
      />
      <v-btn
        color="primary"
        variant="flat"
        height="48"
        :disabled="blocked"
        @click="sign('technician', statement.trim())"
        >Sign as {{ session.person?.shownName }}</v-btn
      >
    </div>
    <div v-if="mayReview" class="row">
      <v-btn color="primary" variant="flat" height="48" @click="sign('reviewer', 'Checked.')"
        >Countersign</v-btn
      >
      <v-text-field v-model="reason" label="or return it, because" maxlength="500" class="text" />
      <v-btn :disabled="reason.trim() === ''" @click="giveBack">Return</v-btn>
    </div>
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
