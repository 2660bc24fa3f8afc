<script setup lang="ts">
import type { Chart } from '@calm/core/chart'
import { sayStepDone } from '@calm/core/procedure/say-step'
import { contextOf } from '@calm/core/loop/procedure-context'
import { readingsOf, type ProcedureRun } from '@calm/core/procedure/run'
import { familyOf } from '@calm/core/family/index'
import { proceduresOf } from '@calm/core/family/procedures'
import { roundText } from '@calm/core/quantity/round'
import { STATION_IDS } from '@calm/core/signal/stage'
import { stationDecimals } from '@calm/core/signal/station-decimals'
import { procedureOf } from '@calm/core/procedure/catalogue'
import type { ProcedureEventBody } from '@calm/core/procedure/events'
import { outcomeOf } from '@calm/core/procedure/closing'
import { rightOnes } from '@calm/core/procedure/hand-over'
import { missingInstruments } from '@calm/core/procedure/instruments'
import { knownTo } from '@calm/core/procedure/known-to'
import { RESULT_STATE, RESULT_WORDS } from '@calm/core/procedure/outcome'
import type { Step, Way } from '@calm/core/procedure/step'
import { computed, defineAsyncComponent, onScopeDispose, ref, useTemplateRef, watchEffect } from 'vue'
import { useRoute } from 'vue-router'
import { settings } from '@calm/contract/api/addresses'
import { useEquipment } from '../../api/equipment.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { useDevice } from '../../device/use-device.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import EarlierLine from '../../loop/EarlierLine.vue'
import { useLoop } from '../../loop/loop-store.ts'
import { useRunAsked } from '../../loop/run-asked.ts'
import ChartView from '../../ui/ChartView.vue'
import NextBar from '../../ui/NextBar.vue'
import StateMark from '../../ui/StateMark.vue'
import { whenIdle } from '../../ui/when-idle.ts'
import DevicePanel from './device/DevicePanel.vue'
import { useProcedure } from './use-procedure.ts'

// Fetched once something is under way: who chooses what is to be done does not wait for it.
const StepCard = defineAsyncComponent(() => import('./StepCard.vue'))
const StepPicture = defineAsyncComponent(() => import('./StepPicture.vue'))
const SignProcedure = defineAsyncComponent(() => import('./SignProcedure.vue'))
// What was done before is read last.
const TrimHistory = defineAsyncComponent(async () => {
  await whenIdle()
  return import('./TrimHistory.vue')
})

const loop = useLoop()
const session = useSession()
const p = useProcedure(() => loop.detail, useRunAsked())
const context = computed(() => (loop.detail ? contextOf(loop.detail.document) : null))
/** A stand-in stands on loops of the demo plant alone: readings of a real one are typed. */
const demo = computed(() => loop.detail?.demo === true)
/** What switches has no device on a link. */
const hasDevice = computed(() => demo.value && context.value !== null && context.value.discrete !== true)
const device = useDevice(() => (hasDevice.value ? (loop.detail?.id ?? null) : null))
const card = useTemplateRef<{
  done: () => Promise<void>
  label: string
  open: boolean
  waiting: boolean
  sent: boolean
  locked: boolean
}>('card')
/** What leads here may say what is to be done; the choice stays the technician’s. */
const asked = useRoute().query['procedure']
const chosen = ref<string | null>(typeof asked === 'string' ? asked : null)
const overLink = ref(true)
const withDevice = computed(() => hasDevice.value && overLink.value)
const stopping = ref(false)
const tests = useEquipment()
const rules = useLive(settings.rules, {})
const equipment = ref<string[]>([])
const reason = ref('')
const way = ref<Way>('inService')
const notInServiceBy = ref('')
const withoutInstrument = ref('')

