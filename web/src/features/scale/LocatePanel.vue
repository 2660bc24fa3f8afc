<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import type { Finding } from '@calm/core/finding'
import type { NewDiagnosis } from '@calm/contract/diagnoses'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { StationId } from '@calm/core/signal/stage'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { plantTime } from '../../api/clock.ts'
import { call, sayProblem } from '../../api/call.ts'
import { useLoop } from '../../loop/loop-store.ts'
import StateMark from '../../ui/StateMark.vue'
import { useEquipment } from '../../api/equipment.ts'
import FindingRow from '../../ui/FindingRow.vue'
import { FEEDS, useLocate } from './use-locate.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'

/** What was really measured, station by station; the line steps where the error comes in. */
const { readonly } = defineProps<{ readonly: boolean }>()
const emit = defineEmits<{ mend: [finding: Finding]; next: [says: string | null] }>()
const loop = useLoop()
const MOST_LEVELS = 20
const equipment = useEquipment()
const l = useLocate(
  () => loop.draft?.path ?? [],
  () => loop.facts?.needsRoot === true,
  () => loop.draft?.tolerance?.pctSpan || 0.25,
  () => equipment.instruments.value,
  () => loop.audit,
  () => loop.facts?.pressureKind === 'absolute',
)
watch(l.steps, (steps) => (loop.located = steps), { immediate: true })
const toDo = computed(() => {
  if (l.next.value) return l.next.value.says
  return l.located.value?.firstOut ? 'Mend what was named, and read the same levels again.' : null
})
watch(toDo, (says) => emit('next', says), { immediate: true })
onScopeDispose(() => (loop.located = null))

