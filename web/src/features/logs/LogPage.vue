<script setup lang="ts">
import { logs, loops } from '@calm/contract/api/addresses'
import { HOW_IT_CAME } from '@calm/core/logs/recording'
import type { LogSaying } from '@calm/core/logs/say-finding'
import { sayNumber } from '@calm/core/quantity/round'
import { mdiMinus, mdiPlus } from '@mdi/js'
import { useElementSize } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, useTemplateRef, watch } from 'vue'
import { useLive } from '../../api/live-cache.ts'
import { useSession } from '../../api/session-store.ts'
import { useLongWork } from '../../api/long-work.ts'
import LongWorkLine from '../../ui/LongWorkLine.vue'
import StateMark from '../../ui/StateMark.vue'
import LogBeforeAfter from './LogBeforeAfter.vue'
import LogCompare from './LogCompare.vue'
import LogNumbers from './LogNumbers.vue'
import NoteDialog from '../../loop/NoteDialog.vue'
import LogCounter from './LogCounter.vue'
import LogHeld from './LogHeld.vue'
import LogLevels from './LogLevels.vue'
import LogOut from './LogOut.vue'
import LogMarks from './LogMarks.vue'
import { answerOf } from './log-answer.ts'
import { marksOf } from './log-marks.ts'
import { placeOf } from '../../loop/place-of-log.ts'
import { sayLogTime } from './say-time.ts'
import { sayHeld } from './use-held.ts'
import { useStretch, type Choice } from './use-log.ts'

const LogChart = defineAsyncComponent(() => import('./LogChart.vue'))

const props = defineProps<{ tag: string; id: string }>()
const session = useSession()
const live = useLive(logs.one, () => ({ loop: props.tag, log: props.id }))
const all = useLive(logs.list, {})
const log = computed(() => live.data.value ?? null)
const board = useTemplateRef<HTMLElement>('board')
const { width: outer } = useElementSize(board)
/** Pixels between the axes: one stroke each. */
const inner = ref(0)
const width = computed(() => (inner.value > 0 ? inner.value : Math.max(50, outer.value - 90)))
const s = useStretch(log, width)
const chosen = ref<LogSaying | null>(null)
const chart = useTemplateRef<{ picture: () => string }>('chart')

const channels = computed(() => (log.value?.channels ?? []).map((c, value) => ({ value, title: c.name })))
const name = computed(() => log.value?.channels[s.channel.value]?.name ?? '')
/** What can be drawn beside it: other channels of this log, and other whole logs of the loop. */
const choices = computed(() => {
  const here = log.value
  if (!here) return []
  const own = here.channels.flatMap((c, i) =>
    i === s.channel.value ? [] : [{ title: c.name, choice: { log: here, channel: i } }],
  )
  const others = (all.data.value ?? [])
    .filter((l) => l.tag === here.tag && l.id !== here.id && l.state === 'kept')
    .flatMap((l) =>
      l.channels.flatMap((c, channel) =>
        c.kind === 'value' ? [{ title: `${l.title}: ${c.name}`, choice: { log: l, channel } }] : [],
      ),
    )
  // By its name and not by its place: a log that a colleague keeps meanwhile moves the others down the list.
  return [...own, ...others].map((c) => ({ ...c, value: `${c.choice.log.id} ${c.choice.channel}` }))
})
/** Lines that are told apart in one drawing, besides the one that is judged. */
const MOST_BESIDE = 4
const besideAt = ref<string[]>([])
watch([besideAt, choices], ([chosen]) => {
  // More lines than can be told apart say nothing.
  if (chosen.length > MOST_BESIDE) besideAt.value = chosen.slice(0, MOST_BESIDE)
  else s.beside.value = chosen.flatMap((c) => choices.value.find((x) => x.value === c)?.choice ?? [])
})
/** The first of another log is what this one is held against. */
const comparable = computed(
  (): Choice | null => s.beside.value.find((b) => log.value && b.log.id !== log.value.id) ?? null,
)
const drawn = (choice: Choice | null, view: typeof s.main.value) => {
  const c = choice?.log.channels[choice.channel]
  const isOther = choice !== null && choice.log.id !== log.value?.id
  return choice && view && c
    ? {
        view,
        name: isOther ? `${choice.log.title}: ${c.name}` : c.name,
        unit: c.unit,
        gapAbove: choice.log.gapAbove,
        simulated: choice.log.simulated,
        isReference: isOther && choice.log.of === 'reference',
      }
    : null
}
const main = computed(() => drawn(log.value && { log: log.value, channel: s.channel.value }, s.main.value))
const besides = computed(() => s.besides.value.flatMap((b) => drawn(b.choice, b.view) ?? []))
/** Whether it can be held against a counter: once it could, its readings stay while another stretch is looked at. */
const counts = ref(false)
watch(
  () => s.judgement.value?.total ?? null,
  (total) => (counts.value ||= total !== null),
)
const band = computed(() => s.judgement.value?.against ?? null)
const times = computed(() => ({ relative: log.value?.relative ?? false, zone: log.value?.zone ?? 'UTC' }))
const isWhole = computed(() => s.from.value <= s.whole.value.from && s.to.value >= s.whole.value.to)

