<script setup lang="ts">
import type { Sensor } from '@calm/contract/sensors'
import type { Finding } from '@calm/core/finding'
import { FAMILIES } from '@calm/core/family/index'
import { entriesOfSensor, untoldOfSensor } from '@calm/core/family/sensor-choice'
import { sensitivityOf } from '@calm/core/family/what-if'
import { entryPath, type LoopFacts } from '@calm/core/loop/facts'
import { withField } from '@calm/core/loop/field-path'
import { provedFindings, restsOn, type Rests } from '@calm/core/loop/rests-on'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { shownResult } from '@calm/core/loop/shown-result'
import { asFamily, beginSetUp } from '@calm/core/loop/what-it-is'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { saidIn, shownIn } from '@calm/core/quantity/shown-in'
import { settingProblem, shownSettings, valuesOf, type SettingValue } from '@calm/core/quantity/setting'
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import BenchFrame from '../../loop/BenchFrame.vue'
import BenchSplit from '../../loop/BenchSplit.vue'
import BenchViews from '../../loop/BenchViews.vue'
import JumpList from '../../loop/JumpList.vue'
import SaveBar from '../../loop/SaveBar.vue'
import { usePlantUnits } from '../../loop/use-plant-units.ts'
import { useView } from '../../loop/use-view.ts'
import FindingRow from '../../ui/FindingRow.vue'
import ChartView from '../../ui/ChartView.vue'
import PlainTable from '../../ui/PlainTable.vue'
import FamilyChoice from './FamilyChoice.vue'
import HowSure from './HowSure.vue'
import ManifoldPanel from './ManifoldPanel.vue'
import RestsPanel from '../../loop/RestsPanel.vue'
import SensorChoice from '../../loop/SensorChoice.vue'
import ScaleDrawing from '../../ui/ScaleDrawing.vue'
import SettingField from '../../ui/SettingField.vue'
import SettingsSheet from './SettingsSheet.vue'
import VesselTable from './VesselTable.vue'

const loop = useLoop()
const session = useSession()
const reason = ref('')

loop.needFacts()
const facts = computed(() => loop.facts)
const setUp = computed(() => loop.draft?.setUp ?? null)
const family = computed(() => facts.value?.family ?? null)
/** Begun here, or by somebody's entries; what the words of the list made likely does not count. */
const opened = ref(false)
const begun = computed(() => opened.value || facts.value?.setUpBegun === true)
/** The last possible entries stay computed while one is being typed. */
const sound = shallowRef<LoopFacts | null>(null)
watch(
  facts,
  (now) => {
    if (sound.value?.family !== now?.family || !Object.values(now?.entries ?? {}).includes('refused'))
      sound.value = now
  },
  { immediate: true },
)
const soundSetUp = computed(
  () => sound.value && { values: sound.value.values, tolerances: setUp.value?.tolerances ?? {} },
)
const units = usePlantUnits()
const loopUnit = computed(() => facts.value?.range?.unit ?? null)
const result = computed(() => (sound.value ? judgeSetUp(sound.value, loop.current_mA) : null))
/** The same in the units in which the loop and the plant speak. */
const told = computed(() => result.value && shownResult(result.value, loopUnit.value, units.value))
/** The sheet before the device's units are taken. */
const ownSheet = computed(() =>
  sound.value ? (judgeSetUp({ ...sound.value, sheetUnits: {} })?.sheet ?? []) : [],
)
/** What each result rests on: what nobody confirmed, what cannot be, what a judgement stops. */
const rests = shallowRef<Rests | null>(null)
// Each assumption is tried by itself: that is looked at when the typing rests.
const lookAtRests = () =>
  (rests.value = facts.value && result.value ? restsOn(facts.value, result.value) : null)
