<script setup lang="ts">
import { byRanges, lineSteps } from '@calm/core/loop/line-steps'
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { ApiProblem, sayProblem } from '../api/call.ts'
import SignalPath from '../signal-path/SignalPath.vue'
import { useLoop } from '../loop/loop-store.ts'
import { daysUntil, sayDay } from '../ui/dates.ts'
import { useShortcut } from '../ui/shortcuts.ts'
import StateMark from '../ui/StateMark.vue'
import { VERDICT_SHORT, verdictState } from '../ui/verdict.ts'
import { BENCHES } from './benches.ts'
import NowherePage from './NowherePage.vue'

const { tag } = defineProps<{ tag: string }>()
const router = useRouter()
const loop = useLoop()
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

const detail = computed(() =>
  loop.detail?.tag.toUpperCase() === tag.toUpperCase() || loop.detail?.id === tag ? loop.detail : null,
)
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
const due = computed(() => {
  const d = detail.value?.due
  if (!d) return null
  const days = daysUntil(d, new Date())
  return days < 0 ? `${-days} days overdue` : `due ${sayDay(d)}`
})
</script>

<template>
  <NowherePage v-if="missing" />
  <div v-else-if="trouble && !detail" class="page">
    <p role="alert">{{ trouble }} <v-btn variant="text" @click="open">Try again</v-btn></p>
  </div>
  <div v-else-if="detail" class="loop">
    <header class="head row">
      <h1 class="mono">{{ detail.tag }}</h1>
      <span class="service">{{ detail.service }}</span>
      <span class="quiet">{{ detail.area }} · {{ detail.type }}</span>
      <span class="gap" />
      <StateMark
        v-if="detail.summary.verdict"
        :state="verdictState(detail.summary, detail.summary.verdict)"
        :word="VERDICT_SHORT[detail.summary.verdict]"
      />
      <StateMark v-else state="notYet" word="not verified" />
      <span v-if="due" :class="{ overdue: due.includes('overdue') }">{{ due }}</span>
    </header>
    <SignalPath
      v-if="soundPath.length > 0"
      :stages="soundPath"
      :steps="steps"
      stays
      @current="loop.current_mA = $event"
    />
    <p v-else class="no-path">
      This loop switches; it has no measuring range and so no signal path to compute.
    </p>
    <nav class="benches row no-print" aria-label="Benches">
      <router-link
        v-for="b in BENCHES"
        :key="b.id"
        :to="{ name: b.id, params: { tag } }"
        class="bench"
        active-class="here"
      >
        <StateMark v-if="b.part" :state="detail.summary.parts[b.part]" bare />
        {{ b.title }}
      </router-link>
    </nav>
    <router-view :key="detail.id" class="on-bench" />
  </div>
</template>

<style scoped>
.loop {
  display: flex;
  flex-direction: column;
  min-height: 100vh;
}
.on-bench {
  flex: 1;
  display: flex;
  flex-direction: column;
}
.on-bench > :deep(.page) {
  width: 100%;
}
.head {
  padding: 14px 24px;
  min-height: 64px;
}
.service {
  font-size: var(--size-l);
}
.gap {
  flex: 1;
}
.overdue {
  color: var(--look);
  font-weight: 600;
}
.no-path {
  padding: 16px 24px;
  border-block: var(--line) solid var(--hair);
  background: var(--surface);
}
.benches {
  padding: 4px 24px 0;
  gap: 4px;
  border-bottom: var(--line) solid var(--hair);
}
.bench {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: var(--target);
  padding: 0 16px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 3px solid transparent;
}
.here {
  border-bottom-color: var(--accent);
  font-weight: 600;
}
</style>
