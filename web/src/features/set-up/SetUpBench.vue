<script setup lang="ts">
import type { Finding } from '@calm/core/finding'
import { settingsOfFamily } from '@calm/core/instrument/family'
import { FAMILIES, familyFor, familyOf } from '@calm/core/instrument/index'
import { sensitivityOf } from '@calm/core/instrument/what-if'
import { SetUp } from '@calm/core/instrument/set-up'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { roundText, sayNumber } from '@calm/core/quantity/round'
import { settingsOf, type SettingValue } from '@calm/core/quantity/setting'
import { computed, ref, shallowRef, watch } from 'vue'
import { useSession } from '../../api/session-store.ts'
import { useLoop } from '../../loop/loop-store.ts'
import SaveBar from '../../loop/SaveBar.vue'
import FindingRow from '../../ui/FindingRow.vue'
import ChartView from '../../ui/ChartView.vue'
import PlainTable from '../../ui/PlainTable.vue'
import HowSure from './HowSure.vue'
import ManifoldPanel from './ManifoldPanel.vue'
import ScaleDrawing from './ScaleDrawing.vue'
import SettingField from './SettingField.vue'
import SettingsSheet from './SettingsSheet.vue'
import VesselTable from './VesselTable.vue'

const loop = useLoop()
const session = useSession()
const reason = ref('')
const view = shallowRef<'set-up' | 'sure' | 'vessel' | 'manifold' | 'sheet'>('set-up')

const setUp = computed(() => loop.draft?.setUp ?? null)
const family = computed(() => (setUp.value ? familyOf(setUp.value.family) : null))
const suggested = computed(() => (loop.draft ? familyFor(loop.draft.type, loop.draft.signal) : null))
/** The last possible entries stay computed while one is being typed. */
const sound = shallowRef<SetUp | null>(null)
watch(setUp, (s) => (sound.value = s === null || SetUp.safeParse(s).success ? s : sound.value), {
  immediate: true,
})
const result = computed(() =>
  sound.value && loop.draft
    ? judgeSetUp(sound.value, loop.draft.path, { current_mA: loop.current_mA })
    : null,
)
const settings = computed(() =>
  family.value ? settingsOf(settingsOfFamily(family.value), setUp.value?.values ?? {}) : null,
)
const groups = computed(() => {
  const s = settings.value
  return s && family.value
    ? family.value.groups
        .map((g) => ({ ...g, settings: g.settings.filter((x) => !x.when || x.when(s)) }))
        .filter((g) => g.settings.length > 0)
    : []
})
const soundSettings = computed(() =>
  family.value && sound.value ? settingsOf(settingsOfFamily(family.value), sound.value.values) : null,
)
const vessel = computed(() => (soundSettings.value && family.value?.vessel?.(soundSettings.value)) ?? null)
const manifold = computed(
  () => (soundSettings.value && family.value?.manifold?.(soundSettings.value)) ?? null,
)
const effects = computed(() =>
  family.value && sound.value
    ? sensitivityOf(family.value, sound.value.values, sound.value.tolerances).slice(0, 6)
    : [],
)
const largest = computed(() => Math.max(1e-9, ...effects.value.map((e) => Math.abs(e.effect_pct))))
const findings = computed(() => result.value?.findings ?? [])
const mayWrite = computed(() => session.mayWrite)

const begin = (id: string) => loop.setField('setUp', { family: id, values: {} })
function set(name: string, value: SettingValue): void {
  const s = setUp.value
  if (s) loop.setField('setUp', { ...s, values: { ...s.values, [name]: value } })
}
const setTolerances = (tolerances: Record<string, number>) =>
  setUp.value && loop.setField('setUp', { ...setUp.value, tolerances })
const valueOf = (name: string): SettingValue => {
  const setting = groups.value.flatMap((g) => g.settings).find((x) => x.name === name)
  return setUp.value?.values[name] ?? setting?.standard ?? ''
}
const isDefault = (name: string) => setUp.value?.values[name] === undefined
const wrong = (name: string) =>
  loop.wrong.get(`setUp.values.${name}`) ??
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
  for (const { path, value } of finding.fix?.set ?? []) loop.setField(path, value)
  if (reason.value === '') reason.value = finding.fix?.label ?? ''
}

const next = computed(() => {
  if (!setUp.value)
    return 'Choose the family of the device, then enter what is on the pipe, the label and the certificate.'
  if (loop.wrong.size > 0) return `Mend first: ${[...loop.wrong.values()][0]}`
  const stop =
    findings.value.find((f) => f.severity === 'stop') ?? findings.value.find((f) => f.severity === 'warn')
  if (stop) return stop.says
  return loop.dirty
    ? 'The set-up has changed and is not saved yet.'
    : 'The set-up is consistent. Take the settings sheet to the device.'
})
</script>