watch(() => facts.value?.family, lookAtRests, { immediate: true })
watchDebounced([facts, result], lookAtRests, { debounce: 250, maxWait: 1500 })
const groups = computed(() => {
  const f = family.value
  if (!f) return []
  const values = valuesOf(f.settings, setUp.value?.values ?? {})
  return f.groups
    .map((g) => ({ ...g, settings: shownSettings(g.settings, values) }))
    .filter((g) => g.settings.length > 0)
})
/** What the words of the list made likely, until somebody confirms it. */
const guessed = computed(() =>
  (family.value?.settings ?? []).flatMap((x) => {
    const value = setUp.value?.values[x.name]
    if (value === undefined || !loop.draft?.unconfirmed.includes(entryPath(x.name))) return []
    const said = x.kind === 'choice' ? x.options.find((o) => o.value === value)?.title : String(value)
    return [{ name: x.name, says: `${x.title}: ${said ?? ''}` }]
  }),
)
const vessel = computed(() => sound.value?.vessel ?? null)
const manifold = computed(() => sound.value?.manifold ?? null)
type View = 'set-up' | 'sure' | 'vessel' | 'manifold' | 'sheet'
const views = computed((): { id: View; title: string }[] =>
  family.value && begun.value
    ? [
        { id: 'set-up', title: 'Entries' },
        ...(family.value.whatIf ? [{ id: 'sure' as const, title: 'How sure' }] : []),
        ...(vessel.value ? [{ id: 'vessel' as const, title: 'Tank table' }] : []),
        ...(manifold.value ? [{ id: 'manifold' as const, title: 'Manifold' }] : []),
        { id: 'sheet', title: 'Settings sheet' },
      ]
    : [],
)
const view = useView<View>(views, 'set-up')
const effects = computed(() =>
  family.value && soundSetUp.value
    ? sensitivityOf(family.value, soundSetUp.value.values, soundSetUp.value.tolerances).slice(0, 6)
    : [],
)
const largest = computed(() => Math.max(1e-9, ...effects.value.map((e) => Math.abs(e.effect_pct))))
const findings = computed(() => provedFindings(result.value?.findings ?? [], rests.value))
const mayWrite = computed(() => session.mayWrite)

/** Another kind of meter begins anew; its set-up starts from the loop's own range. */
function become(id: string | null): void {
  opened.value = false
  loop.change((d) => (d.family === id ? d : asFamily(d, id)))
}
function begin(): void {
  opened.value = true
  loop.change((d) => beginSetUp(d, units.value))
}
const set = (name: string, value: SettingValue) => loop.setField(entryPath(name), value)
const setTolerances = (tolerances: Record<string, number>) =>
  setUp.value && loop.setField('setUp', { ...setUp.value, tolerances })
const valueOf = (name: string): SettingValue => {
  const setting = groups.value.flatMap((g) => g.settings).find((x) => x.name === name)
  return setUp.value?.values[name] ?? setting?.standard ?? ''
}
/** A sensor of the stock goes on this loop: what its plate says is entered, and is nobody’s assumption. */
function pick(sensor: Sensor | null): void {
  const f = family.value
  if (!f || !setUp.value) return
  loop.setField('setUp', withField(setUp.value, 'sensor', sensor?.id))
  if (!sensor) return
  for (const [name, value] of Object.entries(entriesOfSensor(f, sensor.description))) {
    loop.setField(entryPath(name), value)
    loop.confirm(entryPath(name))
  }
  // What the workshop left as it stood is no fact by being picked.
  const untold = untoldOfSensor(f, sensor.description).map(entryPath)
  loop.change((d) => ({ ...d, unconfirmed: [...new Set([...d.unconfirmed, ...untold])] }))
  if (reason.value === '') reason.value = `${sensor.name} is on it`
}
/** As it stands, each entry is now somebody’s word. */
function confirm(names: readonly string[]): void {
  for (const name of names) {
    loop.setField(entryPath(name), valueOf(name))
    loop.confirm(entryPath(name))
  }
}
/** Told at the entry only where something rests on it. */
const isAssumed = (name: string) =>
  facts.value?.entries[name] === 'assumed' && rests.value?.assumed.some((s) => s.name === name) === true
/** An entry that cannot be, in the unit in which it is shown. */
function refusal(name: string): string | null {
  const says = loop.wrong.get(entryPath(name)) ?? null
  const setting = family.value?.settings.find((x) => x.name === name)
  if (says === null || setting?.kind !== 'number') return says
  const as = saidIn(setting.unit, shownIn(setting.unit, loopUnit.value, units.value))
  return settingProblem(setting, valueOf(name), as) ?? says
}
const wrong = (name: string) =>
  refusal(name) ??
  (result.value?.rows.length === 0
    ? (result.value.findings.find((f) => f.where.includes(name))?.says ?? null)
    : null)
const shown = (value: number | string, decimals?: number) =>
  typeof value === 'string'
    ? value
    : decimals === undefined
      ? sayNumber(value, 6)
      : roundText(value, decimals)

