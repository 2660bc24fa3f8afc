<script setup lang="ts">
import type { LineStep } from '@calm/core/loop/line-steps'
import { sayNumber } from '@calm/core/quantity/round'
import { calmLine, heightAt } from '@calm/core/signal/calm-line'
import { STATION_IDS, type StageKind } from '@calm/core/signal/stage'
import { computed } from 'vue'

/** The line under the stations' values: flat, stepping where an error comes in; a knot for every station. */
const {
  stations,
  steps,
  height,
  origin = null,
} = defineProps<{
  /** Stations in their order, by their names on the line. */
  stations: readonly string[]
  steps: readonly LineStep[]
  /** Height of its box, px. */
  height: number
  /** The station that drives the others. */
  origin?: number | null
}>()

const WIDE = 1000
/** Room for the knots above and below. */
const ROOM = 6

const line = computed(() => {
  const placeOf = (kind: StageKind): number | null => {
    const i = stations.indexOf(STATION_IDS[kind])
    return i < 0 ? null : i / stations.length
  }
  const shown = steps.filter((s) => placeOf(s.station) !== null)
  const corners = calmLine(shown, WIDE, height - 2 * ROOM, placeOf).map(([x, y]): [number, number] => [
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
    // Where nothing was read between two stations the step lies somewhere in there: told by a broken line.
    unread: inOrder.flatMap((step, k) => {
      const begins = step.from === undefined ? -1 : stations.indexOf(STATION_IDS[step.from])
      const [x, y] = corners[2 * k + 1] ?? [0, 0]
      const from = ((begins + 0.5) / stations.length) * WIDE
      return begins < 0 || from >= x ? [] : [`${from},${y} ${x},${y}`]
    }),
    knots: stations.map((_, i) => heightAt(corners, (i / stations.length) * WIDE)),
  }
})
</script>

<template>
  <div class="line" aria-hidden="true" :style="{ height: `${height}px` }">
    <svg :viewBox="`0 0 1000 ${height}`" preserveAspectRatio="none" :style="{ height: `${height}px` }">
      <polyline
        v-for="seg in line.segments"
        :key="seg.points"
        :points="seg.points"
        :class="{ off: !seg.calm }"
        fill="none"
        stroke="currentColor"
        vector-effect="non-scaling-stroke"
      />
      <polyline
        v-for="points in line.unread"
        :key="`unread ${points}`"
        :points="points"
        class="unread"
        fill="none"
        vector-effect="non-scaling-stroke"
      />
    </svg>
    <!-- A low line has no room for words: the list of findings says them. -->
    <template v-if="height > 40">
      <span
        v-for="m in line.marks"
        :key="m.left"
        class="step mono small"
        :style="{ left: `${m.left}%`, top: `${m.top}px` }"
        >{{ m.text }}</span
      >
    </template>
    <span
      v-for="(s, i) in stations"
      :key="s"
      class="knot"
      :class="{ origin: i === origin }"
      :style="{ left: `${((i + 0.5) / stations.length) * 100}%`, top: `${(line.knots[i] ?? 26) - 5}px` }"
    />
  </div>
</template>

<style scoped>
.line {
  grid-column: 1 / -1;
  position: relative;
  color: var(--accent);
}
/* Over the sound line: what shows of it between the dashes is the ground, and the stretch is no longer sound. */
.unread {
  stroke: var(--stop);
  stroke-width: 4;
  stroke-dasharray: 7 5;
}
.off {
  color: var(--stop);
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
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
</style>
