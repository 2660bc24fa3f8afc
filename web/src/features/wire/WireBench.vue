<script setup lang="ts">
import { NOTHING_WIRED } from '@calm/core/part/wiring'
import { suggestParts } from '@calm/core/wire/suggest'
import { mdiRedo, mdiUndo } from '@mdi/js'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import SaveBar from '../../loop/SaveBar.vue'
import { saveFile } from '../../ui/save-file.ts'
import { useShortcut } from '../../ui/shortcuts.ts'
import CircuitFindings from './CircuitFindings.vue'
import ConnectionList from './ConnectionList.vue'
import CorrectWiring from './CorrectWiring.vue'
import { drawingFile } from './drawing-file.ts'
import LoopBudget from './LoopBudget.vue'
import MeterPanel from './MeterPanel.vue'
import PartsPanel from './PartsPanel.vue'
import SelectedPanel from './SelectedPanel.vue'
import SensingJudge from './SensingJudge.vue'
import TestPoints from './TestPoints.vue'
import TripPlanner from './TripPlanner.vue'
import { useWiringBench } from './use-wiring-bench.ts'
import WireLists from './WireLists.vue'
import WiringDrawing from './WiringDrawing.vue'

const loop = useLoop()
const session = useSession()
const reason = ref('')
const asking = ref(false)
const drawing = useTemplateRef('drawing')

const bench = useWiringBench(
  () => loop.draft?.wiring ?? null,
  () => loop.current_mA,
  (wiring) => loop.setField('wiring', wiring),
)
const { power, actuated, movable, findings, canUndo, canRedo, blown } = bench
const mayWrite = computed(() => session.mayWrite)
const isEmpty = computed(() => Object.keys(bench.sound.value.parts).length === 0)
const hasWires = computed(() => Object.keys(bench.sound.value.wires).length > 0)
const number = computed(() => /\d+/.exec(loop.draft?.tag ?? '')?.[0] ?? '')
const analogue = computed(() => bench.parts.value.some((p) => p.kind.duty === 'transmitter'))

type View = 'wiring' | 'read' | 'budget' | 'sensing' | 'trips' | 'lists'
const view = shallowRef<View>('wiring')
const views = computed((): { id: View; title: string }[] => [
  { id: 'wiring', title: 'Wiring' },
  { id: 'read', title: 'What to read' },
  ...(analogue.value || isEmpty.value ? [{ id: 'budget' as const, title: 'Loop budget' }] : []),
  ...(!analogue.value ? [{ id: 'sensing' as const, title: 'Sensing' }] : []),
  { id: 'trips', title: 'Trips' },
  { id: 'lists', title: 'Lists and checks' },
])

function start(): void {
  if (!loop.draft) return
  bench.change({ ...NOTHING_WIRED, parts: suggestParts(loop.draft) })
}
function svg(): void {
  const el = drawing.value?.svg
  if (el && loop.draft) saveFile(`${loop.draft.tag}-wiring.svg`, 'image/svg+xml', drawingFile(el))
}
const SCHOOLS = [
  { value: 'iec', title: 'Colours: IEC' },
  { value: 'na', title: 'Colours: North America' },
]
useShortcut('z', 'Undo on the wiring', bench.undo)
useShortcut('y', 'Redo on the wiring', bench.redo)
useShortcut('p', 'Power on or off', () => (power.value = !power.value))
useShortcut('Escape', 'Let go of the terminal', () => {
  bench.select(null)
})

const next = computed(() => {
  if (isEmpty.value) return 'Put the loop’s parts on the bench: begin with the usual ones and change them.'
  if (loop.wrong.size > 0) return `Mend first: ${[...loop.wrong.values()][0]}`
  if (!hasWires.value) return 'Join the terminals, or ask for the correct wiring.'
  const worst =
    findings.value.find((f) => f.severity === 'stop') ?? findings.value.find((f) => f.severity === 'warn')
  if (worst) return worst.says
  if (loop.dirty) return 'The wiring has changed and is not saved yet.'
  return 'The wiring is right. Take the list of what to read to the field.'
})
</script>