const answer = computed(() =>
  answerOf({
    // A verdict of the stretch before says nothing of this one.
    judgement: s.isCurrent.value ? s.judgement.value : null,
    isAsked: s.says.value === null,
    found: s.found.value,
    unread: log.value?.wrongCount ?? 0,
    isHeld: s.held.value !== null,
  }),
)
const byParts = useLongWork()
/** Summed up, and not judged. */
const isTooLong = computed(
  () => s.isCurrent.value && s.judgement.value !== null && s.judgement.value.findings === null,
)
const MOST_LISTED = 60
const came = (how: string) => how.charAt(0).toUpperCase() + how.slice(1)
const MARK = { stop: 'stop', warn: 'look', note: 'notYet', good: 'good' } as const
const WORD = { stop: 'Stop', warn: 'Look', note: 'Note', good: 'Good' } as const
/** A finding with some of what lies around it. */
function goTo(f: LogSaying): void {
  chosen.value = f
  const wide = Math.max(f.to - f.from, (s.whole.value.to - s.whole.value.from) / 40)
  s.look(f.from - wide / 2, f.from + (f.to - f.from) + wide / 2)
}
watch([s.channel], () => {
  chosen.value = null
  counts.value = false
})
const events = useLive(loops.events, () => ({ loop: props.tag }))
const marks = computed(() => marksOf(events.data.value ?? [], props.id))
/** The moment that was touched last. */
const cursor = ref<number | null>(null)
const marking = ref<{ log: string; at: number; says: string; text?: string } | null>(null)
const placeToMark = computed(() => {
  const at = cursor.value ?? (s.from.value + s.to.value) / 2
  return { log: props.id, at: Math.round(at), says: sayLogTime(at, times.value) }
})
function keepAt(text: string): void {
  marking.value = { ...placeToMark.value, text }
}
function look(at: number): void {
  cursor.value = at
  const half = (s.to.value - s.from.value) / 2
  s.look(at - half, at + half)
}
function touched(at: number): void {
  cursor.value = at
  s.touched(at)
}
/** The stretch of which readings were typed, again. */
function back(from: number, to: number): void {
  if (s.held.value) s.held.value = { from, to }
  else s.look(from, to)
}
const keys: Readonly<Record<string, () => void>> = {
  ArrowLeft: () => {
    s.move(-0.25)
  },
  ArrowRight: () => {
    s.move(0.25)
  },
  '+': () => {
    s.zoom(0.5)
  },
  '-': () => {
    s.zoom(2)
  },
  Home: () => {
    s.all()
  },
}
function key(e: KeyboardEvent): void {
  const act = keys[e.key]
  if (!act) return
  e.preventDefault()
  act()
}
const says = computed(() => {
  const j = s.judgement.value?.statistics
  return `${name.value} from ${sayLogTime(s.of.value.from, times.value)} to ${sayLogTime(s.of.value.to, times.value)}${j ? `, mean ${sayNumber(j.mean, 5)}, from ${sayNumber(j.min, 5)} to ${sayNumber(j.max, 5)}` : ''}`
})
function savePicture(): void {
  const link = document.createElement('a')
  link.href = chart.value?.picture() ?? ''
  link.download = `${log.value?.tag ?? ''} ${log.value?.title ?? ''}.png`
  link.click()
}
</script>

