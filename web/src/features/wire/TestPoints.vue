<script setup lang="ts">
import { loops } from '@calm/contract/api/addresses'
import { judgeReadings, meterOff } from '@calm/core/wire/readings'
import { testPoints, testStates } from '@calm/core/wire/test-points'
import { computed, ref, watch } from 'vue'
import { ApiProblem, call, sayProblem } from '../../api/call.ts'
import { plantTime } from '../../api/clock.ts'
import { useEquipment } from '../../api/equipment.ts'
import NumberField from '../../ui/NumberField.vue'
import StateMark from '../../ui/StateMark.vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import type { WiringBench } from './use-wiring-bench.ts'

/** What every test point should read, on paper or here: what is typed is held against the solved circuit at once. */
const { bench, tag, loopId, saved, readonly } = defineProps<{
  bench: WiringBench
  tag: string
  loopId: string
  /** The record judges by the saved wiring. */
  saved: boolean
  readonly: boolean
}>()
const wiring = computed(() => bench.sound.value)
const table = computed(() => testPoints(wiring.value))
const states = computed(() => testStates(wiring.value))
const at = ref(0)
const title = computed(() => states.value[at.value]?.title ?? '')
const typed = computed(() => bench.fieldReadings.value[title.value] ?? {})
const { instruments } = useEquipment()
const instrument = computed(() => instruments.value.find((e) => e.id === bench.meterUsed.value) ?? null)
const choices = computed(() =>
  instruments.value.map((e) => ({ value: e.id, title: e.name, subtitle: e.serial })),
)
const readings = computed(() =>
  table.value.points.flatMap((p) => {
    const value = typed.value[p.id]
    return typeof value === 'number' ? [{ id: p.id, value }] : []
  }),
)
const judgement = computed(() => {
  const state = states.value[at.value]?.state
  const off = instrument.value ? meterOff(instrument.value.functions) : undefined
  return state && readings.value.length > 0
    ? judgeReadings(wiring.value, { ...state, relays: bench.state.value.relays }, readings.value, off)
    : null
})
/** Sent again after a lost answer it is stored once; other readings are another look. */
let id = crypto.randomUUID()
const says = ref('')
watch(
  () => JSON.stringify([title.value, readings.value, bench.meterUsed.value]),
  () => {
    id = crypto.randomUUID()
    says.value = ''
  },
)
const busy = ref(false)
async function keep(): Promise<void> {
  busy.value = true
  try {
    await call(
      loops.keepReadings,
      { loop: loopId },
      {
        id,
        at: plantTime(),
        state: title.value,
        equipment: instrument.value?.id ?? null,
        readings: readings.value,
      },
    )
    says.value = 'Stored in the record.'
  } catch (error) {
    says.value =
      error instanceof ApiProblem ? (error.problem.errors?.[0]?.says ?? error.message) : sayProblem(error)
  } finally {
    busy.value = false
  }
}
const mark = (id: string) => judgement.value?.judged.find((r) => r.id === id) ?? null
const isRight = computed(() => judgement.value?.judged.every((r) => r.fits) ?? false)
const print = () => window.print()
</script>

<template>
  <section class="stack sheet" aria-label="What to read">
    <div class="row">
      <h2>
        What each test point of <span class="mono">{{ tag }}</span> should read
      </h2>
      <v-btn class="no-print" variant="text" @click="print">Print</v-btn>
    </div>
    <div v-if="table.points.length > 0" class="row no-print">
      <v-select
        v-model="at"
        :items="states.map((s, i) => ({ value: i, title: s.title }))"
        label="Read at"
        class="at"
      />
      <v-select
        :model-value="bench.meterUsed.value"
        :items="choices"
        label="Read with"
        clearable
        class="at"
        @update:model-value="bench.readWith($event ?? null)"
      >
        <template #item="{ props: p, item }">
          <v-list-item v-bind="p" :subtitle="item.subtitle" />
        </template>
      </v-select>
      <v-btn v-if="!readonly" :disabled="busy || !judgement || !saved" @click="keep"
        >Record what was read</v-btn
      >
      <span role="status">{{ says || (judgement && !saved ? 'Save the wiring first.' : '') }}</span>
    </div>
    <div v-if="judgement" role="status" class="told no-print" :class="{ off: !isRight }">
      <StateMark
        :state="isRight ? 'good' : 'stop'"
        :word="isRight ? 'As it should be' : 'Not as it should be'"
      />
      <p>{{ judgement.says }}</p>
      <ul v-if="judgement.causes.length > 1">
        <li v-for="c in judgement.causes" :key="c">{{ c }}</li>
      </ul>
    </div>
    <p v-if="table.points.length === 0" class="quiet">Wire the loop first; then this table fills itself.</p>
    <div v-else v-key-scroll class="scroll" aria-label="Test points, scrolls sideways">
      <table>
        <thead>
          <tr>
            <th scope="col">Where</th>
            <th scope="col">How</th>
            <th scope="col">Red lead</th>
            <th scope="col">Black lead</th>
            <th v-for="s in table.states" :key="s" scope="col" class="number">{{ s }}</th>
            <th scope="col" class="blank">Measured</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in table.points" :key="p.id">
            <th scope="row">{{ p.place }}</th>
            <td>{{ p.how }}</td>
            <td class="mono">{{ p.red }}</td>
            <td class="mono">{{ p.black }}</td>
            <td v-for="(r, i) in p.readings" :key="i" class="mono number">{{ r }}</td>
            <td class="blank">
              <NumberField
                class="no-print"
                :model-value="typed[p.id] ?? null"
                :label="`Measured, ${p.how === 'V across' ? 'V' : 'mA'}`"
                @update:model-value="bench.readInField(title, p.id, $event)"
              />
              <StateMark
                v-if="mark(p.id)"
                class="no-print"
                :state="mark(p.id)?.fits ? 'good' : 'stop'"
                :word="mark(p.id)?.fits ? 'fits' : 'off'"
              />
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p class="quiet small">
      From the solved circuit with typical parts; supply at its nominal voltage. For mA in series: power off,
      open the wire, leads in the mA jack, dial at mA DC, power on.
    </p>
  </section>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th,
td {
  text-align: left;
  padding: 8px;
  border-bottom: var(--line) solid var(--hair);
}
tbody th {
  font-weight: 400;
}
.number {
  text-align: right;
  white-space: nowrap;
}
/* Beside its state, not over the table's whole width. */
.at {
  max-width: 260px;
}
.told {
  display: grid;
  gap: 6px;
  padding: 12px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.off {
  background: var(--stop-surface);
}
.blank {
  min-width: 150px;
}
</style>