<template>
  <div v-if="loop.draft && loop.detail">
    <div class="page stack">
      <div class="row tools no-print">
        <div class="row views" role="group" aria-label="Views of the wiring">
          <v-btn
            v-for="v in views"
            :key="v.id"
            :variant="view === v.id ? 'tonal' : 'text'"
            :aria-pressed="view === v.id"
            @click="view = v.id"
            >{{ v.title }}</v-btn
          >
        </div>
        <span class="gap" />
        <template v-if="view === 'wiring' && !isEmpty">
          <v-switch v-model="power" color="primary" hide-details :label="power ? 'Power on' : 'Power off'" />
          <v-switch
            v-for="m in movable"
            :key="m.id"
            :model-value="actuated.includes(m.id)"
            color="primary"
            hide-details
            :label="`${m.id}: ${actuated.includes(m.id) ? m.on : m.off}`"
            @update:model-value="bench.toggle(m.id)"
          />
          <v-btn v-if="blown" @click="bench.replaceFuses()">Replace blown fuses</v-btn>
          <template v-if="mayWrite">
            <v-btn
              variant="text"
              :icon="mdiUndo"
              aria-label="Undo"
              :disabled="!canUndo"
              @click="bench.undo()"
            />
            <v-btn
              variant="text"
              :icon="mdiRedo"
              aria-label="Redo"
              :disabled="!canRedo"
              @click="bench.redo()"
            />
            <v-btn @click="asking = true">Correct wiring</v-btn>
          </template>
        </template>
      </div>

      <template v-if="view === 'wiring'">
        <div v-if="isEmpty" class="stack empty">
          <h2>Nothing is wired here yet</h2>
          <p>
            A wiring has parts and wires: what is in the field, what feeds it, what reads it. It is solved
            while you draw it, so you see what each terminal should read before anything is powered.
          </p>
          <v-btn v-if="mayWrite" color="primary" variant="flat" class="start" @click="start"
            >Begin with the usual parts</v-btn
          >
          <PartsPanel v-if="mayWrite" :bench="bench" :number="number" />
        </div>
        <template v-else>
          <WiringDrawing ref="drawing" :bench="bench" :readonly="!mayWrite" />
          <div class="two-sides">
            <div class="stack">
              <SelectedPanel :bench="bench" :readonly="!mayWrite" />
              <PartsPanel :bench="bench" :number="number" :readonly="!mayWrite" />
              <div class="row">
                <v-select
                  v-if="mayWrite"
                  :model-value="bench.wiring.value.school"
                  :items="SCHOOLS"
                  label="School of colours"
                  class="school"
                  @update:model-value="bench.change({ ...bench.wiring.value, school: $event })"
                />
                <v-btn variant="text" @click="svg">Drawing as SVG</v-btn>
              </div>
            </div>
            <div class="stack">
              <CircuitFindings :bench="bench" />
              <MeterPanel :bench="bench" :readonly="!mayWrite" />
            </div>
          </div>
          <ConnectionList :bench="bench" :readonly="!mayWrite" />
          <CorrectWiring v-if="mayWrite" v-model="asking" :bench="bench" />
          <p class="quiet small">
            Steady state only, typical parts: inrush, bounce and fuse time are not solved. Before touching a
            terminal: isolate, lock, prove dead. Opening or shorting a loop may move a valve or trip a plant;
            tell the operator first.
          </p>
        </template>
      </template>
      <TestPoints v-else-if="view === 'read'" :wiring="bench.sound.value" :tag="loop.draft.tag" />
      <LoopBudget v-else-if="view === 'budget'" :wiring="bench.sound.value" />
      <SensingJudge v-else-if="view === 'sensing'" :wiring="bench.sound.value" />
      <TripPlanner v-else-if="view === 'trips'" />
      <WireLists v-else :wiring="bench.sound.value" :tag="loop.draft.tag" />
    </div>
    <SaveBar v-model="reason" :next="next" />
  </div>
</template>

<style scoped>
.views {
  gap: 4px;
}
.tools {
  gap: 4px 14px;
}
.gap {
  flex: 1;
}
.empty {
  max-width: 640px;
}
.start {
  align-self: start;
}
.school {
  max-width: 260px;
}
</style>