const family = computed(() => familyOf(loop.detail?.document.family ?? null))
const list = computed(() => (context.value ? proceduresOf(family.value?.id ?? null) : []))
const selected = computed(() => list.value.find((x) => x.id === chosen.value) ?? null)
const title = computed(() => procedureOf(p.run.value?.started.procedure ?? '')?.title ?? '')
/** The readings are typed from the real device: the stand-in's would only confuse. */
const typing = computed(() => p.step.value !== null && p.run.value?.started.withDevice === false)
/** What the stand-in shows now; a real device's readings are typed step by step. */
watchEffect(() => {
  const sample = device.view.value?.samples.at(-1)
  const c = context.value
  loop.carried =
    sample && c && !typing.value
      ? {
          ink: 'simulated',
          values: {
            [STATION_IDS.sensor]: {
              text: sample.measures === false ? '–' : roundText(sample.PV, stationDecimals(c.range)),
              unit: c.range.unit,
            },
            [STATION_IDS.output]: { text: roundText(sample.mA, 3), unit: 'mA' },
          },
          from: 'Simulated: what the stand-in shows now.',
        }
      : null
})
onScopeDispose(() => (loop.carried = null))
const errors = computed((): Chart | null => {
  const run = p.run.value
  if (!run) return null
  const { range, tolerance_pct: T } = run.started.context
  const span = range.high - range.low
  const of = (phase: 'asFound' | 'asLeft') =>
    readingsOf(run, phase).map((r): readonly [number, number] => [
      (100 * (r.applied - range.low)) / span,
      (100 * (r.pv - r.applied)) / span,
    ])
  const found = of('asFound')
  if (found.length === 0) return null
  const ink = run.started.withDevice ? ({ simulated: true } as const) : {}
  const limit = (y: number, name: string) =>
    ({
      name,
      kind: 'limit',
      points: [
        [0, y],
        [100, y],
      ],
    }) as const
  const left = of('asLeft')
  return {
    title: run.started.withDevice ? 'Error of the reading, simulated' : 'Error of the reading',
    says: `As found ${found.length} points, as left ${left.length}.`,
    x: { label: 'Applied', unit: '%' },
    y: { label: 'Error', unit: '%' },
    series: [
      { name: 'as found', kind: 'points', points: found, ...ink },
      ...(left.length > 0 ? [{ name: 'as left', kind: 'line', points: left, ...ink } as const] : []),
      limit(T, 'allowed'),
      limit(-T, 'allowed, below'),
    ],
  }
})
const WAYS: readonly { value: Way; title: string }[] = [
  { value: 'inService', title: 'In service: operators told, in manual, trips bypassed' },
  { value: 'commissioning', title: 'Not in service yet: no operators, valves and pressure as always' },
  { value: 'bench', title: 'On the bench: the device is in the workshop' },
]
/** What it came to, once it has ended. */
const outcome = computed(() => (p.run.value ? outcomeOf(p.run.value) : null))
const mark = computed(() => {
  if (outcome.value)
    return { state: RESULT_STATE[outcome.value.result], word: RESULT_WORDS[outcome.value.result] }
  return { state: 'look' as const, word: p.run.value?.state === 'aborting' ? 'being stopped' : 'under way' }
})
const here = computed(() => (context.value ? { ...context.value, way: way.value } : null))
const unfit = computed(() =>
  selected.value && here.value ? (selected.value.unfit?.(here.value) ?? null) : null,
)
const tools = computed(() => {
  const told = selected.value?.tools
  return typeof told === 'function' ? (here.value ? told(here.value) : []) : (told ?? [])
})
/** Instruments that the points need and nobody has named; the stand-in's own tools are simulated. */
const lacking = computed(() =>
  selected.value && here.value && !withDevice.value
    ? missingInstruments(
        selected.value.needs?.(here.value) ?? [],
        tests.all.value.filter((e) => equipment.value.includes(e.id)),
      )
    : [],
)
const mayBegin = computed(
  () =>
    selected.value !== null &&
    unfit.value === null &&
    (lacking.value.length === 0 || withoutInstrument.value.trim() !== '') &&
    (way.value === 'inService' || notInServiceBy.value.trim() !== ''),
)
function begin(): void {
  if (!selected.value || !context.value || !mayBegin.value) return
  const named = tests.all.value.filter((e) => equipment.value.includes(e.id))
  const known = withDevice.value ? null : knownTo(context.value, named)
  p.start(selected.value.id, {
    withDevice: withDevice.value,
    equipment: equipment.value,
    ...(way.value === 'inService' ? {} : { way: way.value, notInServiceBy: notInServiceBy.value.trim() }),
    ...(known ? { knownTo: known } : {}),
    ...(rules.data.value ? { gates: rules.data.value.gates } : {}),
    ...(lacking.value.length > 0 ? { withoutInstrument: withoutInstrument.value.trim() } : {}),
  })
  chosen.value = null
  withoutInstrument.value = ''
}
function stop(): void {
  if (reason.value.trim() === '') return
  p.abort(reason.value.trim())
  stopping.value = false
  reason.value = ''
}
/** Sends a signature. @returns what is against it, or null */
async function signNow(body: ProcedureEventBody, made: { id: string; at: string }): Promise<string | null> {
  if (await p.happenNow(body, made)) return null
  const says = p.refusal.value ?? 'It was not stored. Try again.'
  p.refusal.value = null
  return says
}
/** Procedures that the readings ask for, where the work may go on by them. */
const others = computed(() => (p.run.value && p.step.value ? rightOnes(p.run.value, list.value) : []))
const goingOn = ref(false)
async function goOn(to: string): Promise<void> {
  goingOn.value = true
  await p.handOver(to)
  goingOn.value = false
}
const runnerName = computed(() => p.names.value.get(p.run.value?.runner ?? '') ?? 'somebody else')
function nextOf(run: ProcedureRun, { title }: Step): string {
  if (!p.mine.value) return `${runnerName.value} is working at it.`
  if (card.value?.locked) return 'Unlock the device with its passcode; then this step goes on.'
  if (run.state === 'aborting') return 'On the way back to a safe state: one step after the other.'
  return /[.?!]$/.test(title) ? title : `${title}.`
}
const next = computed(() => {
  if (!context.value) return 'Nothing is told of what it measures or switches: say it on Set up.'
  if (p.run.value && p.step.value) return nextOf(p.run.value, p.step.value)
  if (!session.mayWrite) return 'You may look; technicians do the work.'
  return selected.value ? `${selected.value.title}: begin when all is at hand.` : 'Choose what is to be done.'
})
</script>

