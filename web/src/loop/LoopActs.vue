<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { LoopDetail } from '@calm/contract/loops'
import { useRouter } from 'vue-router'
import { call } from '../api/call.ts'
import ReasonDialog from '../ui/ReasonDialog.vue'
import NoteDialog from './NoteDialog.vue'
import TagDialog from './TagDialog.vue'

/** The dialog of what is done to a loop as a whole. */
const { detail, what } = defineProps<{
  detail: LoopDetail
  what: 'note' | 'rename' | 'copy' | 'archive'
}>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()

async function rename(tag: string, reason: string): Promise<void> {
  const { revision, document } = detail
  await call(loops.save, { loop: detail.id }, { base: revision, document: { ...document, tag }, reason })
  await router.replace({ params: { tag } })
}
async function copy(tag: string): Promise<void> {
  // Fetched with the documents: who opens the dialog alone needs neither.
  const { copied } = await import('@calm/core/loop/copied')
  await call(loops.add, {}, { id: crypto.randomUUID(), document: copied(detail.document, tag) })
  await router.push({ name: 'set-up', params: { tag } })
}
async function archive(reason: string): Promise<void> {
  await call(loops.archive, { loop: detail.id }, { reason })
  await router.push({ name: 'loops', query: { only: 'archived' } })
}
</script>

<template>
  <NoteDialog v-if="what === 'note'" :detail="detail" @close="emit('close')" />
  <TagDialog
    v-if="what === 'rename'"
    :title="`Another tag for ${detail.tag}`"
    says="The record stays with the loop; papers from now on carry the new tag."
    does="Rename"
    :tag="detail.tag"
    with-reason
    :act="rename"
    @close="emit('close')"
  />
  <TagDialog
    v-if="what === 'copy'"
    :title="`A new loop like ${detail.tag}`"
    says="Signal path, set-up, tolerance and interval are copied; ranges and entries are assumed until they are confirmed. Wiring, sensor and record are not."
    does="Add the loop"
    :tag="detail.tag"
    :act="copy"
    @close="emit('close')"
  />
  <ReasonDialog
    v-if="what === 'archive'"
    :title="`Take ${detail.tag} out of use?`"
    says="Its record stays and can be read; nothing more is recorded on it, and its tag is free. It can be brought back."
    does="Take out of use"
    :act="archive"
    @close="emit('close')"
  />
</template>
