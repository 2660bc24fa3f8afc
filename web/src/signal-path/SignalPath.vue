<script setup lang="ts">
import type { LineStep } from '@calm/core/loop/line-steps'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { calmLine, heightAt } from '@calm/core/signal/calm-line'
import { STATION_IDS, type Stage, type StageKind } from '@calm/core/signal/stage'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useShortcut } from '../ui/shortcuts.ts'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { useSignalPath } from './use-signal-path.ts'

/** The line itself: every station's value, driven from any of them. */
const {
  stages,
  steps = [],
  stays = false,
} = defineProps<{ stages: readonly Stage[]; steps?: readonly LineStep[]; stays?: boolean }>()

const LEVELS = [0, 25, 50, 75, 100]

const emit = defineEmits<{ current: [mA: number | null] }>()

const path = useSignalPath(() => stages)
watch(path.current_mA, (mA) => emit('current', mA), { immediate: true })
const editing = ref<number | null>(null)
const draft = ref('')
const inputs = useTemplateRef<HTMLInputElement[]>('inputs')

LEVELS.forEach((level, i) => useShortcut(String(i), `Process to ${level} %`, () => path.setLevel(level)))

function begin(at: number, text: string): void {
  editing.value = at
  draft.value = path.origin.value === at && path.typed.value !== null ? path.typed.value : text
  void nextTick(() => inputs.value?.[at]?.select())
}
function input(at: number, event: Event): void {
  draft.value = (event.target as HTMLInputElement).value
  path.type(at, draft.value)
}
function end(): void {
  // A wrong text stays in its field until it is mended.
  if (path.trouble.value === null) editing.value = null
}
function go(at: number, by: number, event: KeyboardEvent): void {
  const field = event.target as HTMLInputElement
  const atEdge = by < 0 ? field.selectionStart === 0 : field.selectionEnd === field.value.length
  const whole = field.selectionStart === 0 && field.selectionEnd === field.value.length
  if (!whole && !atEdge) return
  event.preventDefault()
  inputs.value?.[at + by]?.focus()
}

const range = (s: { low: number; high: number; unit: string }) =>
  `${sayNumber(s.low)} to ${sayNumber(s.high)}`

const WIDE = 1000
const BOX = 52
/** Room for the knots above and below. */
const ROOM = 6

/** The line in a box a thousand wide: flat, stepping where an error comes in; stations sit on it. */
const line = computed(() => {
  const stations = path.shown.value.map((s) => s.station)
  const placeOf = (kind: StageKind): number | null => {
    const i = stations.findIndex((s) => s.id === STATION_IDS[kind])
    return i < 0 ? null : i / stations.length
  }
  const shown = steps.filter((s) => placeOf(s.station) !== null)
  const corners = calmLine(shown, WIDE, BOX - 2 * ROOM, placeOf).map(([x, y]): [number, number] => [
    x,
    y + ROOM,
  ])
  const inOrder = [...shown].sort((a, b) => (placeOf(a.station) ?? 0) - (placeOf(b.station) ?? 0))
  const text = (points: readonly (readonly [number, number])[]) => points.map((p) => p.join(',')).join(' ')
  // Behind every step begins a piece that is off.
  const pieces = inOrder.map((_, k) => ({
    points: text(corners.slice(2 * k + 1, 2 * k + 4)),
    calm: false,
  }))
  return {
    segments: [{ points: text(corners.slice(0, 2)), calm: true }, ...pieces],
    marks: inOrder.map((step, k) => {
      const [x, before] = corners[2 * k + 1] ?? [0, 0]
      const y = corners[2 * k + 2]?.[1] ?? before
      // The words stand on the side the line has left, so that they never cover it.
      return {
        left: (100 * x) / WIDE,
        top: y < before ? y + 4 : y - 22,
        text: `${step.error_pct > 0 ? '+' : ''}${sayNumber(step.error_pct, 2)} % of span`,
      }
    }),
    knots: stations.map((_, i) => heightAt(corners, (i / stations.length) * WIDE)),
  }
})
</script>

