<script setup lang="ts">
import type { ListRowTold } from '@calm/contract/loop-list'
import { sayValue } from '../../ui/say-value.ts'
import StateMark from '../../ui/StateMark.vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** Every row of a list with what is wrong with it; worst first. */
const { rows } = defineProps<{ rows: readonly ListRowTold[] }>()
const update = defineModel<number[]>('update', { required: true })
const STATE = { new: 'good', same: 'notYet', changed: 'look', bad: 'stop' } as const
const WORD = { new: 'new', same: 'same', changed: 'differs', bad: 'to mend' } as const
const ORDER = ['bad', 'changed', 'new', 'same']
const sorted = () =>
  [...rows].sort((a, b) => ORDER.indexOf(a.standing) - ORDER.indexOf(b.standing) || a.row - b.row)
</script>

<template>
  <v-table v-key-scroll class="table">
    <thead>
      <tr>
        <th scope="col">Row</th>
        <th scope="col">State</th>
        <th scope="col">Tag</th>
        <th scope="col">Service</th>
        <th scope="col">Range</th>
        <th scope="col">What to look at</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in sorted()" :key="r.row" :class="r.standing">
        <td class="mono">{{ r.row }}</td>
        <td><StateMark :state="STATE[r.standing]" :word="WORD[r.standing]" /></td>
        <td class="mono">{{ r.cells.tag || '(none)' }}</td>
        <td>{{ r.cells.service }}</td>
        <td class="mono small">{{ r.cells.lrv }} … {{ r.cells.urv }} {{ r.cells.unit }}</td>
        <td>
          <p v-for="f in r.findings" :key="f.code + f.says">{{ f.says }}</p>
          <template v-if="r.standing === 'changed'">
            <p v-for="c in r.changes" :key="c.path">
              {{ c.name }}: here <span class="mono">{{ sayValue(c.before) }}</span>, in the list
              <span class="mono">{{ sayValue(c.after) }}</span>
            </p>
            <v-checkbox v-model="update" :value="r.row" label="Change the loop to what the list says" />
          </template>
        </td>
      </tr>
    </tbody>
  </v-table>
</template>

<style scoped>
.table {
  background: var(--surface);
}
td {
  vertical-align: top;
  padding-top: 10px !important;
  padding-bottom: 10px !important;
}
.bad td {
  background: var(--stop-surface);
}
</style>
