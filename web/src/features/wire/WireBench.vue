<script setup lang="ts">
import { settings } from '@calm/contract/api/addresses'
import { factsOf } from '@calm/core/loop/facts'
import { NOTHING_WIRED, SCHOOL_NAMES, SCHOOLS } from '@calm/core/part/wiring'
import { RelayPlanSchema } from '@calm/core/signal/relay-plan'
import { NOTHING_MEANT, type Meant } from '@calm/core/wire/proof/states'
import { suggestParts } from '@calm/core/wire/suggest'
import { mdiRedo, mdiUndo } from '@mdi/js'
import { computed, ref } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchViews from '../../loop/BenchViews.vue'
import SaveBar from '../../loop/SaveBar.vue'
import { useView } from '../../loop/use-view.ts'
import { useShortcut } from '../../ui/shortcuts.ts'
import CircuitFindings from './CircuitFindings.vue'
import ConnectionList from './ConnectionList.vue'
import CorrectWiring from './CorrectWiring.vue'
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
const meant = computed((): Meant => {
  const { senses, relays, lit = false } = loop.draft ? factsOf(loop.draft) : NOTHING_MEANT
  // A worker takes plain things only; what was typed may be impossible for a moment.
  const plans = relays?.plans.filter((p) => RelayPlanSchema.safeParse(p).success) ?? []
  return {
    senses,
    relays: relays && { ...relays, plans: JSON.parse(JSON.stringify(plans)) as typeof plans },
    lit,
  }
})
const asking = ref(false)

const rules = useLive(settings.rules, {})
/** Where a drawing begins: nothing yet, in the colours of the plant. */
const unwired = computed(() => ({
  ...NOTHING_WIRED,
  school: rules.data.value?.wireColours ?? NOTHING_WIRED.school,
}))
const bench = useWiringBench(
  () => loop.draft?.wiring ?? unwired.value,
  () => loop.current_mA,
  (wiring) => loop.setField('wiring', wiring),
  () => meant.value,
)
const { power, actuated, movable, findings, canUndo, canRedo, blown } = bench
const mayWrite = computed(() => session.mayWrite)
const isEmpty = computed(() => Object.keys(bench.sound.value.parts).length === 0)
const hasWires = computed(() => Object.keys(bench.sound.value.wires).length > 0)
const number = computed(() => /\d+/.exec(loop.draft?.tag ?? '')?.[0] ?? '')
const analogue = computed(() => bench.parts.value.some((p) => p.kind.duty === 'transmitter'))

type View = 'wiring' | 'connections' | 'read' | 'budget' | 'sensing' | 'trips' | 'lists'
const views = computed((): { id: View; title: string }[] => [
  { id: 'wiring', title: 'Wiring' },
  { id: 'connections', title: 'Connections' },
  { id: 'read', title: 'What to read' },
  ...(analogue.value || isEmpty.value ? [{ id: 'budget' as const, title: 'Loop budget' }] : []),
  ...(!analogue.value ? [{ id: 'sensing' as const, title: 'Sensing' }] : []),
  { id: 'trips', title: 'Relays' },
  { id: 'lists', title: 'Lists' },
])
const view = useView<View>(views, 'wiring')

function start(): void {
  if (!loop.draft) return
  bench.change({ ...unwired.value, parts: suggestParts(loop.draft) })
}
const schools = SCHOOLS.map((value) => ({ value, title: `Colours: ${SCHOOL_NAMES[value]}` }))
useShortcut('Ctrl+z', 'Undo on the wiring', bench.undo)
useShortcut('Ctrl+y', 'Redo on the wiring', bench.redo)
useShortcut('Delete', 'Take out what is chosen', () => {
  if (mayWrite.value) bench.removeSelected()
})
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
  return bench.judgement.value.verdict === 'proved'
    ? 'The wiring is proved right. Take the list of what to read to the field.'
    : 'Not proved: nothing reads here yet. Add what takes the signal.'
})
</script>

