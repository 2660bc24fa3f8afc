<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue'
import { useSession } from '../api/session-store.ts'
import NextBar from '../ui/NextBar.vue'
import { useLoop } from './loop-store.ts'

/** The foot of a bench that changes the loop's document: what is next, why, save; and what to do when two did. */
const { next, tall = false } = defineProps<{
  next: string
  /** In a narrow column, with the sentence above and whole. */
  tall?: boolean
}>()
/** Why; goes into the record. */
const reason = defineModel<string>({ required: true })
// Fetched only when two people saved: it knows every entry of every kind of meter.
const ClashDialog = defineAsyncComponent(() => import('./ClashDialog.vue'))
const loop = useLoop()
const session = useSession()

/** What is stored, and whether what is on screen is more than that. */
const saved = computed(() => {
  const revision = loop.detail?.revision
  if (revision === undefined) return null
  return loop.saving ? 'saving …' : loop.dirty ? 'changes not saved' : `revision ${revision}, saved`
})

async function save(): Promise<void> {
  if (await loop.save(reason.value)) reason.value = ''
}
</script>

<template>
  <NextBar v-if="loop.detail" :next="next" :tall="tall" :refusal="loop.problem?.message" :stored="saved">
    <template v-if="loop.dirty && session.mayWrite">
      <v-text-field
        v-model="reason"
        class="reason"
        density="compact"
        label="Why (goes into the record)"
        maxlength="300"
      />
      <v-btn variant="text" @click="loop.discard()">Discard</v-btn>
      <v-btn
        color="primary"
        variant="flat"
        :loading="loop.saving"
        :disabled="loop.wrong.size > 0"
        @click="save"
        >Save revision</v-btn
      >
    </template>
  </NextBar>
  <ClashDialog
    v-if="loop.clash && loop.draft"
    :clash="loop.clash"
    :mine="loop.draft"
    @resolve="loop.resolve($event, reason || 'merged with another change')"
    @cancel="loop.clash = null"
  />
</template>

<style scoped>
.reason {
  flex: 0 1 300px;
  min-width: 180px;
}
</style>
