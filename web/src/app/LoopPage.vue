<script setup lang="ts">
import { byRanges, lineSteps } from '@calm/core/loop/line-steps'
import { sayPlace } from '@calm/core/today/place'
import { computed, defineAsyncComponent, onScopeDispose, provide, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ApiProblem, sayProblem } from '../api/call.ts'
import { useSession } from '../api/session-store.ts'
import SignalPath from '../signal-path/SignalPath.vue'
import LoopMenu from '../loop/LoopMenu.vue'
import { LINE_IS_WORK } from '../loop/line-is-work.ts'
import { useLoop } from '../loop/loop-store.ts'
import { daysUntil, sayDay } from '../ui/dates.ts'
import { useShortcut } from '../ui/shortcuts.ts'
import StateMark from '../ui/StateMark.vue'
import { sayVerdict, verdictState } from '../ui/verdict.ts'
import { BENCHES } from './benches.ts'
import NowherePage from './NowherePage.vue'
import { usePathSize } from './path-size.ts'

// Of few loops.
const ArchivedLine = defineAsyncComponent(() => import('../loop/ArchivedLine.vue'))

const { tag } = defineProps<{ tag: string }>()
const route = useRoute()
const router = useRouter()
const loop = useLoop()
const session = useSession()
const trouble = ref<string | null>(null)
const missing = ref(false)

async function open(): Promise<void> {
  trouble.value = null
  missing.value = false
  try {
    await loop.open(tag)
  } catch (error) {
    missing.value = error instanceof ApiProblem && error.status === 404
    trouble.value = sayProblem(error)
  }
}
watch(() => tag, open, { immediate: true })

for (const bench of BENCHES)
  useShortcut(bench.key, `Bench ${bench.title}`, () => void router.push({ name: bench.id, params: { tag } }))

const bench = computed(() => BENCHES.find((b) => b.id === route.name) ?? null)
const { small, fold } = usePathSize(() => bench.value?.id ?? '')

/** The open line is what is worked on: its values are typed, and what is typed below moves it. */
const onLine = computed(() => bench.value?.id === 'scale' && !small.value)
provide(LINE_IS_WORK, onLine)

const detail = computed(() =>
  loop.detail?.tag.toUpperCase() === tag.toUpperCase() || loop.detail?.id === tag ? loop.detail : null,
)
const place = computed(() =>
  detail.value ? sayPlace({ area: detail.value.area, floor: detail.value.document.floor ?? 0 }) : '',
)
// What one may do on a loop is by its area.
watch(
  () => detail.value?.area ?? null,
  (area) => (session.area = area),
  { immediate: true },
)
onScopeDispose(() => (session.area = null))
/** Looks on in this area, and works in another. */
const looksOn = computed(() => session.role === 'viewer' && session.person?.role !== 'viewer')
/** Out of use: its record alone is open. */
const archived = computed(() => {
  const d = detail.value
  return d && d.archivedAt !== null ? { ...d, archivedAt: d.archivedAt } : null
})
const benches = computed(() => (archived.value ? BENCHES.filter((b) => b.id === 'record') : BENCHES))
watch([archived, () => route.name], () => {
  if (archived.value && route.name !== 'record') void router.replace({ name: 'record', params: { tag } })
})
/** Where the changes were made that are not saved yet; told on a bench that does not save, which is judged without them. */
const changedOn = ref(BENCHES.find((b) => b.saves))
watch([() => loop.dirty, bench], () => {
  if (loop.dirty && bench.value?.saves) changedOn.value = bench.value
})
/** While ranges are being changed the line shows what the change would do. */
const steps = computed(() => {
  if (!detail.value) return []
  if (loop.located) return loop.located
  const stored = detail.value.summary.line.filter((s) => !byRanges(s))
  return loop.dirty ? [...stored, ...lineSteps(null, loop.audit)] : detail.value.summary.line
})
/** Ranges that cannot be computed with leave the line as it was. */
const soundPath = computed((previous?: typeof loop.path) =>
  loop.wrong.size === 0 || !previous ? loop.path : previous,
)
/** A tab that is half out of its row comes in whole when it gets the focus. */
function wholly(event: FocusEvent): void {
  if (event.target instanceof HTMLElement)
    event.target.scrollIntoView({ block: 'nearest', inline: 'nearest' })
}
const due = computed(() => {
  const now = detail.value?.summary.dueNow
  if (now) return { says: `due now: ${now.why} on ${sayDay(now.on)}`, overdue: true }
  const d = detail.value?.due
  if (!d) return null
  const days = daysUntil(d, new Date())
  return days < 0
    ? { says: `${-days} ${days === -1 ? 'day' : 'days'} overdue`, overdue: true }
    : { says: `due ${sayDay(d)}`, overdue: false }
})
</script>

