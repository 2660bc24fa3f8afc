<script setup lang="ts">
import { loopList, loops as at, urlOf } from '@calm/contract/api/addresses'
import type { LoopRow } from '@calm/contract/loops'
import { PARTS } from '@calm/core/loop/parts'
import { mdiDotsVertical, mdiDownload, mdiMagnify, mdiPlus, mdiTrayArrowDown } from '@mdi/js'
import { useElementBounding, useEventListener, useMediaQuery, useWindowSize } from '@vueuse/core'
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from '../../api/session-store.ts'
import { useLive } from '../../api/live-cache.ts'
import { daysUntil, sayInstant } from '../../ui/dates.ts'
import { useKeptScroll } from '../../ui/kept-scroll.ts'
import LoopListRow from './LoopListRow.vue'

// Fetched when somebody adds one: it knows every kind of meter.
const NewLoop = defineAsyncComponent(() => import('./NewLoop.vue'))
const SeveralDialog = defineAsyncComponent(() => import('./SeveralDialog.vue'))

/** As many as a large screen shows: they are there before the whole of a long list is. */
const FIRST = 60
const { data, state, says: trouble } = useLive(at.list, {})
const first = useLive(at.list, { most: FIRST })
const rows = computed(() => data.value ?? first.data.value ?? [])
/** Whether these are all: until then nothing is counted. */
const whole = computed(() => data.value !== null || rows.value.length < FIRST)
const session = useSession()
const route = useRoute()
const router = useRouter()
type Only = 'all' | 'attention' | 'due' | 'mine' | 'archived'
const textOf = (x: unknown) => (typeof x === 'string' ? x : '')
/** What is looked for stands in the address: the browser's back brings it again. */
const find = ref(textOf(route.query['find']))
const only = ref<Only>(
  (['attention', 'due', 'mine', 'archived'] as const).find((o) => o === route.query['only']) ?? 'all',
)
/** Out of use: asked for by who wants to see them. */
const archive = useLive(at.list, () => (only.value === 'archived' ? { archived: 'yes' as const } : null))
watch([find, only], () => {
  const query = {
    ...(find.value ? { find: find.value } : {}),
    ...(only.value === 'all' ? {} : { only: only.value }),
  }
  void router.replace({ query })
})
const adding = ref(route.query['new'] === 'yes')
/** The survey whose next site is on a pipe that has no loop yet. */
const survey = textOf(route.query['survey']) || undefined
watch(
  () => route.query['new'],
  (asked) => {
    if (asked === 'yes') adding.value = true
  },
)

const PART_TITLES = { wire: 'Wire', setUp: 'Set up', scale: 'Scale', trim: 'Trim', verify: 'Verify' } as const
const SOON_DAYS = 30
const now = new Date()

const needsLook = (l: LoopRow) => Object.values(l.summary.parts).some((s) => s === 'stop')
const own = computed(() => (session.person?.shownName ?? '').toLowerCase())
const isMine = (l: LoopRow) => l.assignee !== '' && l.assignee.toLowerCase() === own.value
const isDue = (l: LoopRow) => l.due !== null && daysUntil(l.due, now) <= SOON_DAYS

const found = computed(() => {
  const words = find.value.toLowerCase().split(/\s+/).filter(Boolean)
  const from = only.value === 'archived' ? (archive.data.value ?? []) : rows.value
  return from.filter((l) => {
    if (only.value === 'attention' && !needsLook(l)) return false
    if (only.value === 'due' && !isDue(l)) return false
    if (only.value === 'mine' && !isMine(l)) return false
    if (words.length === 0) return true
    const text =
      `${l.tag} ${l.service} ${l.area} ${l.assignee} ${l.type} ${l.summary.kind ?? ''}`.toLowerCase()
    return words.every((w) => text.includes(w))
  })
})
const counts = computed(() => ({
  all: rows.value.length,
  attention: rows.value.filter(needsLook).length,
  due: rows.value.filter(isDue).length,
  mine: rows.value.filter(isMine).length,
}))

type Item =
  | { readonly key: string; readonly area: string; readonly count: number }
  | { readonly key: string; readonly loop: LoopRow }
const items = computed((): Item[] => {
  const perArea = new Map<string, LoopRow[]>()
  for (const l of found.value) {
    const list = perArea.get(l.area)
    if (list) list.push(l)
    else perArea.set(l.area, [l])
  }
  return [...perArea].flatMap(([area, rows]): Item[] => [
    { key: `area ${area}`, area: area || 'No area', count: rows.length },
    ...rows.map((loop) => ({ key: loop.id, loop })),
  ])
})

