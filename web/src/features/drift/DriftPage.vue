<script setup lang="ts">
import { plant } from '@calm/contract/api/addresses'
import type { DriftRow } from '@calm/contract/drift'
import { sayNumber } from '@calm/core/quantity/round'
import { mdiTrayArrowDown } from '@mdi/js'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useLive } from '../../api/live-cache.ts'
import { daysUntil, sayDay } from '../../ui/dates.ts'
import StateMark from '../../ui/StateMark.vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'

const PastCertificates = defineAsyncComponent(() => import('../../loop/PastCertificates.vue'))
/** The whole plant by drift: who leaves the tolerance first, and when each should be seen again. */
const { data, state, says: trouble } = useLive(plant.drift, {})
const rows = computed(() => data.value ?? [])
const find = ref('')
const session = useSession()
const entering = ref(false)

const now = new Date()
const YEAR = 365
const shown = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  return rows.value.filter((r) =>
    words.every((w) => `${r.tag} ${r.service} ${r.area}`.toLowerCase().includes(w)),
  )
})
function stateOf(r: DriftRow): { state: 'good' | 'look' | 'stop' | 'notYet'; word: string } {
  if (!r.enough) return { state: 'notYet', word: `too little history (${r.verifications})` }
  if (r.leavesOn === null) return { state: 'good', word: 'no drift shown' }
  const days = daysUntil(r.leavesOn, now)
  return days < 0
    ? { state: 'stop', word: `may be out since ${sayDay(r.leavesOn)}` }
    : { state: days < YEAR ? 'look' : 'good', word: `may leave it on ${sayDay(r.leavesOn)}` }
}
const drifting = computed(() => rows.value.filter((r) => r.leavesOn !== null).length)
const months = (n: number | null) => (n === null ? '' : `${n}`)
</script>

<template>
  <div class="page stack">
    <PastCertificates v-if="entering" @close="entering = false" />
    <div class="row">
      <h1>Drift</h1>
      <span class="gap" />
      <v-btn v-if="session.mayWrite" :prepend-icon="mdiTrayArrowDown" @click="entering = true"
        >Earlier certificates</v-btn
      >
      <v-text-field
        v-model="find"
        label="Find"
        hide-details
        clearable
        class="find"
        @click:clear="find = ''"
      />
    </div>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-else-if="state !== 'loading'" class="answer">
      {{ drifting }} of {{ rows.length }} loops with a history drift. Those that may leave their tolerance
      first stand at the top.
    </p>
    <div v-key-scroll class="scroll" aria-label="Drift of the loops, scrolls sideways">
      <table class="rows stacked">
        <thead>
          <tr>
            <th scope="col">Loop</th>
            <th scope="col">Drift</th>
            <th scope="col" class="num">% of span a year</th>
            <th scope="col" class="num">allowed ± %</th>
            <th scope="col" class="num">used the last time</th>
            <th scope="col" class="num">interval now</th>
            <th scope="col" class="num">by drift</th>
            <th scope="col" class="num">by use</th>
            <th scope="col" class="num">recommended, months</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in shown" :key="r.id">
            <th scope="row">
              <router-link :to="`/loops/${r.tag}/record`" class="mono">{{ r.tag }}</router-link>
              <span class="quiet small service">{{ r.service }}</span>
            </th>
            <td><StateMark v-bind="stateOf(r)" /></td>
            <td class="num mono" data-says="% of span a year">
              {{ r.rate_pctYear === null ? '' : sayNumber(r.rate_pctYear, 2) }}
            </td>
            <td class="num mono" data-says="allowed ± %">{{ sayNumber(r.T_pct, 3) }}</td>
            <td class="num mono" data-says="used the last time">{{ sayNumber(100 * r.used, 2) }} %</td>
            <td class="num mono" data-says="interval now, months">{{ months(r.interval_months) }}</td>
            <td class="num mono" data-says="by drift, months">{{ months(r.byDrift_months) }}</td>
            <td class="num mono" data-says="by use, months">{{ r.staircase_months }}</td>
            <td class="num mono" data-says="recommended, months">
              <strong>{{ r.recommended_months }}</strong>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="small quiet">
      Drift is as found less the as left before it, at the same level, never across an adjustment; three
      periods at least. By use: longer after two good ones, shorter after one that used more than 80 %. The
      shorter of both is recommended; the plant decides.
    </p>
  </div>
</template>

<style scoped>
.gap {
  flex: 1;
}
.find {
  max-width: 280px;
}
.trouble {
  color: var(--stop);
}
.rows thead th {
  vertical-align: bottom;
  white-space: normal;
}
.service {
  margin-left: 10px;
}
</style>
