<script setup lang="ts">
import type { PlacingTold } from '@calm/contract/today'
import { mdiDragVertical } from '@mdi/js'
import type Sortable from 'sortablejs'
import { computed, nextTick, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue'
import StateMark from '../../ui/StateMark.vue'
import { clockOf, IMPORTANCE_WORDS, markOf, sayChance } from './say-plan.ts'
import { usePlan } from './use-plan.ts'

/** Jobs of one person in their order, or those that have no place: dragged from list to list, or moved by keys. */
const { person, day } = defineProps<{ person: string | null; day: string }>()
const p = usePlan()
const zone = computed(() => p.plan.value?.zone ?? 'UTC')
interface Line {
  readonly job: string
  readonly placing: PlacingTold | null
  readonly helps: boolean
}
const lines = computed((): Line[] =>
  person === null
    ? p.unplaced.value.map((j) => ({ job: j.key, placing: null, helps: false }))
    : p
        .agenda(person)
        .filter((x) => x.day === day)
        .map((placing) => ({ job: placing.job, placing, helps: placing.person !== person })),
)
const told = computed(() => p.plan.value?.people.find((x) => x.id === person))
const there = computed(() =>
  (told.value?.turns ?? [])
    .filter((t) => t.day === day)
    .map((t) => `${clockOf(t.from, zone.value)} to ${clockOf(t.to, zone.value)}`)
    .join(', '),
)
const turn = computed(() => told.value?.turns.find((t) => t.day === day && t.chance !== null))
const chance = computed(() => (turn.value ? sayChance(turn.value, zone.value) : null))
const broken = computed(() => new Set((p.plan.value?.broken ?? []).map((b) => b.job)))

const list = useTemplateRef<HTMLElement>('list')
/** Counts up when what was dragged is drawn anew from the plan. */
const drawn = ref(0)
let sortable: Sortable | null = null
onMounted(() => void grips())
onBeforeUnmount(() => sortable?.destroy())
watch([drawn, p.mayPlan], () => void grips())

async function grips(): Promise<void> {
  if (!p.mayPlan.value) return
  const { default: Sortables } = await import('sortablejs')
  await nextTick()
  sortable?.destroy()
  if (!list.value) return
  sortable = Sortables.create(list.value, {
    group: 'plan',
    handle: '.grip',
    draggable: '.card',
    animation: 0,
    // By the pointer, the same for a mouse and a gloved finger.
    forceFallback: true,
    onEnd: ({ item, to, from, newDraggableIndex: at, oldDraggableIndex: was }) => {
      const job = item.dataset['job']
      const target = to.dataset['person'] ?? ''
      if (job === undefined || at === undefined || (to === from && at === was)) return
      const before = [...to.querySelectorAll<HTMLElement>('.card')]
        .slice(0, at)
        .filter((c) => c !== item)
        .at(-1)?.dataset['job']
      // The page draws it where the plan has it: what was dragged goes back first.
      from.insertBefore(item, from.children[was ?? 0] ?? null)
      drawn.value++
      void move(job, target === '' ? null : target, before ?? null)
    },
  })
}
const move = (job: string, to: string | null, after: string | null) =>
  p.place(job, to === null ? null : { person: to, after, day })

/** Earlier, later, to the next person, off the plan: the same by keys. */
function byKey(e: KeyboardEvent, i: number): void {
  if (!e.altKey || !p.mayPlan.value || p.busy.value) return
  const line = lines.value[i]
  if (!line) return
  const people = p.plan.value?.people.map((x) => x.id) ?? []
  const at = person === null ? people.length : people.indexOf(person)
  const side = (n: number): string | null => (n >= people.length ? null : (people[Math.max(0, n)] ?? null))
  if (e.key === 'ArrowUp' && person !== null) void move(line.job, person, lines.value[i - 2]?.job ?? null)
  else if (e.key === 'ArrowDown' && person !== null && lines.value[i + 1])
    void move(line.job, person, lines.value[i + 1]?.job ?? null)
  else if (e.key === 'ArrowLeft' && person === null) void p.place(line.job, { room: true })
  else if (e.key === 'ArrowLeft' && at > 0) void move(line.job, side(at - 1), lastOf(side(at - 1)))
  else if (e.key === 'ArrowRight' && person !== null) void move(line.job, side(at + 1), lastOf(side(at + 1)))
  else return
  e.preventDefault()
}
const lastOf = (who: string | null): string | null =>
  who === null
    ? null
    : (p
        .agenda(who)
        .filter((x) => x.person === who && x.day === day)
        .at(-1)?.job ?? null)
</script>

<template>
  <section class="column" :aria-label="told?.name ?? 'Jobs without a place'">
    <h2 v-if="told" class="part">
      {{ told.name }} <span class="quiet small mono">{{ there || 'not there' }}</span>
    </h2>
    <p v-if="chance" class="small chance" :class="turn?.chance?.low ? 'risky' : 'quiet'">{{ chance }}</p>
    <ul :key="drawn" ref="list" class="cards" :data-person="person ?? ''">
      <li
        v-for="(l, i) in lines"
        :key="l.job"
        class="card"
        :class="{ bad: broken.has(l.job), helps: l.helps }"
        :data-job="l.job"
      >
        <span v-if="p.mayPlan.value && !l.helps" class="grip" aria-hidden="true">
          <v-icon :icon="mdiDragVertical" />
        </span>
        <button
          type="button"
          class="open"
          aria-keyshortcuts="Alt+ArrowUp Alt+ArrowDown Alt+ArrowLeft Alt+ArrowRight"
          @click="p.opened.value = l.job"
          @keydown="byKey($event, i)"
        >
          <span class="top">
            <span v-if="l.placing" class="mono time">{{ clockOf(l.placing.start, zone) }}</span>
            <strong class="mono">{{ p.jobs.value.get(l.job)?.title }}</strong>
            <span v-if="l.placing?.locked" class="quiet small">agreed</span>
            <StateMark
              v-if="(p.progress.value.get(l.job)?.state ?? 'open') !== 'open'"
              v-bind="markOf(p.progress.value.get(l.job))"
            />
          </span>
          <span class="quiet small">
            {{ l.helps ? 'helps; ' : '' }}{{ p.placeOf(l.job) }},
            {{ p.jobs.value.get(l.job)?.minutes }} min<template v-if="!l.placing"
              >, {{ IMPORTANCE_WORDS[(p.jobs.value.get(l.job)?.importance ?? 3) - 1] }}</template
            >
          </span>
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.chance {
  margin: -4px 0 8px;
}
.risky {
  color: var(--look);
}
.cards {
  list-style: none;
  padding: 0;
  min-height: 56px;
}
.card {
  display: flex;
  align-items: stretch;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: var(--surface);
  margin-bottom: 4px;
}
.bad {
  border: 2px solid var(--stop);
}
.helps {
  border-style: dashed;
}
.grip {
  display: grid;
  place-items: center;
  width: 36px;
  cursor: grab;
  color: var(--quiet);
  touch-action: none;
}
.open {
  flex: 1;
  min-width: 0;
  min-height: 52px;
  padding: 6px 8px;
  border: 0;
  background: transparent;
  color: inherit;
  font: inherit;
  text-align: left;
  cursor: pointer;
  display: grid;
}
.top {
  display: flex;
  align-items: center;
  gap: 8px;
}
.top strong {
  overflow: hidden;
  text-overflow: ellipsis;
}
.time {
  color: var(--accent);
}
</style>
