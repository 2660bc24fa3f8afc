<script setup lang="ts">
import { loopList } from '@calm/contract/api/addresses'
import type { LoopImport } from '@calm/contract/loop-list'
import { shallowRef } from 'vue'
import { call } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { sayInstant } from '../../ui/dates.ts'
import ReasonDialog from '../../ui/ReasonDialog.vue'

/** Lists that were brought in: undone as a whole as long as nobody worked on their loops. */
const session = useSession()
const { data } = useLive(loopList.imports, {})
const asked = shallowRef<LoopImport | null>(null)
const undo = (id: string) => async (reason: string) => {
  await call(loopList.undo, { import: id }, { reason })
}
const sayDone = ({ result: r }: LoopImport) =>
  `${r.created} added, ${r.updated} changed, ${r.held} kept to be corrected`
</script>

<template>
  <section v-if="data && data.length > 0" class="stack" aria-label="Lists brought in">
    <h2>Lists brought in</h2>
    <div v-for="i in data" :key="i.id" class="row line">
      <span class="grow">
        {{ sayInstant(i.at) }}, {{ i.byName }}: {{ sayDone(i) }}.
        <span v-if="i.undone" class="quiet"
          >Undone {{ sayInstant(i.undone.at) }} by {{ i.undone.byName }}: {{ i.undone.reason }}</span
        >
      </span>
      <v-btn v-if="session.mayWriteSomewhere && !i.undone && !i.old" variant="text" @click="asked = i"
        >Undo it</v-btn
      >
    </div>
    <ReasonDialog
      v-if="asked"
      title="Undo this import?"
      :says="`${sayDone(asked)}. What was added is taken out of use, what was changed is as before. Not possible once somebody worked on one of the loops.`"
      does="Undo the import"
      :act="undo(asked.id)"
      @close="asked = null"
    />
  </section>
</template>

<style scoped>
.line {
  border-bottom: var(--line) solid var(--hair);
}
.grow {
  flex: 1;
}
</style>
