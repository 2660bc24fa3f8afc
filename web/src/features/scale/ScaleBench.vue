<script setup lang="ts">
import type { Finding } from '@calm/core/finding'
import { worstFirst } from '@calm/core/finding'
import { auditPath } from '@calm/core/scale/audit'
import { computed, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import { sayInstant } from '../../ui/dates.ts'
import FindingRow from '../../ui/FindingRow.vue'
import NextBar from '../../ui/NextBar.vue'
import ClashDialog from './ClashDialog.vue'
import PocketCard from './PocketCard.vue'
import RangeForm from './RangeForm.vue'

const loop = useLoop()
const session = useSession()
const reason = ref('')
const findings = computed(() =>
  loop.draft && loop.wrong.size === 0 ? worstFirst(auditPath(loop.draft.path, loop.draft.type)) : [],
)

function mend(finding: Finding): void {
  for (const { path, value } of finding.fix?.set ?? []) loop.setField(path, value)
  if (reason.value === '') reason.value = finding.fix?.label ?? ''
}
async function save(): Promise<void> {
  if (await loop.save(reason.value)) reason.value = ''
}
const next = computed(() => {
  if (!loop.draft || loop.draft.path.length === 0) return 'Nothing to scale on a loop that switches.'
  if (loop.wrong.size > 0) return `Mend first: ${[...loop.wrong.values()][0]}`
  if (loop.dirty)
    return `${loop.changes.length} ${loop.changes.length === 1 ? 'change' : 'changes'} not saved: ${loop.changes.map((c) => c.name).join('; ')}.`
  if (findings.value.some((f) => f.severity === 'stop'))
    return 'The ranges disagree. Take the fix beside the finding, or change the range.'
  if (loop.draft.unconfirmed.length > 0)
    return `${loop.draft.unconfirmed.length} values are assumed. Confirm or change the ones drawn hollow.`
  return 'Ranges agree along the whole line. Verify is next.'
})
</script>

<template>
  <div v-if="loop.draft && loop.detail">
    <div class="page two-sides">
      <section class="stack" aria-label="Ranges">
        <RangeForm :readonly="!session.mayWrite" />
      </section>
      <section class="stack" aria-label="Findings and values">
        <h2>What the ranges tell</h2>
        <FindingRow v-for="f in findings" :key="f.code" :finding="f" @fix="mend" />
        <FindingRow
          v-if="findings.length === 0 && loop.draft.path.length > 0 && loop.wrong.size === 0"
          :finding="{
            code: 'AGREE',
            severity: 'good',
            where: [],
            says: 'Transmitter and receivers agree in range, unit, direction and function.',
          }"
        />
        <PocketCard v-if="loop.draft.path.length > 0 && loop.wrong.size === 0" :stages="loop.draft.path" />
      </section>
    </div>
    <NextBar
      :next="next"
      :refusal="loop.problem?.message"
      :stored="`revision ${loop.detail.revision}, ${loop.detail.revisedBy}, ${sayInstant(loop.detail.revisedAt)}`"
    >
      <template v-if="loop.dirty && session.mayWrite">
        <v-text-field v-model="reason" class="reason" label="Why (goes into the record)" maxlength="300" />
        <v-btn variant="text" @click="loop.discard()">Discard</v-btn>
        <v-btn
          color="primary"
          variant="flat"
          height="48"
          :loading="loop.saving"
          :disabled="loop.wrong.size > 0"
          @click="save"
          >Save revision</v-btn
        >
      </template>
    </NextBar>
    <ClashDialog
      v-if="loop.clash"
      :clash="loop.clash"
      @resolve="loop.resolve($event, reason || 'merged with another change')"
      @cancel="loop.clash = null"
    />
  </div>
</template>

<style scoped>
.reason {
  flex: 1 1 260px;
  max-width: 340px;
}
</style>