<template>
  <section class="strip" :class="{ stays }" aria-label="Signal path">
    <div class="scroll" tabindex="-1">
      <div
        class="stations"
        :style="{ gridTemplateColumns: `repeat(${path.shown.value.length}, minmax(var(--station), 1fr))` }"
      >
        <div
          v-for="(s, i) in path.shown.value"
          :key="s.station.id"
          class="station"
          :class="{ origin: s.isOrigin, wrong: path.trouble.value?.at === i }"
        >
          <label class="value">
            <span class="visually-hidden"
              >{{ STATION_NAMES[s.station.kind] }}, {{ printedUnit(s.station.unit) }}</span
            >
            <span v-if="s.sign" class="sign mono">{{ s.sign }}</span>
            <input
              ref="inputs"
              class="mono"
              inputmode="decimal"
              autocomplete="off"
              :value="editing === i ? draft : s.text"
              :aria-invalid="path.trouble.value?.at === i"
              :data-station="s.station.id"
              @focus="begin(i, s.text)"
              @input="input(i, $event)"
              @blur="end"
              @keydown.left="go(i, -1, $event)"
              @keydown.right="go(i, 1, $event)"
            />
          </label>
          <div class="unit mono small">
            {{ s.station.unit === 'counts' ? 'counts' : printedUnit(s.station.unit) }}
          </div>
        </div>
        <div class="line" aria-hidden="true">
          <svg viewBox="0 0 1000 52" preserveAspectRatio="none">
            <polyline
              v-for="seg in line.segments"
              :key="seg.points"
              :points="seg.points"
              :class="{ off: !seg.calm }"
              fill="none"
              stroke="currentColor"
              vector-effect="non-scaling-stroke"
            />
          </svg>
          <span
            v-for="m in line.marks"
            :key="m.left"
            class="step mono small"
            :style="{ left: `${m.left}%`, top: `${m.top}px` }"
            >{{ m.text }}</span
          >
          <span
            v-for="(s, i) in path.shown.value"
            :key="s.station.id"
            class="knot"
            :class="{ origin: s.isOrigin }"
            :style="{
              left: `${((i + 0.5) / path.shown.value.length) * 100}%`,
              top: `${(line.knots[i] ?? 26) - 5}px`,
            }"
          />
        </div>
        <div v-for="s in path.shown.value" :key="`${s.station.id}-name`" class="foot small">
          <div class="name">{{ STATION_NAMES[s.station.kind] }}</div>
          <div class="quiet mono">{{ range(s.station) }}</div>
          <div v-if="s.note" class="note">{{ s.note }}</div>
        </div>
      </div>
    </div>
    <div class="drive no-print">
      <v-slider
        :model-value="path.level.value"
        :min="0"
        :max="100"
        :step="0.5"
        color="primary"
        track-color="hairline"
        hide-details
        aria-label="Process level, percent of range"
        @update:model-value="path.setLevel($event)"
      />
      <div class="levels" role="group" aria-label="Process to">
        <v-btn
          v-for="level in LEVELS"
          :key="level"
          variant="text"
          min-width="56"
          @click="path.setLevel(level)"
          >{{ level }} %</v-btn
        >
      </div>
    </div>
    <p v-if="path.trouble.value" class="trouble" role="alert">{{ path.trouble.value.says }}</p>
  </section>
</template>

<style scoped>
.strip {
  background: var(--surface);
  border-block: var(--line) solid var(--hair);
  padding: 8px 24px 0;
}
.stations {
  display: grid;
  row-gap: 0;
}
.station {
  padding: 0 8px;
  min-width: 0;
}
.value {
  display: flex;
  align-items: baseline;
}
input {
  width: 100%;
  min-width: 0;
  height: var(--target);
  border: 0;
  border-bottom: var(--line) solid transparent;
  background: transparent;
  color: var(--ink);
  font-size: var(--size-line);
  padding: 0;
}
input:hover {
  border-bottom-color: var(--hair);
}
.origin input {
  color: var(--accent);
  border-bottom-color: var(--accent);
}
.wrong input {
  color: var(--stop);
  border-bottom: 2px solid var(--stop);
}
.sign {
  font-size: var(--size-l);
  padding-right: 4px;
}
.unit {
  color: var(--quiet);
  margin-top: -4px;
}
.line {
  grid-column: 1 / -1;
  position: relative;
  height: 52px;
  color: var(--accent);
}
.off {
  color: var(--stop);
}
.line svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 52px;
  stroke-width: 2.5;
}
.knot {
  position: absolute;
  width: 10px;
  height: 10px;
  margin-left: -5px;
  border-radius: 50%;
  background: var(--surface);
  border: 2px solid var(--accent);
}
.knot.origin {
  background: var(--accent);
}
.step {
  position: absolute;
  padding-left: 6px;
  color: var(--stop);
  white-space: nowrap;
  line-height: 18px;
}
.foot {
  padding: 0 8px 4px;
  line-height: 1.35;
  overflow-wrap: anywhere;
}
.name {
  font-weight: 600;
}
.note {
  color: var(--look);
}
.drive {
  display: flex;
  align-items: center;
  gap: 20px;
  padding: 0 8px;
}
.levels {
  display: flex;
}
.trouble {
  color: var(--stop);
  padding: 0 8px 8px;
}
/* The path stays on screen above every bench, where the screen leaves room for both. */
@media (min-height: 700px) and (min-width: 901px) {
  .strip.stays {
    position: sticky;
    top: 0;
    z-index: 6;
  }
}
@media (max-width: 900px) {
  .strip {
    padding-inline: 8px;
  }
  .drive {
    flex-wrap: wrap;
    gap: 0;
  }
}
</style>
