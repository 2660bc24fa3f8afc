<script setup lang="ts">
import { loopList } from '@calm/contract/api/addresses'
import type { HeldRow } from '@calm/contract/loop-list'
import { LIST_COLUMNS, type ListColumn } from '@calm/core/loop-list/columns'
import { computed, ref } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'

/** Rows that an import held back: mended in place, or let go. */
const session = useSession()
const held = useLive(loopList.held, {})
const rows = computed(() => held.data.value ?? [])
const open = ref<string | null>(null)
const cells = ref<HeldRow['cells']>({})
const says = ref<string | null>(null)
const mended = ref<string | null>(null)
const busy = ref(false)

function begin(row: HeldRow): void {
  open.value = row.id
  cells.value = { ...row.cells }
  says.value = null
  mended.value = null
}
const wrongAt = (row: HeldRow, column: ListColumn) => row.findings.find((f) => f.where[0] === column)?.says

async function tryAgain(row: HeldRow): Promise<void> {
  busy.value = true
  try {
    const { still } = await call(loopList.mend, { row: row.id }, { cells: cells.value })
    if (!still) {
      mended.value = `${cells.value.tag ?? 'The row'} is in the plant now.`
      open.value = null
    }
  } catch (error) {
    says.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
async function letGo(row: HeldRow): Promise<void> {
  try {
    await call(loopList.letGo, { row: row.id })
  } catch (error) {
    says.value = sayProblem(error)
    await held.reload()
  }
}
</script>

<template>
  <section v-if="rows.length > 0 || mended" class="stack" aria-labelledby="held-title">
    <h2 id="held-title">
      Rows to correct <span class="mono">{{ rows.length }}</span>
    </h2>
    <p v-if="mended" role="status">{{ mended }}</p>
    <v-card v-for="row in rows" :key="row.id" class="stack">
      <div class="row">
        <strong class="mono">{{ row.cells.tag || '(no tag)' }}</strong>
        <span>{{ row.cells.service }}</span>
        <span class="quiet small">row {{ row.row }} of the list</span>
        <span class="gap" />
        <template v-if="session.mayWriteSomewhere && open !== row.id">
          <v-btn @click="begin(row)">Mend</v-btn>
          <v-btn variant="text" @click="letGo(row)">Drop it</v-btn>
        </template>
      </div>
      <p v-for="f in row.findings" :key="f.code + f.says" class="trouble">{{ f.says }}</p>
      <form v-if="open === row.id" class="stack" novalidate @submit.prevent="tryAgain(row)">
        <div class="field-grid cells">
          <v-text-field
            v-for="c in LIST_COLUMNS"
            :key="c.id"
            v-model="cells[c.id]"
            :label="c.title"
            :error-messages="wrongAt(row, c.id)"
          />
        </div>
        <p v-if="says" class="trouble" role="alert">{{ says }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat" :loading="busy">Try this row again</v-btn>
          <v-btn variant="text" @click="open = null">Not now</v-btn>
        </div>
      </form>
    </v-card>
  </section>
</template>

<style scoped>
.gap {
  flex: 1;
}
.trouble {
  color: var(--stop);
}
@media (min-width: 1000px) {
  .cells {
    grid-template-columns: repeat(4, minmax(0, 1fr));
  }
}
</style>
