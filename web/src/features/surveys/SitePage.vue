<script setup lang="ts">
import { loops, urlOf } from '@calm/contract/api/addresses'
import { familyOf } from '@calm/core/family/index'
import { sayNumber } from '@calm/core/quantity/round'
import { SITE_POINTS, type SitePointName } from '@calm/core/survey/judge-site'
import { SURVEY_FAMILY } from '@calm/core/survey/site'
import { triesChart } from '@calm/core/survey/tries-chart'
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useSession } from '../../api/session-store.ts'
import BenchSplit from '../../loop/BenchSplit.vue'
import JumpList from '../../loop/JumpList.vue'
import RestsPanel from '../../loop/RestsPanel.vue'
import SensorChoice from '../../loop/SensorChoice.vue'
import { usePlantUnits } from '../../loop/use-plant-units.ts'
import ChartView from '../../ui/ChartView.vue'
import NextBar from '../../ui/NextBar.vue'
import PictureField from '../../ui/PictureField.vue'
import ScaleDrawing from '../../ui/ScaleDrawing.vue'
import SettingField from '../../ui/SettingField.vue'
import StateMark from '../../ui/StateMark.vue'
import { SITE_WORDS } from './say-site.ts'
import TriesField from './TriesField.vue'
import { useSite } from './use-site.ts'

/** A place with a portable meter: entered, tried, read, recorded, and what a reading from it is worth. */
const props = defineProps<{ survey: string; tag: string; site: string }>()
const s = useSite(props)
const session = useSession()
const router = useRouter()
const family = familyOf(SURVEY_FAMILY)
const units = usePlantUnits()
const unit = computed(() => (s.valueOf('rail') === 'index' ? '' : 'mm'))
const TRIES = 'section-tries'
const sections = computed(() => [
  ...s.groups.value.map((g, i) => ({ id: `section-${i}`, title: g.title })),
  { id: TRIES, title: 'Position' },
  { id: 'section-log', title: 'Log and pictures' },
])
const isAssumed = (name: string) => s.missing.value.some((m) => m.name === name)
const wrong = (name: string) => s.at(`found.values.${name}`) ?? s.at(`values.${name}`)
const chart = computed(() => triesChart(s.draft.value.tries, s.judged.value.position, unit.value))
const logChoices = computed(() =>
  s.logsHere.value.map((l) => ({
    value: l.id,
    title: [
      l.title,
      l.of === 'installed' ? '(of the loop’s own meter)' : '',
      l.simulated ? '(simulated)' : '',
    ]
      .filter(Boolean)
      .join(' '),
  })),
)
const spacing = computed(() => {
  const row = s.result.value?.rows.find(
    (r) => ['Downstream sensor at', 'Spacing of the frame'].includes(r.label) && r.value !== '',
  )
  return row
    ? typeof row.value === 'number'
      ? `${sayNumber(row.value, 4)} ${row.unit ?? ''}`
      : row.value
    : null
})
/** What to do now: the first thing that is against a good site, in the order of the work. */
const next = computed(() => {
  const { points } = s.judged.value
  const worst = points.find((p) => p.state === 'stop') ?? points.find((p) => p.state !== 'good')
  return worst
    ? `${SITE_POINTS[worst.of]}: ${(worst.says[0] ?? '').replace(/^Not judged: /, '')}`
    : s.begun.value || s.pictures.value.length > 0
      ? 'Everything is there and good. Keep the site.'
      : 'Kept, and good.'
})
async function keep(): Promise<void> {
  if (await s.keep()) await router.push(`/surveys/${props.survey}`)
}
const picture = (sha: string) => urlOf(loops.picture, { loop: props.tag, picture: sha })
const titleOf = (of: SitePointName) => SITE_POINTS[of]
</script>