<template>
  <BenchFrame>
    <BenchSplit work="Procedure" beside="Device and history" fold="Device and history" work-first>
      <template #work>
        <p v-if="p.trouble.value" role="alert" class="trouble">{{ p.trouble.value }}</p>
        <template v-if="p.run.value && p.step.value">
          <div class="row">
            <h2>{{ title }}</h2>
            <StateMark :state="mark.state" :word="mark.word" />
            <span v-if="p.run.value.started.withDevice" class="simulated-word">simulated</span>
          </div>
          <p v-if="!p.mine.value" class="taken">
            {{ runnerName }} is working at it. Take it over only when you have spoken to each other.
          </p>
          <StepCard
            v-else
            ref="card"
            :key="`${p.runId.value}/${p.step.value.id}`"
            :run="p.run.value"
            :step="p.step.value"
            :draft-key="`calm-step/${p.runId.value}`"
            :device="p.run.value.started.withDevice ? device.view.value : null"
            :busy="device.busy.value"
            :ask="device.ask"
            :answer="p.answer"
          />
          <section v-if="p.mine.value && others.length > 0" class="stack" aria-label="The right procedure">
            <p>
              Is another one the right procedure? Go on with it here: the loop stays as it is, nobody is
              called again.
            </p>
            <div class="row">
              <v-btn v-for="id in others" :key="id" variant="outlined" :loading="goingOn" @click="goOn(id)"
                >Go on with: {{ procedureOf(id)?.title }}</v-btn
              >
            </div>
          </section>
          <template v-if="p.mine.value && p.run.value.state === 'running'">
            <v-btn v-if="!stopping" variant="text" class="stop-here" @click="stopping = true"
              >Stop here and make it safe</v-btn
            >
            <div v-else class="stack">
              <v-text-field
                v-model="reason"
                label="Why it is stopped"
                maxlength="500"
                autofocus
                @keydown.enter="stop"
              />
              <div class="row">
                <v-btn :disabled="reason.trim() === ''" @click="stop">Lead me back</v-btn>
                <v-btn variant="text" @click="stopping = false">Go on instead</v-btn>
              </div>
            </div>
          </template>
          <details v-if="p.run.value.done.length > 0">
            <summary>{{ p.run.value.done.length }} steps done</summary>
            <ol class="small">
              <li v-for="d in p.run.value.done" :key="d.step.id">
                {{ d.step.title }}
                <span class="quiet">{{ sayStepDone(d).join('; ') }}</span>
              </li>
            </ol>
          </details>
        </template>
        <template v-else-if="context && p.loaded.value">
          <section v-if="p.run.value" class="stack" aria-label="What the last one came to">
            <EarlierLine v-if="p.isEarlier.value" what="procedure" :at="p.run.value.startedAt" />
            <p class="row">
              <span>{{ p.isEarlier.value ? '' : 'Last: ' }}{{ title }}</span>
              <StateMark :state="mark.state" :word="mark.word" />
              <span v-if="p.run.value.started.withDevice" class="simulated-word">simulated</span>
            </p>
            <p v-for="line in outcome?.says ?? []" :key="line" class="small quiet">{{ line }}</p>
            <SignProcedure
              v-if="p.runId.value && loop.detail && p.unsent.value === 0"
              :run="p.run.value"
              :run-id="p.runId.value"
              :title="title"
              :outcome="outcome"
              :loop="loop.detail"
              :names="p.names.value"
              :record="signNow"
            />
          </section>
          <h2>What is to be done</h2>
          <v-checkbox
            v-if="session.mayWrite && hasDevice"
            v-model="overLink"
            label="Read and write over the link of the stand-in; else every reading is typed"
            hide-details
          />
          <v-select v-if="session.mayWrite" v-model="way" :items="WAYS" label="The loop is" hide-details />
          <v-text-field
            v-if="session.mayWrite && way !== 'inService'"
            v-model="notInServiceBy"
            label="Who says so, by name"
            maxlength="60"
            hide-details
          />
          <v-select
            v-if="session.mayWrite"
            v-model="equipment"
            :items="tests.instruments.value"
            item-value="id"
            item-title="name"
            label="Instruments used, in date"
            multiple
            chips
            closable-chips
            hide-details
          />
          <v-radio-group v-model="chosen" aria-label="Procedure" hide-details>
            <template v-for="x in list" :key="x.id">
              <v-radio :value="x.id" :disabled="!session.mayWrite">
                <template #label>
                  <span class="choice">
                    <strong>{{ x.title }}</strong> <span class="quiet">about {{ x.minutes }} min</span>
                  </span>
                </template>
              </v-radio>
              <article v-if="selected?.id === x.id" class="needs">
                <p>{{ x.purpose }}</p>
                <p v-if="unfit" role="alert" class="trouble">
                  {{ unfit.says }}
                  <v-btn v-if="unfit.instead" variant="text" @click="chosen = unfit.instead">{{
                    procedureOf(unfit.instead)?.title
                  }}</v-btn>
                </p>
                <p><strong>At hand:</strong> {{ tools.join('; ') }}.</p>
                <p v-if="way === 'inService'">
                  <strong>Allowed by the operators:</strong> {{ x.permissions.join('; ') }}.
                </p>
                <template v-if="lacking.length > 0">
                  <p v-for="line in lacking" :key="line">{{ line }}</p>
                  <v-text-field
                    v-model="withoutInstrument"
                    label="Why it is done without"
                    maxlength="500"
                    hide-details
                  />
                </template>
              </article>
            </template>
          </v-radio-group>
        </template>
      </template>
      <template #beside>
        <StepPicture v-if="p.run.value && p.step.value" :run="p.run.value" :step="p.step.value" />
        <DevicePanel
          v-if="context && loop.detail && hasDevice && !typing"
          :loop-id="loop.detail.id"
          :tag="loop.detail.tag"
          :device="device.view.value"
          :range="context.range"
          :may-write="session.mayWrite"
          :busy="device.busy.value"
          :answer="device.answer.value"
          :trouble="device.trouble.value"
          :ask="device.ask"
        />
        <section v-if="errors" class="stack" aria-label="Before and after">
          <ChartView :chart="errors" :height="200" />
        </section>
        <TrimHistory v-if="context && loop.detail" :loop-id="loop.detail.id" />
      </template>
    </BenchSplit>
    <template #foot>
      <NextBar :next="next" :stored="p.stored.value" :refusal="p.refusal.value">
        <template v-if="session.mayWrite && context">
          <v-btn
            v-if="p.step.value && p.mine.value"
            color="primary"
            variant="flat"
            height="48"
            min-width="180"
            :disabled="!card || card.open || card.waiting || card.sent || device.busy.value"
            @click="card?.done()"
            >{{ card?.label ?? 'Done' }}</v-btn
          >
          <v-btn v-else-if="p.step.value" height="48" @click="p.takeOver()">Take it over</v-btn>
          <v-btn
            v-else-if="p.loaded.value"
            color="primary"
            variant="flat"
            height="48"
            :disabled="!mayBegin"
            @click="begin"
            >Begin</v-btn
          >
        </template>
      </NextBar>
    </template>
  </BenchFrame>
</template>

<style scoped>
.trouble {
  color: var(--stop);
}
.taken {
  padding: 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
.choice {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 0 10px;
  padding: 8px 0;
}
.needs {
  display: flex;
  flex-direction: column;
  gap: 8px;
  padding: 12px 16px;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.simulated-word {
  color: var(--simulated);
}
.stop-here {
  color: var(--stop);
  align-self: flex-start;
}
</style>
