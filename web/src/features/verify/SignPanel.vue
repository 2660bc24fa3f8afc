<script setup lang="ts">
import type { Run } from '@calm/core/record/run'
import type { RunEventBody } from '@calm/core/record/run-events'
import { computed, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { sayInstant } from '../../ui/dates.ts'

/** Signatures: the technician's, then another person's as reviewer, or its return with a reason. */
const { run, names } = defineProps<{ run: Run; names: ReadonlyMap<string, string> }>()
const emit = defineEmits<{ happen: [body: RunEventBody] }>()
const session = useSession()
const statement = ref('Done as recorded.')
const reason = ref('')
const nameOf = (id: string) => (id === session.person?.id ? session.person.shownName : (names.get(id) ?? ''))
const mayReview = computed(
  () =>
    run.state === 'signed' && session.isReviewer && !run.signatures.some((s) => s.by === session.person?.id),
)

function sign(as: 'technician' | 'reviewer', text: string): void {
  emit('happen', { type: 'signed', payload: { as, statement: text } })
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
    <div v-if="run.state === 'ready' && session.mayWrite" class="row">
      <v-text-field v-model="statement" label="Statement" maxlength="300" class="text" />
      <v-btn color="primary" variant="flat" height="48" @click="sign('technician', statement)"
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
.text {
  flex: 1 1 200px;
}
</style>