function mend(finding: Finding): void {
  void loop.mend(finding)
  if (reason.value === '') reason.value = finding.fix?.label ?? ''
}

const next = computed(() => {
  if (!family.value) return 'Choose what kind of meter this loop is.'
  if (!begun.value) return 'Begin the set-up, then enter what is on the pipe, the label and the certificate.'
  const [first] = loop.wrong
  if (first) return `Mend first: ${refusal(first[0].replace(entryPath(''), '')) ?? first[1]}`
  const stop =
    findings.value.find((f) => f.severity === 'stop') ?? findings.value.find((f) => f.severity === 'warn')
  if (stop) return stop.says
  if (loop.dirty) return 'The set-up has changed and is not saved yet.'
  const open = rests.value?.assumed.length ?? 0
  return open > 0
    ? `Consistent, and resting on ${open} ${open === 1 ? 'assumption' : 'assumptions'}: confirm or change ${open === 1 ? 'it' : 'them'} before the sheet goes to the device.`
    : 'The set-up is consistent. Take the settings sheet to the device.'
})
</script>

<template>
  <BenchFrame v-if="loop.draft && loop.detail">
    <BenchViews v-model="view" :views="views" />
    <div v-if="!family || !begun" class="page">
      <div class="stack empty">
        <h2>Nothing is set up here yet</h2>
        <p v-if="!family">
          This loop has no kind of meter yet, so nothing can be judged or suggested for it. Choose it here.
        </p>
        <FamilyChoice
          :family="family"
          :families="FAMILIES"
          :entries="0"
          :readonly="!mayWrite"
          @become="become"
        />
        <template v-if="family">
          <p v-for="g in guessed" :key="g.name" class="quiet">From the words of the list: {{ g.says }}</p>
          <v-btn v-if="mayWrite" color="primary" variant="flat" class="begin" @click="begin"
            >Begin with the loop’s range</v-btn
          >
        </template>
      </div>
    </div>
    <BenchSplit v-else-if="view === 'set-up'" work="Entries" beside="What follows" fold="Picture and results">
      <template #work>
        <JumpList :sections="groups.map((g, i) => ({ id: `section-${i}`, title: g.title }))" />
        <FamilyChoice
          :family="family"
          :families="FAMILIES"
          :entries="Object.keys(setUp?.values ?? {}).length"
          :readonly="!mayWrite"
          @become="become"
        />
        <SensorChoice
          v-if="family.sensor"
          :family="family"
          :typed="setUp?.values ?? {}"
          :sensor-id="setUp?.sensor ?? null"
          :tag="loop.draft.tag"
          :readonly="!mayWrite"
          @pick="pick"
        />
        <div v-if="guessed.length > 0" class="row guessed">
          <span>From the words of the list: {{ guessed.map((g) => g.says).join('; ') }}</span>
          <v-btn
            v-if="mayWrite"
            variant="outlined"
            @click="guessed.forEach((g) => loop.confirm(entryPath(g.name)))"
            >Confirm</v-btn
          >
        </div>
        <fieldset v-for="(g, i) in groups" :id="`section-${i}`" :key="g.title" class="stack">
          <legend>{{ g.title }}</legend>
          <div class="field-grid" :class="{ three: g.columns === 3, four: g.columns === 4 }">
            <SettingField
              v-for="x in g.settings"
              :key="x.name"
              :setting="x"
              :value="valueOf(x.name)"
              :loop-unit="loopUnit"
              :units="units"
              :error="wrong(x.name)"
              :typed="loop.draft.asTyped[entryPath(x.name)] ?? null"
              :assumed="isAssumed(x.name)"
              :readonly="!mayWrite"
              :class="{
                wide: (x.kind === 'text' && !g.columns) || x.kind === 'table',
              }"
              @set="set"
              @typed="(name, text) => loop.keepTyped(entryPath(name), text)"
            />
          </div>
        </fieldset>
        <p class="small quiet">
          What is assumed is a typical value: confirm it, or type your own. A unit can be typed after the
          number: 2 in, 14.5 psi.
        </p>
      </template>
      <template v-if="result" #beside>
        <ScaleDrawing v-if="result.drawing" :drawing="result.drawing" />
        <RestsPanel
          v-if="rests"
          :assumed="rests.assumed"
          :value-of="valueOf"
          :readonly="!mayWrite"
          @confirm="confirm"
        />
        <FindingRow
          v-for="f in findings"
          :key="`${f.code}${f.where.join()}${f.says}`"
          :finding="f"
          @fix="mend"
        />
        <table v-if="told && told.rows.length > 0" class="shares">
          <caption>
            What follows from it
          </caption>
          <tbody>
            <tr v-for="r in told.rows" :key="r.label">
              <th scope="row">
                {{ r.label }}<span v-if="r.typical" class="quiet small"> typical; check the data sheet</span>
              </th>
              <td class="mono" :class="{ assumed: (rests?.rows.get(r.label)?.assumed.length ?? 0) > 0 }">
                {{
                  rests?.rows.get(r.label)?.refused.length
                    ? 'not known'
                    : `${shown(r.value, r.decimals)} ${r.unit ?? ''}`
                }}
              </td>
            </tr>
          </tbody>
        </table>
        <PlainTable v-for="t in told?.tables ?? []" :key="t.title" :table="t" />
        <ChartView v-for="c in told?.charts ?? []" :key="c.title" :chart="c" />
        <table v-if="effects.length > 0" class="shares">
          <caption>
            What matters most for the reading
          </caption>
          <tbody>
            <tr v-for="e in effects" :key="e.name">
              <th scope="row">
                {{ e.title }}, off by {{ sayNumber(e.tolerance) }} {{ e.unit === 'degC' ? '°C' : e.unit }}
              </th>
              <td class="bar">
                <span :style="{ width: `${(Math.abs(e.effect_pct) / largest) * 100}%` }" />
              </td>
              <td class="mono">
                {{ e.effect_pct > 0 ? '+' : '−' }}{{ sayNumber(Math.abs(e.effect_pct), 2) }} %
              </td>
            </tr>
          </tbody>
        </table>
      </template>
    </BenchSplit>
    <div v-else class="page">
      <HowSure
        v-if="view === 'sure' && soundSetUp"
        :family="family"
        :set-up="soundSetUp"
        :readonly="!mayWrite"
        @tolerances="setTolerances"
      />
      <VesselTable
        v-else-if="view === 'vessel' && soundSetUp && vessel"
        :family="family"
        :set-up="soundSetUp"
        :vessel="vessel"
        :tag="loop.draft.tag"
        :loop-unit="loopUnit"
      />
      <ManifoldPanel v-else-if="view === 'manifold' && manifold" :key="manifold" :kind="manifold" />
      <template v-else-if="result">
        <RestsPanel
          v-if="rests"
          class="no-print"
          :assumed="rests.assumed"
          :value-of="valueOf"
          :readonly="!mayWrite"
          @confirm="confirm"
        />
        <SettingsSheet
          :family="family"
          :result="result"
          :own="ownSheet"
          :units="setUp?.units ?? {}"
          :loop-unit="loopUnit"
          :as-typed="loop.draft.asTyped"
          :device="setUp?.device ?? ''"
          :rests="rests"
          :loop-id="loop.detail.id"
          :readonly="!mayWrite"
          :tag="loop.draft.tag"
          :service="loop.draft.service"
          :saved="
            loop.dirty
              ? null
              : { revision: loop.detail.revision, at: loop.detail.revisedAt, by: loop.detail.revisedBy }
          "
          @device="(name) => setUp && loop.setField('setUp', withField(setUp, 'device', name || undefined))"
          @units="(chosen) => setUp && loop.setField('setUp', { ...setUp, units: chosen })"
        />
      </template>
    </div>
    <template #foot><SaveBar v-model="reason" :next="next" /></template>
  </BenchFrame>
</template>

<style scoped>
.three {
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 12px 8px;
}
.four {
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 12px 8px;
}
@media (max-width: 700px) {
  .four {
    grid-template-columns: repeat(2, minmax(0, 1fr));
  }
}
.begin {
  align-self: flex-start;
}
.guessed {
  padding: 8px 12px;
  border-left: 3px solid var(--accent);
  background: var(--surface);
}
.wide {
  grid-column: 1 / -1;
}
.empty {
  max-width: 720px;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
}
legend {
  font-size: var(--size-l);
  font-weight: 600;
  padding: 0 0 8px;
}
.mono.assumed {
  color: transparent;
  -webkit-text-stroke: 0.7px var(--ink);
}
</style>