const list = useTemplateRef('list')
const { top } = useElementBounding(list)
useKeptScroll(
  'calm-list-top',
  () => list.value?.querySelector('.list') ?? null,
  () => items.value.length > 0,
)
/** One row of buttons less: what is not done on a phone every day stands in the menu there. */
const narrow = useMediaQuery('(max-width: 700px)')
const { height } = useWindowSize()
const listHeight = computed(() => Math.max(240, height.value - Math.max(0, top.value) - 12))
const onPaper = ref(false)
useEventListener(window, 'beforeprint', () => (onPaper.value = true))
useEventListener(window, 'afterprint', () => (onPaper.value = false))
/** What the list on paper is of: its filters in words, and the day. */
const heading = computed(() =>
  [
    {
      all: 'All loops',
      attention: 'Loops that are not right',
      due: `Loops due in ${SOON_DAYS} days`,
      mine: 'Loops assigned to me',
      archived: 'Loops out of use',
    }[only.value],
    find.value.trim() === '' ? null : `with “${find.value.trim()}”`,
    `${found.value.length} of ${rows.value.length}, ${sayInstant(now.toISOString())}`,
  ]
    .filter(Boolean)
    .join(', '),
)
async function print(): Promise<void> {
  onPaper.value = true
  await nextTick()
  window.print()
}
/** Labels of the loops that are shown; of all of them where they are more than an address holds. */
const MOST_LABELS = 300
const labels = computed(() =>
  urlOf(
    at.labels,
    found.value.length <= MOST_LABELS && found.value.length > 0
      ? { tags: found.value.map((l) => l.tag).join(',') }
      : {},
  ),
)
const FILTERS = [
  { id: 'all', title: 'All' },
  { id: 'attention', title: 'Not right' },
  { id: 'due', title: `Due in ${SOON_DAYS} days` },
] as const
/** Who has loops of their own finds them by one touch; nobody else has one filter more. */
const filters = computed(() =>
  counts.value.mine > 0 || only.value === 'mine'
    ? [...FILTERS, { id: 'mine', title: 'Mine' } as const]
    : FILTERS,
)

/** Loops that are chosen to be changed at once; null while none is being chosen. */
const chosen = ref<ReadonlySet<string> | null>(null)
const changing = ref(false)
const told = ref<string | null>(null)
const areas = computed(() => [...new Set(rows.value.map((l) => l.area))].sort())
const names = computed(() =>
  [...new Set([session.person?.shownName ?? '', ...rows.value.map((l) => l.assignee)])]
    .filter(Boolean)
    .sort(),
)
function choose(id: string, yes: boolean): void {
  const now = new Set(chosen.value)
  if (yes) now.add(id)
  else now.delete(id)
  chosen.value = now
}
const chosenShown = computed(() => found.value.filter((l) => chosen.value?.has(l.id)).map((l) => l.id))
const chooseAll = () => (chosen.value = new Set(found.value.map((l) => l.id)))
function changed(says: string): void {
  changing.value = false
  chosen.value = null
  told.value = says
}
</script>

