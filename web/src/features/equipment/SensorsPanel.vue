<script setup lang="ts">
import type { Sensor } from '@calm/contract/sensors'
import { SENSOR_KINDS } from '@calm/core/sensor/index'
import { SENSOR_STATE_TITLES } from '@calm/core/sensor/sensor'
import { computed, ref } from 'vue'
import { useSensors } from '../../api/sensors.ts'
import { useSession } from '../../api/session-store.ts'
import { sayDay } from '../../ui/dates.ts'
import StateMark from '../../ui/StateMark.vue'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import SensorForm from './SensorForm.vue'

/** The plant's sensors: what each is, where it is, and until when its certificate counts. */
const session = useSession()
const { all, trouble } = useSensors()
const editing = ref<Sensor | 'new' | null>(null)
const kinds = computed(() =>
  SENSOR_KINDS.map((kind) => ({
    ...kind,
    sensors: all.value.filter((s) => s.description.kind === kind.id),
  })).filter((k) => k.sensors.length > 0),
)
const wordsOf = (s: Sensor): string =>
  s.on.length > 0 ? `on ${s.on.join(' and ')}` : SENSOR_STATE_TITLES[s.description.state]
</script>

<template>
  <div class="stack">
    <p v-if="trouble" class="wrong" role="alert">{{ trouble }}</p>
    <SensorForm
      v-if="editing !== null"
      :key="editing === 'new' ? 'new' : editing.id"
      :sensor="editing === 'new' ? null : editing"
      @done="editing = null"
    />
    <div v-else-if="session.mayWrite" class="row">
      <v-btn @click="editing = 'new'">Add a sensor</v-btn>
    </div>
    <p v-if="all.length === 0" class="quiet">
      No sensor is in the stock yet. What stands on a plate is typed once here, in the workshop, and picked on
      the loop.
    </p>
    <section v-for="k in kinds" :key="k.id" class="stack">
      <h2>{{ k.titles }}</h2>
      <v-table v-key-scroll class="table">
        <thead>
          <tr>
            <th scope="col">Serial</th>
            <th scope="col">What it is</th>
            <th scope="col">Where it is</th>
            <th scope="col">Certificate</th>
            <th scope="col">Counts until</th>
            <th v-if="session.mayWrite" scope="col">Plate</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in k.sensors" :key="s.id">
            <td class="mono">{{ s.name }}</td>
            <td class="what">{{ k.says(s.description.values) }}</td>
            <td>
              <StateMark v-if="s.on.length > 1" state="stop" :word="wordsOf(s)" />
              <template v-else-if="s.on.length === 1">
                on
                <router-link :to="{ name: 'set-up', params: { tag: s.on[0] } }" class="mono">{{
                  s.on[0]
                }}</router-link>
                <StateMark v-if="s.description.state === 'scrapped'" state="stop" word="scrapped" />
              </template>
              <template v-else>{{ wordsOf(s) }}</template>
            </td>
            <td class="mono">{{ s.description.certificate }}</td>
            <td>
              <StateMark
                v-if="s.valid !== null && s.description.dueOn"
                :state="s.valid ? 'good' : 'stop'"
                :word="s.valid ? sayDay(s.description.dueOn) : `ended ${sayDay(s.description.dueOn)}`"
              />
              <span v-else class="quiet">no end</span>
            </td>
            <td v-if="session.mayWrite">
              <v-btn variant="text" :aria-label="`Change ${s.name}`" @click="editing = s">Change</v-btn>
            </td>
          </tr>
        </tbody>
      </v-table>
    </section>
  </div>
</template>

<style scoped>
/* The tables scroll by themselves; the page does not. */
.stack {
  min-width: 0;
}
.wrong {
  color: var(--stop);
}
.table {
  background: var(--surface);
}
.table .mono {
  white-space: nowrap;
}
.table .what {
  min-width: 26ch;
}
</style>
