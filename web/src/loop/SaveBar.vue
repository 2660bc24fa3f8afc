<script setup lang="ts">
import { useSession } from '../api/session-store.ts'
import { sayInstant } from '../ui/dates.ts'
import NextBar from '../ui/NextBar.vue'
import ClashDialog from './ClashDialog.vue'
import { useLoop } from './loop-store.ts'

/** The foot of a bench that changes the loop's document: what is next, why, save; and what to do when two did. */
const { next } = defineProps<{ next: string }>()
/** Why; goes into the record. */
const reason = defineModel<string>({ required: true })
const loop = useLoop()
const session = useSession()

async function save(): Promise<void> {
  if (await loop.save(reason.value)) reason.value = ''
}
</script>

<template>
  <NextBar
    v-if="loop.detail"
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
</template>

<style scoped>
.reason {
  flex: 1 1 240px;
  max-width: 340px;
}
</style>
