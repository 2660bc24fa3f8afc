<script setup lang="ts">
import { system, urlOf } from '@calm/contract/api/addresses'
import { computed } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import StateMark from '../../ui/StateMark.vue'
import { version } from './version.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** Which version this is, on what it runs, and whether that is well. */
const about = useLive(system.about, {})
const health = useLive(system.health, {})
const trouble = computed(() => about.says.value ?? health.says.value)
const other = computed(() => about.data.value !== null && about.data.value.version !== version)
const TITLES = {
  database: 'Database',
  writing: 'Storing',
  disk: 'Free space',
  backup: 'Daily backup',
  calculations: 'Calculations',
} as const
const parts = computed(() => {
  const told = health.data.value
  if (!told) return []
  return Object.entries(TITLES).map(([part, title]) => ({ title, ...told[part as keyof typeof TITLES] }))
})
</script>

<template>
  <div class="page stack">
    <h1>Calm Loop {{ version }}</h1>
    <p class="answer">The workbench of a process instrumentation technician.</p>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-if="other" role="alert">
      <StateMark state="look" word="Another version" />
      The server is {{ about.data.value?.version }} and this page {{ version }}. Reload the page.
    </p>
    <section class="stack" aria-label="What it runs on">
      <h2>What it runs on</h2>
      <div v-key-scroll class="scroll" aria-label="What it runs on, scrolls sideways">
        <table>
          <tbody>
            <tr v-for="p in parts" :key="p.title">
              <th scope="row">{{ p.title }}</th>
              <td><StateMark :state="p.ok ? 'good' : 'stop'" :word="p.ok ? 'well' : 'not well'" /></td>
              <td>{{ p.says }}</td>
            </tr>
            <tr v-if="about.data.value">
              <th scope="row">Versions</th>
              <td></td>
              <td class="mono">
                PostgreSQL {{ about.data.value.database }}, Node.js {{ about.data.value.node }}
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </section>
    <section class="stack" aria-label="For programs">
      <h2>For programs</h2>
      <p>
        Everything a page can do, a program can:
        <a :href="urlOf(system.description, {})">the description of its addresses</a> (OpenAPI).
      </p>
    </section>
    <section class="stack" aria-label="Licence">
      <h2>Licence</h2>
      <p>
        Free software under the MIT licence, without warranty. Where work can hurt someone, local codes and
        licensed practice come first, and the judgement of who stands there.
      </p>
    </section>
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 600;
}
th,
td {
  padding: 10px 24px 10px 0;
  border-bottom: 1px solid var(--hair);
}
.trouble {
  color: var(--stop);
}
</style>
