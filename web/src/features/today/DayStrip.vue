<script setup lang="ts">
import { computed } from 'vue'
import { clockOf } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** A day at a glance: one line a person, ways and breaks between the jobs. A picture; the lists below are what is moved. */
const { day } = defineProps<{ day: string }>()
const p = usePlan()
const zone = computed(() => p.plan.value?.zone ?? 'UTC')
const rows = computed(() =>
  (p.plan.value?.people ?? []).flatMap((x) => {
    const turns = x.turns.filter((t) => t.day === day)
    return turns.length === 0 ? [] : [{ ...x, turns }]
  }),
)
const from = computed(() => Math.min(...rows.value.flatMap((r) => r.turns.map((t) => Date.parse(t.from)))))
const to = computed(() => Math.max(...rows.value.flatMap((r) => r.turns.map((t) => Date.parse(t.to)))))
const share = (iso: string) => `${((Date.parse(iso) - from.value) / (to.value - from.value)) * 100}%`
const span = (a: string, b: string) => ({
  left: share(a),
  width: `${((Date.parse(b) - Date.parse(a)) / (to.value - from.value)) * 100}%`,
})
const HOUR = 3_600_000
const hours = computed(() => {
  const first = Math.ceil(from.value / HOUR) * HOUR
  return Array.from({ length: Math.max(0, Math.floor((to.value - first) / HOUR) + 1) }, (_, i) =>
    new Date(first + i * HOUR).toISOString(),
  )
})
const broken = computed(() => new Set((p.plan.value?.broken ?? []).map((b) => b.job)))
const own = (person: string) => p.agenda(person).filter((x) => x.day === day)
const now = computed(() => {
  const at = p.plan.value?.now ?? ''
  return Date.parse(at) > from.value && Date.parse(at) < to.value ? at : null
})
</script>

<template>
  <div v-if="rows.length > 0" class="strip" aria-hidden="true">
    <div class="scale mono small quiet">
      <span v-for="h in hours" :key="h" :style="{ left: share(h) }">{{ clockOf(h, zone) }}</span>
    </div>
    <div v-for="r in rows" :key="r.id" class="person">
      <span class="who small">{{ r.name }}</span>
      <div class="line">
        <template v-for="t in r.turns" :key="t.from">
          <span class="turn" :style="span(t.from, t.to)" />
          <span v-for="b in t.breaks" :key="b.from" class="break" :style="span(b.from, b.to)" />
        </template>
        <template v-for="x in own(r.id)" :key="x.job">
          <span v-if="x.person === r.id" class="way" :style="span(x.leaves, x.start)" />
          <button
            type="button"
            tabindex="-1"
            class="job mono"
            :class="{
              help: x.person !== r.id,
              bad: broken.has(x.job),
              done: p.progress.value.get(x.job)?.state === 'done',
            }"
            :style="span(x.start, x.end)"
            :title="`${p.jobs.value.get(x.job)?.title}, ${clockOf(x.start, zone)} to ${clockOf(x.end, zone)}`"
            @click="p.opened.value = x.job"
          >
            {{ p.jobs.value.get(x.job)?.loop?.tag ?? p.jobs.value.get(x.job)?.title }}
          </button>
        </template>
        <span v-if="now" class="now" :style="{ left: share(now) }" />
      </div>
    </div>
  </div>
</template>

<style scoped>
.strip {
  --who: 132px;
  padding: 8px 0;
  border-block: var(--line) solid var(--hair);
}
.scale {
  position: relative;
  height: 18px;
  margin-left: var(--who);
}
.scale span {
  position: absolute;
  transform: translateX(-50%);
}
.person {
  display: grid;
  grid-template-columns: var(--who) 1fr;
  align-items: center;
}
.who {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.line {
  position: relative;
  height: 44px;
}
.line > * {
  position: absolute;
}
.turn {
  top: 21px;
  height: 2px;
  background: var(--hair);
}
.break {
  top: 14px;
  height: 16px;
  background: repeating-linear-gradient(45deg, var(--hair) 0 2px, transparent 2px 6px);
}
.way {
  top: 20px;
  height: 4px;
  background: var(--quiet);
}
.job {
  top: 4px;
  height: 36px;
  padding: 0 4px;
  overflow: hidden;
  border: var(--line) solid var(--accent);
  border-radius: var(--corner);
  background: var(--surface);
  color: var(--ink);
  font-size: var(--size-s);
  white-space: nowrap;
  text-align: left;
  cursor: pointer;
}
.help {
  border-style: dashed;
}
.bad {
  border: 2px solid var(--stop);
}
.done {
  color: var(--quiet);
  border-color: var(--hair);
}
.now {
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--copper);
}
@media (max-width: 640px) {
  .strip {
    display: none;
  }
}
</style>
