<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { LoopDetail } from '@calm/contract/loops'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { call } from '../api/call.ts'
import { useSession } from '../api/session-store.ts'
import { sayDay } from '../ui/dates.ts'
import ReasonDialog from '../ui/ReasonDialog.vue'

/** That a loop is out of use, and the way back. */
const { detail } = defineProps<{ detail: LoopDetail & { readonly archivedAt: string } }>()
const session = useSession()
const router = useRouter()
const asked = ref(false)
async function bringBack(reason: string): Promise<void> {
  await call(loops.bringBack, { loop: detail.id }, { reason })
  await router.replace({ name: 'record', params: { tag: detail.tag } })
}
</script>

<template>
  <div class="archived row no-print" role="status">
    <span
      ><strong>Out of use</strong> since {{ sayDay(detail.archivedAt.slice(0, 10)) }}. Its record can be read;
      nothing is recorded on it.</span
    >
    <v-btn v-if="session.mayWrite" variant="outlined" @click="asked = true">Bring it back</v-btn>
    <ReasonDialog
      v-if="asked"
      :title="`Bring ${detail.tag} back into use?`"
      says="It stands in the list again and work on it is recorded again."
      does="Bring it back"
      :act="bringBack"
      @close="asked = false"
    />
  </div>
</template>

<style scoped>
.archived {
  padding: 8px 24px;
  background: var(--look-surface);
}
</style>