<template>
  <div class="site">
    <header class="head row">
      <router-link :to="`/surveys/${survey}`">{{ s.head.value?.title ?? 'Survey' }}</router-link>
      <h1 class="mono">{{ s.valueOf('site') || 'New site' }}</h1>
      <router-link :to="`/loops/${tag}`" class="mono">{{ tag }}</router-link>
      <span v-if="s.loop.data.value?.demo" class="small simulated">demo</span>
      <span class="quiet service">{{ s.loop.data.value?.document.service }}</span>
      <StateMark :state="s.judged.value.state" :word="SITE_WORDS[s.judged.value.state]" />
    </header>
    <div v-if="s.clash.value" role="alert" class="clash row">
      <span>{{ s.clash.value.byName }} kept this site since you began. Yours is on this device.</span>
      <v-btn variant="outlined" @click="s.takeTheirs">Look at theirs</v-btn>
      <v-btn variant="text" @click="s.keepMine">Keep mine after it</v-btn>
    </div>
    <div class="body" data-work-area>
      <BenchSplit work="Entries" beside="What it is worth" fold="Verdict and picture" work-first>
        <template #work>
          <JumpList :sections="sections" />
          <fieldset v-for="(g, i) in s.groups.value" :id="`section-${i}`" :key="g.title" class="stack">
            <legend>{{ g.title }}</legend>
            <SensorChoice
              v-if="g.title === 'Sensors' && family"
              :family="family"
              :typed="s.draft.value.values"
              :sensor-id="null"
              :tag="tag"
              :readonly="!session.mayWrite"
              @pick="s.pick"
            />
            <div class="field-grid">
              <SettingField
                v-for="x in g.settings"
                :key="x.name"
                :setting="x"
                :value="s.valueOf(x.name)"
                :units="units"
                :error="wrong(x.name)"
                :assumed="isAssumed(x.name)"
                :readonly="!session.mayWrite"
                :class="{ wide: x.kind === 'text' }"
                @set="s.set"
              />
            </div>
          </fieldset>
          <TriesField
            :id="TRIES"
            :tries="s.draft.value.tries"
            :judged="s.judged.value.position"
            :unit="unit"
            :calculated="spacing"
            :readonly="!session.mayWrite"
            @add="s.addTry"
            @drop="s.dropTry"
          />
          <fieldset id="section-log" class="stack">
            <legend>Log and pictures</legend>
            <v-select
              :model-value="s.draft.value.log"
              :items="logChoices"
              label="Log that was recorded here"
              clearable
              :no-data-text="`No log of ${tag} is read in yet.`"
              :error-messages="s.at('log') ?? []"
              @update:model-value="s.change({ log: $event ?? null })"
            />
            <p class="small">
              <router-link :to="`/logs/read-in?loop=${tag}`">Read in a log of {{ tag }}</router-link>
            </p>
            <PictureField
              v-if="session.mayWrite"
              v-model="s.pictures.value"
              :kept-as="`site-${site}`"
              :most="4 - s.draft.value.stay.length"
            />
            <ul v-if="s.draft.value.stay.length > 0" class="pictures" aria-label="Pictures of this site">
              <li v-for="sha in s.draft.value.stay" :key="sha"><img :src="picture(sha)" alt="" /></li>
            </ul>
            <v-textarea
              :model-value="s.draft.value.note"
              label="What else was seen"
              rows="2"
              auto-grow
              maxlength="1000"
              :readonly="!session.mayWrite"
              @update:model-value="s.change({ note: $event })"
            />
          </fieldset>
          <p class="small quiet">
            Hot and cold pipes burn, heights need a platform, coatings may hold lead and lagging asbestos.
            Local rules and licensed practice decide.
          </p>
        </template>
        <template #beside>
          <p class="verdict" role="status">{{ s.judged.value.says }}</p>
          <RestsPanel
            :assumed="s.missing.value"
            :value-of="s.valueOf"
            :readonly="!session.mayWrite"
            @confirm="s.confirm"
          />
          <ul class="points">
            <li v-for="p in s.judged.value.points" :key="p.of" :class="p.state">
              <StateMark :state="p.state" :word="titleOf(p.of)" />
              <div>
                <p v-for="x in p.says" :key="x">{{ x }}</p>
              </div>
            </li>
          </ul>
          <ChartView v-if="s.draft.value.tries.length > 1" :chart="chart" :height="200" />
          <ScaleDrawing v-if="s.result.value?.drawing" :drawing="s.result.value.drawing" />
        </template>
      </BenchSplit>
    </div>
    <NextBar :next="next" :refusal="s.says.value">
      <v-btn
        v-if="session.mayWrite"
        color="primary"
        variant="flat"
        height="44"
        :loading="s.busy.value"
        :disabled="!s.begun.value && s.pictures.value.length === 0"
        @click="keep"
        >Keep the site</v-btn
      >
    </NextBar>
  </div>
</template>

<style scoped>
.site {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.head {
  padding: 8px 24px;
  min-height: 52px;
  border-bottom: var(--line) solid var(--hair);
}
h1 {
  font-size: var(--size-l);
}
.simulated {
  color: var(--simulated);
}
.service {
  flex: 1;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.clash {
  padding: 8px 24px;
  background: var(--look-surface);
}
.body {
  flex: 1;
  min-height: 0;
}
.verdict {
  font-weight: 600;
}
.points,
.pictures {
  list-style: none;
  padding: 0;
  margin: 0;
}
.points li {
  display: grid;
  grid-template-columns: 150px minmax(0, 1fr);
  gap: 8px;
  padding: 8px 12px;
  border-bottom: var(--line) solid var(--hair);
}
.points li.look {
  background: var(--look-surface);
}
.points li.stop {
  background: var(--stop-surface);
}
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.pictures img {
  height: 120px;
  border-radius: var(--corner);
}
@media (max-width: 640px) {
  .head {
    padding: 8px 14px;
  }
  .points li {
    grid-template-columns: minmax(0, 1fr);
    gap: 2px;
  }
}
</style>