const heading = (id: StationId) => {
  const unit = l.unitOf(id)
  return unit === 'counts' ? 'counts' : printedUnit(unit)
}
const verdict = computed(() => {
  const found = l.located.value
  if (!found || l.rows.value.length === 0)
    return 'Type what was measured at two stations or more, at the same levels. One level tells where, two tell why.'
  if (found.addedUp)
    return 'Every part is within its tolerance and the whole is not: small errors have added up. Trim the largest.'
  const [first, ...others] = found.segments.filter((s) => s.state === 'OUT')
  if (first) {
    const between = (s: typeof first) => `between ${l.name(s.from)} and ${l.name(l.endOf(s))}`
    return others.length === 0
      ? `The error comes in ${between(first)}.`
      : `The error comes in ${between(first)}; another one ${others.map(between).join(' and ')}.`
  }
  if (
    l.rows.value.every((r) => r.word === 'within' || r.word === 'once') &&
    l.rows.value.some((r) => r.word === 'once')
  )
    return 'What was measured agrees, as far as it was seen: a part of the line saw one value alone.'
  return l.rows.value.every((r) => r.state === 'good')
    ? 'Everything that was measured agrees. Nothing to look for here.'
    : 'Not decided: the measurements are not sure enough.'
})
const stored = ref<string | null>(null)
const trouble = ref<string | null>(null)
const busy = ref(false)
/** One identifier as long as the readings stay: a second press sends the same diagnosis again. */
let id = crypto.randomUUID()
watch([l.levels, l.typedU, l.readWith], () => {
  id = crypto.randomUUID()
  stored.value = null
})
async function record(): Promise<void> {
  if (!loop.detail || busy.value) return
  busy.value = true
  const body: NewDiagnosis = {
    id,
    at: plantTime(),
    revision: loop.detail.revision,
    levels: l.filled.value.map((x) => ({ ...x, values: { ...x.values } })),
    U: { ...l.U.value },
    says: [verdict.value, ...l.rows.value.map((r) => `${r.title}: ${r.word}, ${r.says}`)].map((s) =>
      s.slice(0, 600),
    ),
  }
  try {
    await call(loops.diagnose, { loop: loop.detail.id }, body)
    stored.value = 'stored in the record'
    trouble.value = null
  } catch (error) {
    trouble.value = sayProblem(error)
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <div class="stack">
    <div v-key-scroll class="scroll" aria-label="Measured values, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">measured</th>
            <th scope="col">approached</th>
            <th scope="col">signal from</th>
            <th v-for="s in l.stations.value" :key="s" scope="col">
              {{ l.name(s) }}<br /><span class="quiet mono">{{ heading(s) }}</span>
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(level, i) in l.levels.value" :key="i">
            <th scope="row">level {{ i + 1 }}</th>
            <td>
              <select
                :value="level.dir"
                :disabled="readonly"
                :aria-label="`Level ${i + 1} was approached`"
                @change="l.turn(i, Number(($event.target as HTMLSelectElement).value) === -1 ? -1 : 1)"
              >
                <option :value="1">rising</option>
                <option :value="-1">falling</option>
              </select>
            </td>
            <td>
              <select
                :value="level.fedAt ?? ''"
                :disabled="readonly"
                :aria-label="`Signal of level ${i + 1} from`"
                @change="
                  l.feed(
                    i,
                    l.feeds.value.find((s) => s === ($event.target as HTMLSelectElement).value) ?? null,
                  )
                "
              >
                <option value="">the process</option>
                <option v-for="s in l.feeds.value" :key="s" :value="s">{{ FEEDS[s] }}</option>
              </select>
            </td>
            <td v-for="s in l.stations.value" :key="s">
              <input
                v-if="
                  level.fedAt === undefined ||
                  l.stations.value.indexOf(s) >= l.stations.value.indexOf(level.fedAt)
                "
                class="mono"
                inputmode="decimal"
                autocomplete="off"
                :readonly="readonly"
                :aria-label="`${l.name(s)}, level ${i + 1}`"
                :aria-invalid="l.wrong.value.has(`${i}.${s}`)"
                :title="l.wrong.value.get(`${i}.${s}`)"
                :value="level.typed[s] ?? ''"
                @input="l.type(i, s, ($event.target as HTMLInputElement).value)"
              />
            </td>
          </tr>
          <tr class="quiet">
            <th scope="row">known to ±</th>
            <td />
            <td />
            <td v-for="s in l.stations.value" :key="s">
              <input
                class="mono"
                inputmode="decimal"
                autocomplete="off"
                :readonly="readonly"
                :placeholder="sayNumber(l.usualU(s), 2)"
                :aria-label="`${l.name(s)}, known to`"
                :aria-invalid="l.wrong.value.has(`U.${s}`)"
                :value="l.typedU.value[s] ?? ''"
                @input="
                  l.typedU.value = { ...l.typedU.value, [s]: ($event.target as HTMLInputElement).value }
                "
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-for="[at, says] in l.wrong.value" :key="at" class="wrong" role="alert">{{ says }}</p>
    <div class="row">
      <v-btn v-if="l.levels.value.length < MOST_LEVELS" variant="text" @click="l.addLevel"
        >Another level</v-btn
      >
      <v-btn variant="text" @click="l.clear">Clear</v-btn>
      <span class="small quiet"
        >Expanded uncertainties (k = 2); pale ones are the chosen instrument’s, or usual.</span
      >
    </div>
    <div v-if="!readonly" class="field-grid">
      <v-select
        v-for="s in l.suited.value.filter((x) => x.able.length > 0)"
        :key="s.station"
        v-model="l.readWith.value[s.station]"
        :items="s.able"
        item-value="id"
        item-title="name"
        :label="`${l.name(s.station)} read with`"
        clearable
      />
    </div>
    <div aria-live="polite" class="stack">
      <p class="answer">{{ verdict }}</p>
      <!-- What is next stands in the bottom bar; here is what goes with it. -->
      <p v-if="l.next.value">
        <v-btn
          v-if="l.next.value.act && !readonly && l.levels.value.length + 3 <= MOST_LEVELS"
          variant="text"
          @click="l.next.value.take?.()"
          >{{ l.next.value.act }}</v-btn
        >
        <router-link v-if="loop.draft?.wiring && loop.detail" :to="`/loops/${loop.detail.tag}/wire`"
          >Where the meter goes</router-link
        >
      </p>
      <ul class="segments">
        <li v-for="r in l.rows.value" :key="r.key" :class="r.state">
          <StateMark :state="r.state" :word="r.word" />
          <div>
            <strong>{{ r.title }}</strong>
            <p>{{ r.says }}</p>
            <p v-if="r.causes.length > 0" class="quiet">Causes: {{ r.causes.join('; ') }}.</p>
            <template v-if="r.settings.length > 0 && !readonly">
              <p>The loop’s own settings make these readings:</p>
              <FindingRow v-for="f in r.settings" :key="f.code" :finding="f" @fix="emit('mend', $event)" />
            </template>
            <v-btn
              v-else-if="r.procedure && loop.detail"
              variant="text"
              :to="`/loops/${loop.detail.tag}/trim?procedure=${r.procedure}`"
              >Mend it at Trim</v-btn
            >
          </div>
        </li>
      </ul>
      <div v-if="!readonly && l.rows.value.length > 0" class="row">
        <v-btn :disabled="busy || stored !== null" @click="record">Record this diagnosis</v-btn>
        <span v-if="stored" role="status">{{ stored }}</span>
        <span v-if="trouble" class="wrong" role="alert">{{ trouble }}</span>
      </div>
    </div>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 600;
  font-size: var(--size-s);
  padding: 4px 6px;
  white-space: nowrap;
}
td {
  padding: 2px;
}
/* Which level a row is stays in sight when the table is scrolled. */
tbody th {
  position: sticky;
  left: 0;
  background: var(--paper);
}
input {
  width: 100%;
  min-width: 92px;
  height: var(--target);
  padding: 0 8px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: var(--surface);
  color: var(--copper);
  text-align: right;
}
select {
  max-width: 168px;
  height: var(--target);
  padding: 0 8px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: var(--surface);
  color: var(--ink);
  font: inherit;
}
input[aria-invalid='true'] {
  border: 2px solid var(--stop);
}
input::placeholder {
  color: var(--quiet);
}
.wrong {
  color: var(--stop);
}
.answer {
  font-size: var(--size-l);
}
.segments {
  list-style: none;
  padding: 0;
}
.segments li {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  gap: 12px;
  padding: 10px 0;
  border-bottom: var(--line) solid var(--hair);
}
</style>
