<script setup lang="ts">
import type { LineStep } from '@calm/core/loop/line-steps'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { Stage } from '@calm/core/signal/stage'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import { mdiUnfoldLessHorizontal, mdiUnfoldMoreHorizontal } from '@mdi/js'
import { computed, watch } from 'vue'
import { useShortcut } from '../ui/shortcuts.ts'
import type { CarriedReadings } from './carried.ts'
import PathLine from './PathLine.vue'
import StationValue from './StationValue.vue'
import { useSignalPath } from './use-signal-path.ts'
import { vKeyScroll } from '../ui/key-scroll.ts'

/**
 * The line itself: every station's value, driven from any of them; or, where readings are taken, what was read and
 * nothing else. Small it is one row; open it has ranges, slider and quarter points.
 */
const {
  stages,
  steps = [],
  small = false,
  folds = false,
  carried = undefined,
} = defineProps<{
  stages: readonly Stage[]
  steps?: readonly LineStep[]
  small?: boolean
  /** It can be opened and made small. */
  folds?: boolean
  /** What was read, or null where nothing was yet; left out where the line computes. */
  carried?: CarriedReadings | null
}>()
const emit = defineEmits<{ current: [mA: number | null]; fold: [] }>()

const LEVELS = [0, 25, 50, 75, 100]
const path = useSignalPath(() => stages)
watch(path.current_mA, (mA) => emit('current', mA), { immediate: true })

/** What it computes of the slider is for the screen only, never for paper. */
const computes = computed(() => carried === undefined)
LEVELS.forEach((level, i) =>
  useShortcut(String(i), `Process to ${level} %`, () => computes.value && path.setLevel(level)),
)
if (folds) useShortcut('o', 'Open the signal path, or make it small', () => emit('fold'))

const names = computed(() => path.shown.value.map((s) => s.station.id))
const range = (s: { low: number; high: number }) => `${sayNumber(s.low)} to ${sayNumber(s.high)}`
const unitOf = (unit: string) => (unit === 'counts' ? 'counts' : printedUnit(unit))
const read = (id: string) => carried?.values[id] ?? null
</script>

<template>
  <section class="strip" :class="{ small, folds, 'no-print': computes }" aria-label="Signal path">
    <div v-key-scroll class="scroll">
      <div
        class="stations"
        :style="{
          gridTemplateColumns: `repeat(${path.shown.value.length}, minmax(${small ? '128px' : 'var(--station)'}, 1fr))`,
        }"
      >
        <component
          :is="computes ? 'label' : 'div'"
          v-for="(s, i) in path.shown.value"
          :key="s.station.id"
          class="station"
        >
          <span class="name">{{ STATION_NAMES[s.station.kind] }}</span>
          <span class="value">
            <StationValue v-if="computes" :path="path" :shown="s" :at="i" />
            <template v-else>
              <span v-if="read(s.station.id)" class="mono read" :class="carried?.ink">{{
                read(s.station.id)?.text
              }}</span>
              <span v-else class="mono quiet" aria-label="not read">–</span>
            </template>
            <span class="unit mono small">{{ unitOf(read(s.station.id)?.unit ?? s.station.unit) }}</span>
          </span>
        </component>
        <PathLine
          :stations="names"
          :steps="steps"
          :height="small ? 16 : 44"
          :origin="computes ? path.origin.value : null"
        />
        <template v-if="!small">
          <div v-for="s in path.shown.value" :key="`${s.station.id}-foot`" class="foot small">
            <div class="quiet mono">{{ range(s.station) }}</div>
            <div v-if="computes && s.note" class="note">{{ s.note }}</div>
          </div>
        </template>
      </div>
    </div>
    <button
      v-if="folds"
      type="button"
      class="fold no-print"
      :aria-expanded="!small"
      :aria-label="small ? 'Open the signal path' : 'Make the signal path small'"
      :title="small ? 'Open (o)' : 'Make small (o)'"
      @click="emit('fold')"
    >
      <v-icon :icon="small ? mdiUnfoldMoreHorizontal : mdiUnfoldLessHorizontal" aria-hidden="true" />
    </button>
    <p v-if="carried" class="from small" :class="[carried.ink, { 'visually-hidden': small }]">
      {{ carried.from }}
    </p>
    <div v-if="!small && computes" class="drive no-print">
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
  position: relative;
  background: var(--surface);
  border-bottom: var(--line) solid var(--hair);
  padding: 3px 16px 0;
}
.folds {
  padding-right: 64px;
}
.stations {
  display: grid;
  row-gap: 0;
}
.station {
  padding: 0 8px;
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.name {
  font-weight: 600;
  font-size: var(--size-s);
  line-height: 17px;
  white-space: nowrap;
}
.value {
  display: flex;
  align-items: baseline;
  gap: 4px;
  font-size: var(--size-line);
}
.value :deep(input) {
  height: var(--target);
  font-size: inherit;
}
.unit {
  color: var(--quiet);
  white-space: nowrap;
}
/* Open, a value may fill its place; its unit stands under it. */
.strip:not(.small) .value {
  flex-wrap: wrap;
}
.strip:not(.small) .unit {
  flex-basis: 100%;
  margin-top: -4px;
}
.read {
  line-height: var(--target);
}
.small .value {
  font-size: 17px;
  line-height: 24px;
}
.small .value :deep(input) {
  width: auto;
  flex: 0 1 auto;
  height: 24px;
}
.small .read {
  line-height: 24px;
}
.measured {
  color: var(--copper);
}
.simulated {
  color: var(--simulated);
}
.read.simulated {
  border-bottom: 2px dotted currentColor;
}
.foot {
  padding: 0 8px 4px;
  line-height: 1.35;
  overflow-wrap: anywhere;
}
.note {
  color: var(--look);
}
.fold {
  position: absolute;
  top: 4px;
  right: 8px;
  width: var(--target);
  height: var(--target);
  display: grid;
  place-items: center;
  border: 0;
  border-radius: var(--corner);
  background: transparent;
  color: var(--quiet);
  cursor: pointer;
}
.fold:hover {
  color: var(--ink);
}
.from {
  padding: 0 8px 6px;
}
.drive {
  display: flex;
  align-items: center;
  gap: 20px;
  padding: 0 8px;
}
.levels {
  display: flex;
  flex-wrap: wrap;
}
.trouble {
  color: var(--stop);
  padding: 0 8px 8px;
}
@media (max-width: 900px) {
  .strip {
    padding-inline: 8px;
  }
  .folds {
    padding-right: 56px;
  }
  .drive {
    flex-wrap: wrap;
    gap: 0;
  }
}
</style>
