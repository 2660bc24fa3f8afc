<script setup lang="ts">
import type { LoopDetail } from '@calm/contract/loops'
import { mdiDotsVertical } from '@mdi/js'
import { defineAsyncComponent, ref } from 'vue'

/** What is done to a loop as a whole: a note, another tag, another one like it, out of use. */
const { detail, dirty } = defineProps<{ detail: LoopDetail; dirty: boolean }>()
const open = ref<'note' | 'rename' | 'copy' | 'archive' | null>(null)
// Fetched by who needs one of them.
const LoopActs = defineAsyncComponent(() => import('./LoopActs.vue'))
const ITEMS = [
  { id: 'note', title: 'Note or photograph' },
  { id: 'rename', title: 'Give it another tag' },
  { id: 'copy', title: 'A new loop like this one' },
  { id: 'archive', title: 'Take it out of use' },
] as const
</script>

<template>
  <v-menu>
    <template #activator="{ props }">
      <v-btn
        v-bind="props"
        variant="text"
        :icon="mdiDotsVertical"
        :aria-label="`More about ${detail.tag}`"
        class="no-print"
      />
    </template>
    <v-list>
      <v-list-item
        v-for="i in ITEMS"
        :key="i.id"
        :title="i.title"
        :subtitle="dirty && i.id !== 'note' ? 'Save or discard the changes first.' : undefined"
        :disabled="dirty && i.id !== 'note'"
        @click="open = i.id"
      />
    </v-list>
  </v-menu>
  <LoopActs v-if="open" :detail="detail" :what="open" @close="open = null" />
</template>