<template>
  <div class="page stack wide">
    <p class="small">
      <router-link to="/logs">Logs</router-link> ·
      <router-link :to="`/loops/${tag}`" class="mono">{{ tag }}</router-link>
    </p>
    <p v-if="live.state.value === 'failed'" role="alert" class="trouble">{{ live.says.value }}</p>
    <template v-if="log">
      <div class="row">
        <h1>{{ log.title }}</h1>
        <span v-if="log.simulated" class="simulated">simulated</span>
        <span class="quiet small"
          >{{ log.of === 'installed' ? 'of this meter' : 'of a reference'
          }}{{ log.instrument ? `, recorded by ${log.instrument}` : ''
          }}{{ log.site ? `, ${log.site}` : '' }}</span
        >
      </div>
      <p v-if="log.state === 'open'" class="answer">
        This log is not whole: nothing is judged by it.
        <router-link :to="placeOf(log)">Go on with it</router-link>
      </p>
      <p v-else role="status" class="row verdict">
        <StateMark :state="answer.state" :word="answer.word" />
        <span class="small">{{ answer.says }}</span>
        <v-btn
          v-if="isTooLong && !byParts.busy.value"
          variant="outlined"
          @click="byParts.begin((given) => s.judgeByParts(given))"
          >Judge it part by part</v-btn
        >
      </p>
      <LongWorkLine :work="byParts" doing="Judging it part by part" />
      <div v-if="log.state === 'kept'" class="parts">
        <div class="left stack">
          <div class="row picks">
            <v-select v-model="s.channel.value" :items="channels" label="Shown" hide-details class="pick" />
            <v-select
              v-model="besideAt"
              :items="choices"
              label="Beside it"
              multiple
              clearable
              hide-details
              class="pick"
            />
          </div>
          <div
            ref="board"
            class="board"
            tabindex="0"
            role="group"
            aria-label="Drawing of the log: arrows move it, plus and minus zoom, Home shows the whole"
            @keydown="key"
          >
            <LogChart
              ref="chart"
              :main="main"
              :besides="besides"
              :from="s.from.value"
              :to="s.to.value"
              :whole="s.whole.value"
              :band="band"
              :own="marks.map((m) => m.at)"
              :cursor="cursor"
              :held="s.held.value"
              :found="s.found.value"
              :chosen="chosen"
              :times="times"
              :says="says"
              @look="s.look"
              @wide="inner = $event"
              @touch="touched"
            />
          </div>
          <p class="mono small quiet">
            {{ sayLogTime(s.from.value, times) }} – {{ sayLogTime(s.to.value, times) }}
          </p>
          <p role="status" class="small held">{{ sayHeld(s.held.value, s.choosing.value, times) }}</p>
          <div class="row acts">
            <v-btn variant="text" @click="s.move(-0.5)">Earlier</v-btn>
            <v-btn variant="text" @click="s.move(0.5)">Later</v-btn>
            <v-btn :icon="mdiPlus" variant="text" aria-label="Nearer" title="Nearer" @click="s.zoom(0.5)" />
            <v-btn :icon="mdiMinus" variant="text" aria-label="Further" title="Further" @click="s.zoom(2)" />
            <v-btn variant="text" :disabled="isWhole" @click="s.all()">Whole</v-btn>
            <LogHeld
              :can-let-go="s.held.value !== null || s.choosing.value !== null"
              @seen="s.holdSeen"
              @choose="s.choose"
              @let-go="s.letGo"
            />
            <v-btn
              v-if="session.mayWrite"
              variant="text"
              :title="`Mark ${cursor === null ? 'the middle of what is seen' : 'the moment that was touched'}`"
              @click="marking = placeToMark"
              >Mark</v-btn
            >
            <span class="stretch" />
            <LogOut
              :log="log"
              :channel="s.channel.value"
              :judged="s.of.value"
              :seen="{ from: s.from.value, to: s.to.value }"
              :beside="s.beside.value"
              @picture="savePicture"
            />
          </div>
          <p v-if="s.says.value" role="alert" class="trouble">{{ s.says.value }}</p>
          <LogMarks :marks="marks" :times="times" @go="look" />
        </div>
        <div class="right stack">
          <ul v-if="s.found.value.length > 0" class="found">
            <li v-for="(f, i) in s.found.value.slice(0, MOST_LISTED)" :key="i">
              <button type="button" :class="{ chosen: f === chosen }" @click="goTo(f)">
                <StateMark :state="MARK[f.severity]" :word="WORD[f.severity]" />
                <span>{{ f.says }}</span>
                <span class="mono small quiet">{{ sayLogTime(f.from, times) }}</span>
              </button>
            </li>
            <li v-if="s.found.value.length > MOST_LISTED" class="small quiet">
              and {{ s.found.value.length - MOST_LISTED }} more: look nearer to see them
            </li>
          </ul>
          <LogNumbers
            v-if="s.judgement.value"
            :judgement="s.judgement.value"
            :unit="s.unit.value"
            :simulated="log.simulated"
          />
          <LogCounter
            v-if="counts && s.unit.value"
            :key="s.channel.value"
            :total="s.isCurrent.value ? (s.judgement.value?.total ?? null) : null"
            :unit="s.unit.value"
            :from="s.of.value.from"
            :to="s.of.value.to"
            @look="back"
          />
          <LogBeforeAfter
            v-if="
              log &&
              log.state === 'kept' &&
              cursor !== null &&
              cursor > s.of.value.from &&
              cursor < s.of.value.to
            "
            :log="log"
            :channel="s.channel.value"
            :from="s.of.value.from"
            :to="s.of.value.to"
            :at="cursor"
            :times="times"
            :may-write="session.mayWrite"
            @keep="keepAt"
          />
          <LogLevels v-if="band" :against="band" :unit="s.unit.value" />
          <LogCompare
            v-if="comparable"
            :log="log"
            :channel="s.channel.value"
            :beside="comparable"
            :from="s.of.value.from"
            :to="s.of.value.to"
            :may-write="session.mayWrite"
          />
          <details v-if="log.wrongCount > 0">
            <summary>
              {{ log.wrongCount }} {{ log.wrongCount === 1 ? 'line' : 'lines' }} could not be read
            </summary>
            <p v-for="(w, i) in log.wrong.slice(0, 50)" :key="i" class="mono small">
              {{ log.files[w.file] }}, line {{ w.line }}:
              {{ w.reason === 'FIELDS' ? 'other columns' : w.reason === 'TIME' ? 'no time' : 'no number' }}
            </p>
          </details>
          <p class="small quiet">
            {{ came(HOW_IT_CAME[log.source]) }} by {{ log.byName
            }}{{ log.source === 'file' ? ` from ${log.files.join(', ')}` : '' }}. Findings speak of the
            record, not of blame: a process that was meant to move gives steps and drift too.
          </p>
        </div>
      </div>
    </template>
    <NoteDialog v-if="marking" :detail="{ id: tag, tag }" :mark="marking" @close="marking = null" />
  </div>
</template>

<style scoped>
.wide {
  max-width: none;
}
.trouble {
  color: var(--stop);
}
.simulated {
  color: var(--simulated);
}
.parts {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 20px;
}
.board {
  position: relative;
  height: clamp(260px, calc(100dvh - 396px), 760px);
  touch-action: pan-y;
}
.left {
  position: sticky;
  top: 12px;
  align-self: start;
}
.pick {
  max-width: 320px;
}
.held {
  margin: 0;
}
.acts {
  column-gap: 0;
}
.stretch {
  flex: 1;
}
.found {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 6px;
  max-height: 44dvh;
  overflow-y: auto;
}
.found button {
  display: grid;
  gap: 2px;
  width: 100%;
  min-height: 44px;
  text-align: left;
  padding: 8px 10px;
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
  background: none;
  color: inherit;
  font: inherit;
  cursor: pointer;
}
.found button.chosen {
  border-color: var(--primary);
}
@media (max-width: 1000px) {
  .parts {
    grid-template-columns: minmax(0, 1fr);
  }
  .left {
    position: static;
  }
  .board {
    height: 46dvh;
  }
  .found {
    max-height: none;
  }
}
</style>
