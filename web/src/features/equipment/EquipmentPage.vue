<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue'
import { useEquipment } from '../../api/equipment.ts'
import { equipment } from '@calm/contract/api/addresses'
import { ApiProblem, call } from '../../api/call.ts'
import { useSession } from '../../api/session-store.ts'
import { sayDay } from '../../ui/dates.ts'
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
const session = useSession()
const { all, trouble: says } = useEquipment()
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
const FIELDS = [
  { id: 'name', label: 'Instrument' },
  { id: 'serial', label: 'Serial number' },
  { id: 'range', label: 'Range (0 to 24 mA; 0 to 12 V)' },
  { id: 'uncertainty', label: 'Uncertainty, k = 2 (0.02 % of reading + 0.002 mA)' },
  { id: 'drift', label: 'Drift since the certificate (0.001 mA)' },
  { id: 'resolution', label: 'Smallest step shown (0.001 mA)' },
  { id: 'certificate', label: 'Certificate number' },
  { id: 'certifiedOn', label: 'Certified on (2026-11-23)' },
  { id: 'dueOn', label: 'Valid until (2027-11-23)' },
] as const
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
            v-for="f in FIELDS"
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
      <v-table v-key-scroll class="table">
        <thead>
          <tr>
            <th scope="col">Instrument</th>
            <th scope="col">Serial</th>
            <th scope="col">Range</th>
            <th scope="col">Uncertainty (k = 2)</th>
            <th scope="col">Drift</th>
            <th scope="col">Step</th>
            <th scope="col">Certificate</th>
            <th scope="col">Valid until</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="e in all" :key="e.id">
            <td>{{ e.name }}</td>
            <td class="mono">{{ e.serial }}</td>
            <td>{{ e.range }}</td>
            <td>{{ e.uncertainty }}</td>
            <td>{{ e.drift }}</td>
            <td>{{ e.resolution }}</td>
            <td class="mono">{{ e.certificate }}</td>
            <td>
              <StateMark
                :state="e.valid ? 'good' : 'stop'"
                :word="e.valid ? sayDay(e.dueOn) : `ended ${sayDay(e.dueOn)}`"
              />
            </td>
          </tr>
        </tbody>
      </v-table>
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
</style>
