<script setup lang="ts">
import { settings, system, urlOf } from '@calm/contract/api/addresses'
import { WATER_SAYS, WATERS, type Water } from '@calm/core/quantity/water-column'
import { computed, shallowRef } from 'vue'
import { call, sayProblem } from '../../api/call.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
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
const session = useSession()
const rules = useLive(settings.rules, () => (session.person ? {} : null))
const waters = [
  { value: null, title: 'not said: each unit tells it' },
  ...WATERS.map((value) => ({ value, title: WATER_SAYS[value] })),
]
const refused = shallowRef<string | null>(null)
type Rules = NonNullable<typeof rules.data.value>
async function decide(change: Partial<Rules>): Promise<void> {
  refused.value = null
  try {
    await call(settings.changeRules, {}, change)
  } catch (error) {
    refused.value = sayProblem(error)
  }
}
const count = (water: Water | null) => decide({ water })
function letterhead(part: keyof Rules['letterhead'], event: Event): void {
  const now = rules.data.value?.letterhead
  const typed = event.target instanceof HTMLInputElement ? event.target.value : ''
  if (now) void decide({ letterhead: { ...now, [part]: typed } })
}
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
    <section v-if="rules.data.value" class="stack" aria-label="Rules of this plant">
      <h2>Rules of this plant</h2>
      <v-select
        class="water"
        label="Water columns without a temperature are counted with"
        :items="waters"
        :model-value="rules.data.value.water"
        :readonly="!session.mayWrite"
        hide-details
        @update:model-value="count($event)"
      />
      <v-text-field
        class="water"
        label="Name of the plant, at the head of certificates"
        maxlength="120"
        :model-value="rules.data.value.letterhead.name"
        :readonly="!session.mayWrite"
        hide-details
        @change="letterhead('name', $event)"
      />
      <v-text-field
        class="water"
        label="Its address"
        maxlength="300"
        :model-value="rules.data.value.letterhead.address"
        :readonly="!session.mayWrite"
        hide-details
        @change="letterhead('address', $event)"
      />
      <v-text-field
        class="water"
        label="Its country, two letters, for certificates as XML"
        maxlength="2"
        :model-value="rules.data.value.letterhead.country"
        :readonly="!session.mayWrite"
        hide-details
        @change="letterhead('country', $event)"
      />
      <p v-if="refused" role="alert" class="trouble">{{ refused }}</p>
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
.water {
  max-width: 460px;
}
.trouble {
  color: var(--stop);
}
</style>
