<script setup lang="ts">
import { people, plantLog, urlOf } from '@calm/contract/api/addresses'
import type { LogEntry, LogPage } from '@calm/contract/plant-log'
import { PLANT_GROUPS, type PlantGroup } from '@calm/core/record/plant-log/kinds/plant-kind'
import { mdiDownload } from '@mdi/js'
import { watchDebounced } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { sayInstant } from '../../ui/dates.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** What happened outside the loops: filtered, exported, and marked as looked through. */
const AT_ONCE = 100
const list = useLive(people.list, {})
const who = computed(() => (list.data.value ?? []).map((p) => ({ value: p.id, title: p.shownName })))
const group = ref<PlantGroup | null>(null)
const by = ref<string | null>(null)
const from = ref('')
const to = ref('')
const text = ref('')
const entries = shallowRef<readonly LogEntry[]>([])
const reviewed = shallowRef<LogPage['reviewed']>(null)
const more = ref(false)
const says = ref<string | null>(null)

const DAY = /^\d{4}-\d{2}-\d{2}$/
const filter = computed(() => ({
  ...(group.value ? { group: group.value } : {}),
  ...(by.value ? { by: by.value } : {}),
  ...(DAY.test(from.value) ? { from: from.value } : {}),
  ...(DAY.test(to.value) ? { to: to.value } : {}),
  ...(text.value.trim() === '' ? {} : { text: text.value.trim() }),
}))
const sayDate = (typed: string) => (typed === '' || DAY.test(typed) ? [] : ['Write it as 2026-11-23.'])

let asked = 0
async function look(before?: number): Promise<void> {
  const mine = ++asked
  says.value = null
  try {
    const page = await call(plantLog.page, {
      ...filter.value,
      most: AT_ONCE,
      ...(before === undefined ? {} : { before }),
    })
    // An older look that comes late is not shown.
    if (mine !== asked) return
    entries.value = before === undefined ? page.entries : [...entries.value, ...page.entries]
    reviewed.value = page.reviewed
    more.value = page.entries.length === AT_ONCE
  } catch (error) {
    if (mine === asked) says.value = sayProblem(error)
  }
}
onMounted(() => look())
watchDebounced(filter, () => look(), { debounce: 300 })

const unfiltered = computed(() => Object.keys(filter.value).length === 0)
const newest = computed(() => entries.value[0] ?? null)
const unseen = computed(
  () => unfiltered.value && newest.value !== null && newest.value.position > (reviewed.value?.position ?? 0),
)
async function review(): Promise<void> {
  const { value: last } = newest
  if (!last) return
  says.value = null
  try {
    await call(plantLog.review, {}, { position: last.position })
    await look()
  } catch (error) {
    says.value = sayProblem(error)
  }
}
</script>

<template>
  <section class="stack" aria-label="Log">
    <div class="row filters">
      <v-select v-model="group" label="About" :items="PLANT_GROUPS" clearable hide-details class="wide" />
      <v-select v-model="by" label="By" :items="who" clearable hide-details class="wide" />
      <v-text-field
        v-model="from"
        label="From day"
        maxlength="10"
        class="day"
        :error-messages="sayDate(from)"
      />
      <v-text-field v-model="to" label="To day" maxlength="10" class="day" :error-messages="sayDate(to)" />
      <v-text-field v-model="text" label="Words in it" maxlength="120" hide-details class="wide" />
      <v-btn height="48" :href="urlOf(plantLog.table, filter)" :prepend-icon="mdiDownload">As CSV</v-btn>
    </div>
    <div class="row">
      <p class="quiet grow">
        <template v-if="reviewed"
          >Looked through last on {{ sayInstant(reviewed.at) }} by {{ reviewed.byName }}.</template
        >
        <template v-else>Nobody has looked it through yet.</template>
      </p>
      <v-btn v-if="unseen" height="48" @click="review">I have looked it through up to here</v-btn>
    </div>
    <p v-if="says" class="wrong" role="alert">{{ says }}</p>
    <v-table v-key-scroll class="table stacked" aria-label="Log, scrolls sideways">
      <thead>
        <tr>
          <th scope="col">When</th>
          <th scope="col">Who</th>
          <th scope="col">What</th>
          <th scope="col">In words</th>
          <th scope="col" class="because">Because</th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="e in entries"
          :key="e.id"
          :class="{ seen: reviewed !== null && e.position <= reviewed.position }"
        >
          <td class="mono when">{{ sayInstant(e.at) }}</td>
          <td>{{ e.byName }}</td>
          <td>{{ e.title }}</td>
          <td>{{ e.says }}</td>
          <td data-says="because">{{ e.reason }}</td>
        </tr>
      </tbody>
    </v-table>
    <p v-if="entries.length === 0 && !says" class="quiet">Nothing of this kind is in the log.</p>
    <v-btn v-if="more" height="48" @click="look(entries.at(-1)?.position)">Older ones</v-btn>
  </section>
</template>

<style scoped>
.grow {
  flex: 1 1 240px;
}
.filters {
  align-items: flex-start;
}
.wide {
  flex: 1 1 160px;
  max-width: 260px;
}
.day {
  flex: 0 1 150px;
}
.when {
  white-space: nowrap;
}
.because {
  min-width: 160px;
}
.seen {
  color: var(--quiet);
}
.wrong {
  color: var(--stop);
}
</style>