<template>
  <NowherePage v-if="missing" />
  <div v-else-if="trouble && !detail" class="page">
    <p role="alert">{{ trouble }} <v-btn variant="text" @click="open">Try again</v-btn></p>
  </div>
  <div v-else-if="detail" class="loop">
    <header class="head">
      <h1 class="mono">{{ detail.tag }}</h1>
      <span class="service" :title="`${detail.service} · ${place} · ${detail.type}`"
        >{{ detail.service }} <span class="quiet small">{{ place }} · {{ detail.type }}</span></span
      >
      <span v-if="detail.demo" class="demo small" title="Of the demo plant: its device is simulated."
        >demo</span
      >
      <span v-if="looksOn" class="quiet small" title="By your roles: another area is yours."
        >you look on here</span
      >
      <router-link
        v-if="loop.dirty && !loop.saving && changedOn && bench && !bench.saves"
        class="unsaved small"
        :to="{ name: changedOn.id, params: { tag } }"
        >changes on {{ changedOn.title }} not saved</router-link
      >
      <span id="saved-state" class="quiet small" role="status" />
      <StateMark
        v-if="detail.summary.verdict"
        :state="verdictState(detail.summary, detail.summary.verdict)"
        :word="sayVerdict(detail.summary, detail.summary.verdict)"
      />
      <StateMark v-else state="notYet" word="not verified" />
      <span v-if="due && !archived" class="due" :class="{ overdue: due.overdue }">{{ due.says }}</span>
      <div v-if="session.mayWrite && !archived" class="more">
        <LoopMenu :detail="detail" :dirty="loop.dirty" />
      </div>
    </header>
    <ArchivedLine v-if="archived" :detail="archived" />
    <div class="benches no-print" @focusin="wholly">
      <nav aria-label="Benches">
        <router-link
          v-for="b in benches"
          :key="b.id"
          :to="{ name: b.id, params: { tag } }"
          class="bench"
          active-class="here"
        >
          <StateMark v-if="b.part" :state="detail.summary.parts[b.part]" bare />
          {{ b.title }}
        </router-link>
      </nav>
      <div id="bench-views" />
    </div>
    <!-- Where the ranges are the work, the open line is a part of it. -->
    <div
      v-if="!archived || bench?.id === 'record'"
      class="on-bench"
      :data-work-area="onLine ? '' : undefined"
    >
      <SignalPath
        v-if="soundPath.length > 0"
        :stages="soundPath"
        :steps="steps"
        :small="small"
        :carried="bench?.reads ? loop.carried : undefined"
        folds
        @fold="fold"
        @current="loop.current_mA = $event"
      />
      <router-view :key="detail.id" />
    </div>
  </div>
</template>

<style scoped>
.demo {
  padding: 0 8px;
  color: var(--simulated);
  border: 1px dotted var(--simulated);
  border-radius: var(--corner);
}
.loop {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.on-bench {
  display: flex;
  flex-direction: column;
  flex: 1;
  min-height: 0;
}
.head {
  display: flex;
  align-items: center;
  gap: 4px 16px;
  min-height: 48px;
  padding: 0 24px;
}
h1 {
  white-space: nowrap;
}
.service {
  flex: 1;
  min-width: 0;
  font-size: var(--size-l);
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
#saved-state {
  white-space: nowrap;
}
.unsaved {
  font-weight: 600;
  color: var(--look);
  white-space: nowrap;
}
.due {
  white-space: nowrap;
}
.overdue {
  color: var(--look);
  font-weight: 600;
}
.benches {
  display: flex;
  flex-wrap: wrap;
  align-items: stretch;
  justify-content: space-between;
  padding: 0 16px;
  border-bottom: var(--line) solid var(--hair);
}
/* Its hidden words must not widen the page. */
nav,
#bench-views {
  position: relative;
  display: flex;
  min-width: 0;
  max-width: 100%;
  overflow-x: auto;
  scrollbar-width: thin;
}
.bench {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: 48px;
  padding: 0 12px;
  color: var(--ink);
  text-decoration: none;
  white-space: nowrap;
  border-bottom: 3px solid transparent;
}
.bench:focus-visible {
  outline-offset: -3px;
}
.here {
  border-bottom-color: var(--accent);
  font-weight: 600;
}
@media (max-width: 1000px) {
  .head {
    gap: 4px 8px;
    padding-right: 8px;
  }
}
@media (max-width: 640px) {
  .head {
    flex-wrap: wrap;
    padding: 6px 4px 6px 14px;
  }
  .service {
    flex: 1 1 110px;
    white-space: normal;
  }
  /* The three dots stand beside the name: a row of their own would be a row less of work. */
  .head > * {
    order: 2;
  }
  .head > h1,
  .head > .service,
  .head > .more {
    order: 0;
  }
  .head::after {
    content: '';
    order: 1;
    flex-basis: 100%;
  }
  #saved-state {
    white-space: normal;
  }
  #saved-state:empty {
    display: none;
  }
  .benches {
    padding: 0 4px;
  }
}
</style>