<template>
  <div class="page loops">
    <p class="print-only">{{ heading }}</p>
    <header class="row head no-print">
      <h1>Loops</h1>
      <v-text-field
        v-model="find"
        class="find"
        label="Find a loop"
        :prepend-inner-icon="mdiMagnify"
        type="search"
      />
      <div class="row filters" role="group" aria-label="Show">
        <v-btn
          v-for="f in filters"
          :key="f.id"
          :variant="only === f.id ? 'flat' : 'outlined'"
          :color="only === f.id ? 'primary' : undefined"
          :aria-pressed="only === f.id"
          @click="only = f.id"
        >
          {{ f.title }}<span class="mono count">{{ whole ? counts[f.id] : '…' }}</span>
        </v-btn>
      </div>
      <v-btn
        v-if="only === 'archived'"
        variant="flat"
        color="primary"
        aria-pressed="true"
        @click="only = 'all'"
        >Out of use</v-btn
      >
      <span class="gap" />
      <v-btn v-if="session.mayWriteSomewhere" :prepend-icon="mdiPlus" @click="adding = true">New loop</v-btn>
      <v-btn
        v-if="session.mayWriteSomewhere"
        to="/loops/import"
        :prepend-icon="mdiTrayArrowDown"
        aria-label="Import list"
        >Import</v-btn
      >
      <v-btn
        v-if="!narrow"
        :href="urlOf(loopList.export, {})"
        :prepend-icon="mdiDownload"
        aria-label="Export list"
        >Export</v-btn
      >
      <v-menu>
        <template #activator="{ props }">
          <v-btn v-bind="props" variant="text" :icon="mdiDotsVertical" aria-label="More about the list" />
        </template>
        <v-list>
          <v-list-item
            v-if="session.mayWriteSomewhere && only !== 'archived'"
            title="Change several at once"
            @click="((chosen = new Set()), (told = null))"
          />
          <v-list-item v-if="narrow" title="Export the list (CSV)" :href="urlOf(loopList.export, {})" />
          <v-list-item title="Export as a spreadsheet (xlsx)" :href="urlOf(loopList.exportSheet, {})" />
          <v-list-item title="Labels of what is shown (QR, PDF)" :href="labels" />
          <v-list-item title="Print the list" @click="print" />
          <v-list-item title="Show what is out of use" @click="only = 'archived'" />
        </v-list>
      </v-menu>
    </header>
    <NewLoop v-if="session.mayWriteSomewhere && adding" v-model="adding" :survey="survey" />
    <p v-if="trouble" role="alert" class="trouble">{{ trouble }}</p>
    <div v-if="chosen" class="row choosing no-print" role="group" aria-label="Change several">
      <strong class="mono">{{ chosenShown.length }} chosen</strong>
      <v-btn color="primary" variant="flat" :disabled="chosenShown.length === 0" @click="changing = true"
        >Change them</v-btn
      >
      <v-btn variant="text" @click="chooseAll">Choose all {{ found.length }} shown</v-btn>
      <v-btn variant="text" @click="chosen = null">Done choosing</v-btn>
    </div>
    <p v-else-if="told" role="status" class="choosing">{{ told }}</p>
    <SeveralDialog
      v-if="changing"
      :ids="chosenShown"
      :areas="areas"
      :names="names"
      @close="changing = false"
      @done="changed"
    />
    <div class="columns small quiet" aria-hidden="true">
      <span>Tag</span><span>Service</span><span class="c-line">Line</span>
      <span class="parts"
        ><span v-for="p in PARTS" :key="p">{{ PART_TITLES[p] }}</span></span
      >
      <span>Last verdict</span><span>Due</span>
    </div>
    <div ref="list">
      <!-- On paper every row is there, not only those in view. -->
      <div v-if="onPaper" class="print-only">
        <template v-for="item in items" :key="item.key">
          <h2 v-if="'area' in item" class="area">{{ item.area }} ({{ item.count }})</h2>
          <LoopListRow v-else :loop="item.loop" :now="now" />
        </template>
      </div>
      <v-virtual-scroll
        v-if="items.length > 0"
        :items="items"
        :item-height="44"
        :height="listHeight"
        class="list no-print"
        tabindex="0"
        aria-label="Loops by area"
      >
        <template #default="{ item }">
          <h2 v-if="'area' in item" class="area">
            {{ item.area }} <span v-if="whole" class="quiet small">{{ item.count }} loops</span>
          </h2>
          <LoopListRow
            v-else
            :loop="item.loop"
            :now="now"
            :chosen="chosen && chosen.has(item.loop.id)"
            @update:chosen="choose(item.loop.id, $event === true)"
          />
        </template>
      </v-virtual-scroll>
      <div v-else-if="state !== 'loading' && rows.length === 0" class="empty stack">
        <h2>The plant’s loops belong here</h2>
        <p>Bring the loop list you have: CSV with semicolons or commas, one row a loop.</p>
        <div>
          <v-btn v-if="session.mayWriteSomewhere" color="primary" variant="flat" to="/loops/import"
            >Import a loop list</v-btn
          >
        </div>
      </div>
      <p v-else-if="state !== 'loading'" class="empty">No loop matches. Type less, or show all.</p>
    </div>
  </div>
</template>

<style scoped>
.page {
  max-width: none;
  padding-bottom: 8px;
}
.head {
  margin-bottom: 12px;
}
.find {
  flex: 1 1 140px;
  max-width: 340px;
}
.gap {
  flex: 1;
}
.choosing {
  padding: 0 12px 8px;
}
.count {
  margin-left: 8px;
  opacity: 0.85;
}
.columns,
:deep(.loop-row) {
  display: grid;
  grid-template-columns: 110px minmax(140px, 1fr) 110px 260px 180px 150px;
  gap: 12px;
  align-items: center;
  padding: 0 12px;
}
.parts,
:deep(.parts) {
  display: grid;
  grid-template-columns: repeat(5, 1fr);
  justify-items: center;
}
.area {
  height: 44px;
  padding: 14px 12px 0;
  font-size: var(--size-m);
  border-bottom: var(--line) solid var(--hair);
}
.list {
  border-top: var(--line) solid var(--hair);
}
.empty {
  padding: 32px 12px;
}
.trouble {
  color: var(--stop);
}
@media (max-width: 1100px) {
  .columns,
  :deep(.loop-row) {
    grid-template-columns: 100px minmax(120px, 1fr) 150px 120px 120px;
  }
  .c-line,
  :deep(.c-line) {
    display: none;
  }
  .parts,
  :deep(.parts) {
    font-size: 0;
  }
}
@media (max-width: 700px) {
  .filters {
    flex-wrap: nowrap;
    overflow-x: auto;
    max-width: 100%;
  }
  .filters > * {
    flex: none;
  }
  .gap {
    display: none;
  }
  .columns {
    display: none;
  }
  :deep(.loop-row) {
    grid-template-columns: 92px minmax(60px, 1fr) 18px auto;
    gap: 8px;
    padding: 0 4px;
  }
  :deep(.parts) {
    display: none;
  }
  /* The shape stays; the word is still read aloud. */
  :deep(.verdict-mark > span) {
    position: absolute;
    width: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
}
/* On paper the five marks keep their headings. */
@media print {
  .columns .parts {
    font-size: 9px;
  }
}
</style>