<template>
  <template v-if="loop.draft && loop.detail">
    <BenchViews v-model="view" :views="views" />
    <div v-if="view === 'wiring' && !isEmpty" id="work" class="board-frame" data-work-area tabindex="-1">
      <div class="board">
        <WiringDrawing :bench="bench" :readonly="!mayWrite" />
        <div class="tools no-print">
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
          <span class="gap" />
          <template v-if="mayWrite">
            <v-btn
              variant="text"
              :icon="mdiUndo"
              aria-label="Undo"
              title="Undo (Ctrl+Z)"
              :disabled="!canUndo"
              @click="bench.undo()"
            />
            <v-btn
              variant="text"
              :icon="mdiRedo"
              aria-label="Redo"
              title="Redo (Ctrl+Y)"
              :disabled="!canRedo"
              @click="bench.redo()"
            />
            <v-btn @click="asking = true">Correct wiring</v-btn>
          </template>
        </div>
      </div>
      <div class="side">
        <div class="panel stack">
          <SelectedPanel :bench="bench" :readonly="!mayWrite" />
          <CircuitFindings :bench="bench" :readonly="!mayWrite" />
          <MeterPanel :bench="bench" :readonly="!mayWrite" />
          <PartsPanel :bench="bench" :number="number" :readonly="!mayWrite" />
          <v-select
            v-if="mayWrite"
            :model-value="bench.wiring.value.school"
            :items="schools"
            label="School of colours"
            @update:model-value="bench.change({ ...bench.wiring.value, school: $event })"
          />
          <p class="quiet small">
            Steady state only, typical parts: inrush, bounce and fuse time are not solved. Before touching a
            terminal: isolate, lock, prove dead. Opening or shorting a loop may move a valve or trip a plant;
            tell the operator first.
          </p>
        </div>
        <SaveBar v-model="reason" :next="next" tall />
      </div>
      <CorrectWiring v-if="mayWrite" v-model="asking" :bench="bench" />
    </div>
    <BenchFrame v-else>
      <div class="page stack">
        <div v-if="isEmpty && (view === 'wiring' || view === 'connections')" class="stack empty">
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
        <ConnectionList v-else-if="view === 'connections'" :bench="bench" :readonly="!mayWrite" />
        <TestPoints
          v-else-if="view === 'read'"
          :bench="bench"
          :tag="loop.draft.tag"
          :loop-id="loop.detail.id"
          :saved="!loop.dirty"
          :readonly="!mayWrite"
        />
        <LoopBudget v-else-if="view === 'budget'" :wiring="bench.sound.value" :lit="meant.lit === true" />
        <SensingJudge v-else-if="view === 'sensing'" :bench="bench" />
        <TripPlanner v-else-if="view === 'trips'" :bench="bench" :readonly="!mayWrite" />
        <WireLists
          v-else
          :bench="bench"
          :tag="loop.draft.tag"
          :loop-id="loop.detail.id"
          :saved="!loop.dirty"
        />
      </div>
      <template #foot><SaveBar v-model="reason" :next="next" /></template>
    </BenchFrame>
  </template>
</template>

<style scoped>
.board-frame {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 380px;
}
.board-frame:focus {
  outline: none;
}
.board {
  position: relative;
  min-height: 0;
  min-width: 0;
}
.tools {
  position: absolute;
  inset: 4px 12px auto 12px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 14px;
  pointer-events: none;
}
.tools > * {
  pointer-events: auto;
}
.tools > .gap {
  flex: 1;
  pointer-events: none;
}
.side {
  min-height: 0;
  display: flex;
  flex-direction: column;
  border-left: var(--line) solid var(--hair);
}
.panel {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  position: relative;
  padding: 16px;
  gap: 20px;
  scroll-padding: 24px;
}
.panel :deep(.field-grid) {
  grid-template-columns: minmax(0, 1fr);
}
.empty {
  max-width: 640px;
}
.start {
  align-self: start;
}
@media (max-width: 900px) {
  .board-frame {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(0, 11fr) minmax(0, 9fr);
  }
  .side {
    border-left: 0;
    border-top: var(--line) solid var(--hair);
  }
}
@media (max-width: 640px), (max-height: 560px) {
  .board-frame {
    display: block;
  }
  .board {
    height: min(420px, 70vh);
  }
  .panel {
    overflow: visible;
  }
}
</style>
