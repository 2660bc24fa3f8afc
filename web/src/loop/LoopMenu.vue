<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { LoopDetail } from '@calm/contract/loops'
import { mdiCameraPlusOutline, mdiDotsVertical } from '@mdi/js'
import { defineAsyncComponent, ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/call.ts'
import { useSession } from '../api/session-store.ts'
import ReasonDialog from '../ui/ReasonDialog.vue'
import TagDialog from './TagDialog.vue'

/** What is done to a loop as a whole: another tag, another one like it, out of use. */
const { detail, dirty } = defineProps<{ detail: LoopDetail; dirty: boolean }>()
const session = useSession()
const router = useRouter()
const open = ref<'rename' | 'copy' | 'archive' | null>(null)
// Fetched by who writes one.
const NoteDialog = defineAsyncComponent(() => import('./NoteDialog.vue'))
const noting = ref(false)
const ITEMS = [
  { id: 'rename', title: 'Give it another tag' },
  { id: 'copy', title: 'A new loop like this one' },
  { id: 'archive', title: 'Take it out of use' },
] as const

async function rename(tag: string, reason: string): Promise<void> {
  const { revision, document } = detail
  await call(loops.save, { loop: detail.id }, { base: revision, document: { ...document, tag }, reason })
  await router.replace({ params: { tag } })
}
/** What is of this one place and device alone does not go along: its calibration, its sensor, what is to be keyed in. */
async function copy(tag: string): Promise<void> {
  const { setUp, ...document } = detail.document
  await call(
    loops.add,
    {},
    {
      id: crypto.randomUUID(),
      document: {
        ...document,
        tag,
        lastCalibrated: null,
        toKeyIn: [],
        remark: '',
        setUp: setUp && { values: setUp.values },
      },
    },
  )
  await router.push({ name: 'set-up', params: { tag } })
}
async function archive(reason: string): Promise<void> {
  await call(loops.archive, { loop: detail.id }, { reason })
  await router.push({ name: 'loops', query: { only: 'archived' } })
}
</script>

<template>
  <v-btn
    v-if="detail.archivedAt === null"
    variant="text"
    :icon="mdiCameraPlusOutline"
    :aria-label="`A note or photograph on ${detail.tag}`"
    title="A note or photograph"
    class="no-print"
    @click="noting = true"
  />
  <NoteDialog v-if="noting" :detail="detail" @close="noting = false" />
  <v-menu v-if="session.mayWrite && detail.archivedAt === null">
    <template #activator="{ props }">
      <v-btn
        v-bind="props"
        variant="text"
        :icon="mdiDotsVertical"
        :aria-label="`More about ${detail.tag}`"
        title="Another tag, a copy, out of use"
        class="more no-print"
      />
    </template>
    <v-list>
      <v-list-item
        v-for="i in ITEMS"
        :key="i.id"
        :title="i.title"
        :subtitle="dirty ? 'Save or discard the changes first.' : undefined"
        :disabled="dirty"
        @click="open = i.id"
      />
    </v-list>
  </v-menu>
  <TagDialog
    v-if="open === 'rename'"
    :title="`Another tag for ${detail.tag}`"
    says="The record stays with the loop; papers from now on carry the new tag."
    does="Rename"
    :tag="detail.tag"
    with-reason
    :act="rename"
    @close="open = null"
  />
  <TagDialog
    v-if="open === 'copy'"
    :title="`A new loop like ${detail.tag}`"
    says="Signal path, wiring, set-up, tolerance and interval are copied. The record and the sensor are not."
    does="Add the loop"
    :tag="detail.tag"
    :act="copy"
    @close="open = null"
  />
  <ReasonDialog
    v-if="open === 'archive'"
    :title="`Take ${detail.tag} out of use?`"
    says="Its record stays and can be read; nothing more is recorded on it, and its tag is free. It can be brought back."
    does="Take out of use"
    :act="archive"
    @close="open = null"
  />
</template>

<style scoped>
/* At the pipe the room is the work's. */
@media (max-width: 640px) {
  .more {
    display: none;
  }
}
</style>
