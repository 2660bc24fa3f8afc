<script setup lang="ts">
import { logs } from '@calm/contract/api/addresses'
import type { Log } from '@calm/contract/logs'
import { sayDuration } from '@calm/core/logs/say-finding'
import { sayCount } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { mdiTrayArrowDown } from '@mdi/js'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import { placeOf } from '../../loop/place-of-log.ts'
import { sayLogTime } from './say-time.ts'

/** Logs of all loops: read in once, looked at and judged whenever they are asked. */
const { data, state, says: trouble } = useLive(logs.list, {})
const session = useSession()
const router = useRouter()
const find = ref('')
const shown = computed(() => {
  const words = (find.value ?? '').toLowerCase().split(/\s+/).filter(Boolean)
  return (data.value ?? []).filter((l) =>
    words.every((w) => `${l.tag} ${l.title} ${l.site} ${l.instrument ?? ''}`.toLowerCase().includes(w)),
  )
})
const open = computed(() => (data.value ?? []).filter((l) => l.state === 'open').length)
const channels = (l: Log) =>
  l.channels.map((c) => (c.unit === null ? c.name : `${c.name} (${printedUnit(c.unit)})`)).join(', ')
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>Logs</h1>
      <span class="gap" />
      <v-btn variant="text" to="/surveys">Surveys</v-btn>
      <v-btn v-if="session.mayWrite" variant="text" to="/logs/record">Record</v-btn>
      <v-btn
        v-if="session.mayWrite"
        color="primary"
        variant="flat"
        :prepend-icon="mdiTrayArrowDown"
        @click="router.push('/logs/read-in')"
        >Read in a log</v-btn
      >
      <v-text-field v-model="find" label="Find" hide-details clearable class="find" />
    </div>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-else-if="state !== 'loading' && shown.length === 0" class="answer">
      {{
        data?.length === 0
          ? 'No log is here yet. Read in what a portable meter, a device or a control system has recorded.'
          : 'No log has these words.'
      }}
    </p>
    <div v-else v-key-scroll class="scroll" aria-label="Logs, scrolls sideways">
      <table class="rows stacked">
        <thead>
          <tr>
            <th scope="col">Loop</th>
            <th scope="col">Log</th>
            <th scope="col">Of</th>
            <th scope="col">Begins</th>
            <th scope="col" class="num">Lasts</th>
            <th scope="col" class="num">Rows</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="l in shown" :key="l.id">
            <th scope="row">
              <router-link :to="`/loops/${l.tag}`" class="mono">{{ l.tag }}</router-link>
            </th>
            <td>
              <router-link v-if="l.state === 'kept'" :to="`/logs/${l.tag}/${l.id}`" class="title">{{
                l.title
              }}</router-link>
              <router-link v-else :to="placeOf(l)" class="title">{{ l.title }}: not whole, go on</router-link>
              <span class="quiet small under">{{ channels(l) }}</span>
            </td>
            <td data-says="of">
              {{ l.of === 'installed' ? 'this meter' : 'a reference' }}
              <span v-if="l.simulated" class="small simulated under">simulated</span>
            </td>
            <td data-says="begins">{{ l.from === null ? '' : sayLogTime(l.from, l) }}</td>
            <td class="num mono" data-says="lasts">
              {{ l.from === null || l.to === null ? '' : sayDuration((l.to - l.from) / 1000) }}
            </td>
            <td class="num mono" data-says="rows">
              {{ sayCount(l.rows) }}
              <span v-if="l.wrongCount > 0" class="small look under">{{ l.wrongCount }} wrong lines</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-if="open > 0" class="small quiet">
      {{ open }} {{ open === 1 ? 'log is' : 'logs are' }} not whole: nothing is judged by
      {{ open === 1 ? 'it' : 'them' }}.
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
.title {
  font-weight: 600;
}
.simulated {
  color: var(--simulated);
}
.look {
  color: var(--look);
}
</style>
