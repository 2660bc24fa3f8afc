<script setup lang="ts">
import { loops, surveys, urlOf } from '@calm/contract/api/addresses'
import { sayNumber } from '@calm/core/quantity/round'
import type { SurveyedSite } from '@calm/contract/surveys'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { sayDay } from '../../ui/dates.ts'
import { vKeyScroll } from '../../ui/key-scroll.ts'
import StateMark from '../../ui/StateMark.vue'
import { SITE_WORDS } from './say-site.ts'
import { headDraft } from './survey-drafts.ts'

/** One day's sites, each with its own verdict. */
const props = defineProps<{ survey: string }>()
const session = useSession()
const router = useRouter()
const live = useLive(surveys.one, () => ({ survey: props.survey }))
const begun = computed(() => headDraft.of(props.survey))
const head = computed(() => live.data.value ?? begun.value)
const sites = computed(() => live.data.value?.sites ?? [])
const isNowhere = computed(() => live.state.value === 'ready' && head.value === null)

const list = useLive(loops.list, { archived: 'no' })
const tag = ref<string | null>(null)
/** Loops by tag and service; flows first: a portable meter measures nothing else. */
const tags = computed(() =>
  [...(list.data.value ?? [])]
    .sort((a, b) => Number(b.tag.startsWith('F')) - Number(a.tag.startsWith('F')))
    .map((l) => ({ value: l.tag, title: `${l.tag} ${l.service}` })),
)
const measure = () =>
  tag.value === null ? undefined : router.push(`/surveys/${props.survey}/${tag.value}/${crypto.randomUUID()}`)
const reads = (s: SurveyedSite): string =>
  s.log?.mean == null
    ? 'nothing recorded'
    : `${sayNumber(s.log.mean, 5)}${s.log.U === null ? '' : ` ± ${sayNumber(s.log.U, 2)}`} ${s.log.unit ?? ''}`
const nameOf = (s: SurveyedSite) => String(s.found.values['site'] ?? '')
</script>

<template>
  <div class="page stack">
    <p class="small">
      <router-link to="/logs">Logs</router-link> · <router-link to="/surveys">Surveys</router-link>
    </p>
    <p v-if="live.says.value" role="alert" class="trouble">{{ live.says.value }}</p>
    <p v-else-if="isNowhere" class="answer">
      No site of this survey is kept, and it was not begun on this device.
    </p>
    <template v-if="head">
      <div class="row">
        <h1>{{ head.title }}</h1>
        <span class="quiet">{{ sayDay(head.on) }}</span>
        <span class="gap" />
        <v-btn v-if="sites.length > 0" variant="outlined" :href="urlOf(surveys.report, { survey })" download
          >Report as PDF</v-btn
        >
      </div>
      <form v-if="session.mayWrite" class="row" novalidate @submit.prevent="measure">
        <v-autocomplete v-model="tag" :items="tags" label="Next site is on" hide-details class="pick" />
        <v-btn type="submit" color="primary" variant="flat" height="48" :disabled="tag === null"
          >Measure it</v-btn
        >
        <v-btn
          v-if="session.mayWriteSomewhere"
          variant="text"
          height="48"
          :to="{ path: '/loops', query: { new: 'yes', survey } }"
          >A pipe without a loop</v-btn
        >
      </form>
      <p v-if="sites.length === 0" class="answer">
        No site is kept yet. Choose the loop whose pipe is measured; a pipe without a loop gets one first.
      </p>
      <div v-else v-key-scroll class="scroll" aria-label="Sites, scrolls sideways">
        <table class="rows stacked">
          <thead>
            <tr>
              <th scope="col">Site</th>
              <th scope="col">Loop</th>
              <th scope="col">Verdict</th>
              <th scope="col">Read (k = 2)</th>
              <th scope="col">By</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="s in sites" :key="s.site">
              <th scope="row">
                <router-link :to="`/surveys/${survey}/${s.tag}/${s.site}`" class="mono">{{
                  nameOf(s)
                }}</router-link>
              </th>
              <td>
                <router-link :to="`/loops/${s.tag}`" class="mono">{{ s.tag }}</router-link>
                <span class="quiet small under">{{ s.service }}</span>
              </td>
              <td class="why">
                <StateMark :state="s.state" :word="SITE_WORDS[s.state]" />
                <span class="small under">{{ s.says }}</span>
              </td>
              <td class="mono" data-says="read (k = 2)">
                {{ reads(s) }}
                <span v-if="s.log?.simulated" class="small simulated under">simulated</span>
                <span v-else-if="s.demo" class="small simulated under">demo</span>
              </td>
              <td data-says="by">{{ s.byName }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <p v-if="sites.length > 1" class="small quiet">
        Each site is judged by itself: signals of several sites are never averaged.
      </p>
    </template>
  </div>
</template>

<style scoped>
.gap {
  flex: 1;
}
.pick {
  max-width: 420px;
  min-width: 220px;
}
.trouble {
  color: var(--stop);
}
.rows th,
.rows td {
  vertical-align: top;
  white-space: normal;
}
.rows tbody th {
  font-weight: 600;
}
.why {
  min-width: 240px;
}
.simulated {
  color: var(--simulated);
}
</style>