<template>
  <div v-if="loop.draft && loop.detail">
    <div class="page stack">
      <div v-if="!family" class="stack empty">
        <h2>Nothing is set up here yet</h2>
        <p v-if="!suggested">Nothing in this loop’s words tells its family. Choose it here.</p>
        <div v-if="mayWrite" class="row">
          <v-btn
            v-for="f in FAMILIES"
            :key="f.id"
            :variant="f === suggested ? 'flat' : 'outlined'"
            :color="f === suggested ? 'primary' : undefined"
            @click="begin(f.id)"
            >{{ f.title }}</v-btn
          >
        </div>
      </div>
      <template v-else>
        <div class="row no-print" role="group" aria-label="Views of the set-up">
          <v-btn
            :variant="view === 'set-up' ? 'tonal' : 'text'"
            :aria-pressed="view === 'set-up'"
            @click="view = 'set-up'"
            >{{ family.title }}</v-btn
          >
          <v-btn
            v-if="family.whatIf"
            :variant="view === 'sure' ? 'tonal' : 'text'"
            :aria-pressed="view === 'sure'"
            @click="view = 'sure'"
            >How sure</v-btn
          >
          <v-btn
            v-if="vessel"
            :variant="view === 'vessel' ? 'tonal' : 'text'"
            :aria-pressed="view === 'vessel'"
            @click="view = 'vessel'"
            >Tank table</v-btn
          >
          <v-btn
            v-if="manifold"
            :variant="view === 'manifold' ? 'tonal' : 'text'"
            :aria-pressed="view === 'manifold'"
            @click="view = 'manifold'"
            >Manifold</v-btn
          >
          <v-btn
            :variant="view === 'sheet' ? 'tonal' : 'text'"
            :aria-pressed="view === 'sheet'"
            @click="view = 'sheet'"
            >Settings sheet</v-btn
          >
        </div>
        <div v-if="view === 'set-up'" class="two-sides">
          <section class="stack" aria-label="Entries">
            <fieldset v-for="g in groups" :key="g.title" class="stack">
              <legend>{{ g.title }}</legend>
              <div class="field-grid" :class="{ three: g.columns === 3 }">
                <SettingField
                  v-for="x in g.settings"
                  :key="x.name"
                  :setting="x"
                  :value="valueOf(x.name)"
                  :error="wrong(x.name)"
                  :readonly="!mayWrite"
                  :class="{
                    assumed: isDefault(x.name) && x.kind === 'number',
                    wide: (x.kind === 'text' && g.columns !== 3) || x.kind === 'table',
                  }"
                  @set="set(x.name, $event)"
                />
              </div>
            </fieldset>
            <p class="small quiet">
              Hollow figures are usual values nobody has confirmed. A unit may be typed behind a number: 2 in,
              14,5 psi.
            </p>
          </section>
          <section v-if="result" class="stack" aria-label="What follows">
            <ScaleDrawing v-if="result.drawing" :drawing="result.drawing" />
            <FindingRow
              v-for="f in findings"
              :key="`${f.code}${f.where.join()}${f.says}`"
              :finding="f"
              @fix="mend"
            />
            <table v-if="result.rows.length > 0" class="shares">
              <caption>
                What follows from it
              </caption>
              <tbody>
                <tr v-for="r in result.rows" :key="r.label">
                  <th scope="row">
                    {{ r.label
                    }}<span v-if="r.typical" class="quiet small"> typical; check the data sheet</span>
                  </th>
                  <td class="mono">{{ shown(r.value, r.decimals) }} {{ r.unit }}</td>
                </tr>
              </tbody>
            </table>
            <PlainTable v-for="t in result.tables ?? []" :key="t.title" :table="t" />
            <ChartView v-for="c in result.charts ?? []" :key="c.title" :chart="c" />
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
          </section>
        </div>
        <HowSure
          v-else-if="view === 'sure' && sound"
          :family="family"
          :set-up="sound"
          :readonly="!mayWrite"
          @tolerances="setTolerances"
        />
        <VesselTable
          v-else-if="view === 'vessel' && sound && vessel"
          :family="family"
          :set-up="sound"
          :vessel="vessel"
          :tag="loop.draft.tag"
        />
        <ManifoldPanel v-else-if="view === 'manifold' && manifold" :key="manifold" :kind="manifold" />
        <SettingsSheet v-else-if="result" :family="family" :result="result" :tag="loop.draft.tag" />
      </template>
    </div>
    <SaveBar v-model="reason" :next="next" />
  </div>
</template>

<style scoped>
.three {
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 12px 8px;
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
.assumed :deep(input) {
  color: transparent;
  -webkit-text-stroke: 0.7px var(--accent);
}
</style>
