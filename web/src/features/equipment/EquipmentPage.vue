<script setup lang="ts">
import type { PartState } from '@calm/core/loop/parts'
import { computed, defineAsyncComponent, ref, shallowRef } from 'vue'
import { useEquipment, type KnownEquipment } from '../../api/equipment.ts'
import { equipment } from '@calm/contract/api/addresses'
import { ApiProblem, call } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'
import { daysUntil, sayDay } from '../../ui/dates.ts'
import { INSTRUMENT_FIELDS } from './instrument-fields.ts'
import StateMark from '../../ui/StateMark.vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import { useView } from '../../loop/use-view.ts'

const VIEWS = [
  { id: 'instruments', title: 'Instruments' },
  { id: 'sensors', title: 'Sensors' },
] as const
type View = (typeof VIEWS)[number]['id']
const view = useView<View>(VIEWS, 'instruments')
// What a plate can say comes only to who looks at sensors.
const SensorsPanel = defineAsyncComponent(() => import('./SensorsPanel.vue'))
const InstrumentDialog = defineAsyncComponent(() => import('./InstrumentDialog.vue'))
const session = useSession()
const { register, trouble: says } = useEquipment()
const showRetired = ref(false)
/** What runs out first stands first. */
const listed = computed(() =>
  register.value
    .filter((e) => showRetired.value || !e.retired)
    .toSorted((a, b) => Number(a.retired) - Number(b.retired) || a.dueOn.localeCompare(b.dueOn)),
)
const someRetired = computed(() => register.value.some((e) => e.retired))
const opened = shallowRef<KnownEquipment | null>(null)
const SOON_DAYS = 60
function stateOf(e: KnownEquipment): { state: PartState; word: string } {
  const left = daysUntil(e.dueOn, new Date())
  if (e.retired) return { state: 'notYet', word: 'retired' }
  if (!e.valid) return { state: 'stop', word: `ended ${sayDay(e.dueOn)}` }
  return left <= SOON_DAYS
    ? { state: 'look', word: `${sayDay(e.dueOn)}, in ${left} ${left === 1 ? 'day' : 'days'}` }
    : { state: 'good', word: sayDay(e.dueOn) }
}
const adding = ref(false)
const problem = ref<ApiProblem | null>(null)
const EMPTY = {
  name: '',
  serial: '',
  range: '',
  uncertainty: '',
  drift: '',
  resolution: '',
  certificate: '',
  certifiedOn: '',
  dueOn: '',
}
const form = ref({ ...EMPTY })
let id = crypto.randomUUID()

async function add(): Promise<void> {
  problem.value = null
  try {
    await call(equipment.add, {}, { id, ...form.value })
    form.value = { ...EMPTY }
    id = crypto.randomUUID()
    adding.value = false
  } catch (error) {
    if (error instanceof ApiProblem) problem.value = error
  }
}
</script>

<template>
  <div class="page stack">
    <div class="row">
      <h1>{{ view === 'sensors' ? 'Sensors' : 'Instruments' }}</h1>
      <v-btn-toggle v-model="view" mandatory variant="outlined" aria-label="What is listed">
        <v-btn v-for="v in VIEWS" :key="v.id" :value="v.id">{{ v.title }}</v-btn>
      </v-btn-toggle>
      <span class="gap" />
      <v-btn v-if="view === 'instruments' && session.mayWrite && !adding" @click="adding = true"
        >Add an instrument</v-btn
      >
    </div>
    <SensorsPanel v-if="view === 'sensors'" />
    <template v-else>
      <p v-if="says" class="wrong" role="alert">{{ says }}</p>
      <form v-if="adding" class="stack" novalidate aria-label="Add an instrument" @submit.prevent="add">
        <div class="field-grid">
          <v-text-field
            v-for="f in INSTRUMENT_FIELDS"
            :key="f.id"
            v-model="form[f.id]"
            :label="f.label"
            :error-messages="problem?.at(f.id) ?? undefined"
          />
        </div>
        <p v-if="problem && !problem.problem.errors" class="wrong" role="alert">{{ problem.message }}</p>
        <div class="row">
          <v-btn type="submit" color="primary" variant="flat">Add</v-btn>
          <v-btn variant="text" @click="adding = false">Not now</v-btn>
        </div>
      </form>
      <v-table v-key-scroll class="table stacked">
        <thead>
          <tr>
            <th scope="col">Instrument</th>
            <th scope="col">Serial</th>
            <th scope="col">Range</th>
            <th scope="col">Uncertainty (k = 2)</th>
            <th scope="col" class="less">Drift</th>
            <th scope="col" class="less">Step</th>
            <th scope="col">Certificate</th>
            <th scope="col">Valid until</th>
            <td></td>
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in listed" :key="e.id">
            <td>{{ e.name }}</td>
            <td class="mono" data-says="serial">{{ e.serial }}</td>
            <td data-says="range">{{ e.range }}</td>
            <td data-says="uncertainty (k = 2)">{{ e.uncertainty }}</td>
            <td class="less">{{ e.drift }}</td>
            <td class="less">{{ e.resolution }}</td>
            <td class="mono" data-says="certificate">{{ e.certificate }}</td>
            <td>
              <StateMark v-bind="stateOf(e)" />
            </td>
            <td>
              <v-btn height="44" :aria-label="`Open ${e.name}, ${e.serial}`" @click="opened = e">Open</v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
      <v-btn v-if="someRetired" variant="text" height="48" @click="showRetired = !showRetired">{{
        showRetired ? 'Hide the retired ones' : 'Show the retired ones'
      }}</v-btn>
      <InstrumentDialog v-if="opened" :key="opened.id" :instrument="opened" @close="opened = null" />
    </template>
  </div>
</template>

<style scoped>
.gap {
  flex: 1;
}
.wrong {
  color: var(--stop);
}
.table {
  background: var(--surface);
}
/* In each instrument all of it stands. */
@media (max-width: 1100px) {
  .less {
    display: none;
  }
}
</style>
