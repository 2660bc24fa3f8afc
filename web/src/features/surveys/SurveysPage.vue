<script setup lang="ts">
import { surveys } from '@calm/contract/api/addresses'
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { plantTime } from '../../api/clock.ts'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { sayDay } from '../../ui/dates.ts'
import StateMark from '../../ui/StateMark.vue'
import { SITE_WORDS } from './say-site.ts'
import { headDraft } from './survey-drafts.ts'

/** Days on which a portable meter was carried from pipe to pipe. */
const { data, state, says: trouble } = useLive(surveys.list, {})
const session = useSession()
const router = useRouter()
const adding = ref(false)
const title = ref('')
const on = ref(plantTime().slice(0, 10))
const tried = ref(false)
const wrong = computed(() => ({
  title: title.value.trim() === '' ? 'Give the survey a name by which it is found again.' : null,
  on: /^\d{4}-\d\d-\d\d$/.test(on.value) ? null : 'Write the date as 2026-11-23.',
}))
async function begin(): Promise<void> {
  tried.value = true
  if (wrong.value.title !== null || wrong.value.on !== null) return
  const id = crypto.randomUUID()
  headDraft.keep(id, { title: title.value.trim(), on: on.value })
  await router.push(`/surveys/${id}`)
}
</script>

<template>
  <div class="page stack">
    <p class="small"><router-link to="/logs">Logs</router-link></p>
    <div class="row">
      <h1>Surveys</h1>
      <span class="gap" />
      <v-btn v-if="session.mayWrite && !adding" color="primary" variant="flat" @click="adding = true"
        >New survey</v-btn
      >
    </div>
    <p class="quiet">
      A portable meter carried from pipe to pipe: at each place what was entered, the position that hears
      best, the log, and what the reading is worth.
    </p>
    <form v-if="adding" class="stack begin" novalidate @submit.prevent="begin">
      <div class="field-grid">
        <v-text-field
          v-model="title"
          label="What is surveyed"
          maxlength="120"
          autofocus
          :error-messages="tried && wrong.title ? wrong.title : []"
        />
        <v-text-field
          v-model="on"
          type="date"
          label="On"
          :error-messages="tried && wrong.on ? wrong.on : []"
        />
      </div>
      <div class="row">
        <v-btn type="submit" color="primary" variant="flat" height="48">Begin</v-btn>
        <v-btn variant="text" height="48" @click="adding = false">Not now</v-btn>
      </div>
    </form>
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <p v-else-if="state !== 'loading' && data?.length === 0" class="answer">
      No survey is here yet. Begin one, then measure its first site.
    </p>
    <ul v-else class="list">
      <li v-for="s in data ?? []" :key="s.id">
        <div class="row">
          <router-link :to="`/surveys/${s.id}`" class="title">{{ s.title }}</router-link>
          <span class="quiet">{{ sayDay(s.on) }}</span>
        </div>
        <ul class="sites">
          <li v-for="x in s.sites" :key="x.site">
            <StateMark :state="x.state" :word="SITE_WORDS[x.state]" />
            <span class="mono">{{ x.name }}</span>
            <span class="quiet mono">{{ x.tag }}</span>
          </li>
        </ul>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.gap {
  flex: 1;
}
.trouble {
  color: var(--stop);
}
.begin {
  max-width: 720px;
}
.list,
.sites {
  list-style: none;
  padding: 0;
}
.list > li {
  padding: 12px 0;
  border-bottom: var(--line) solid var(--hair);
}
.title {
  font-weight: 600;
}
.sites {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 24px;
  padding-top: 4px;
}
.sites li {
  display: flex;
  gap: 8px;
}
</style>
