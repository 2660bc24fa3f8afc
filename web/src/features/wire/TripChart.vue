<script setup lang="ts">
import { endsOfTrip } from '@calm/core/family/switch/trip'
import type { TripMoment, TripPlan } from '@calm/core/family/switch/trip-plan'
import { computed } from 'vue'

/** The moving distance with its switching values, and under it the relay and the permit. */
const { plan, moments } = defineProps<{ plan: TripPlan; moments: readonly TripMoment[] }>()

const LEFT = 64
const WIDTH = 560
const TOP = 24
const HEIGHT = 180
const known = computed(() => moments.flatMap((m) => (m.x === null ? [] : [m.x])))
const ends = computed(() => endsOfTrip(plan.trip))
const low = computed(() => Math.max(0, Math.min(...known.value, ends.value[0]) - 0.1))
const high = computed(() => Math.max(...known.value, ends.value[1]) + 0.1)
const marks = computed(() => [...new Set(ends.value)])
const x = (t: number) => LEFT + t * WIDTH
/** Near is drawn on top: from above, that is a high level. */
const y = (d: number) => TOP + ((d - low.value) / (high.value - low.value)) * HEIGHT
const line = computed(() => {
  let pen = 'M'
  return moments
    .map((m) => {
      if (m.x === null) {
        pen = 'M'
        return ''
      }
      const part = `${pen}${x(m.t).toFixed(1)} ${y(m.x).toFixed(1)}`
      pen = 'L'
      return part
    })
    .join('')
})
const lost = computed(() => {
  const gone = moments.filter((m) => m.x === null)
  const [first, last] = [gone[0], gone.at(-1)]
  return first && last ? { from: x(first.t), to: x(last.t) } : null
})
/** Stretches of time in which something is on. */
function spans(on: (m: TripMoment) => boolean): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = []
  moments.forEach((m, i) => {
    if (!on(m)) return
    const to = x(moments[i + 1]?.t ?? 1)
    const last = out.at(-1)
    if (last && Math.abs(last.to - x(m.t)) < 0.01) last.to = to
    else out.push({ from: x(m.t), to })
  })
  return out
}
const relay = computed(() => spans((m) => m.relay))
const permit = computed(() => spans((m) => m.permit))
const switches = computed(() => moments.filter((m, i) => i > 0 && m.relay !== moments[i - 1]?.relay).length)
</script>

<template>
  <figure>
    <svg
      viewBox="0 0 640 310"
      role="img"
      :aria-label="`Distance rising and falling through ${marks.join(' m and ')} m; the relay switches ${switches} times.`"
    >
      <text x="4" y="14" class="quiet-text">distance, near on top</text>
      <rect
        v-if="marks.length > 1"
        class="band"
        :x="LEFT"
        :y="y(ends[0])"
        :width="WIDTH"
        :height="y(ends[1]) - y(ends[0])"
      />
      <g v-for="v in marks" :key="v">
        <line class="limit" :x1="LEFT" :x2="LEFT + WIDTH" :y1="y(v)" :y2="y(v)" />
        <text :x="LEFT - 6" :y="y(v) + 4" text-anchor="end">{{ Number(v.toFixed(4)) }} m</text>
      </g>
      <rect v-if="lost" class="lost" :x="lost.from" :y="TOP" :width="lost.to - lost.from" :height="HEIGHT" />
      <text
        v-if="lost"
        :x="(lost.from + lost.to) / 2"
        :y="TOP + HEIGHT - 4"
        text-anchor="middle"
        class="quiet-text"
      >
        no echo
      </text>
      <path :d="line" class="distance" />
      <g v-for="(row, i) in [relay, permit]" :key="i">
        <text :x="LEFT - 6" :y="236 + i * 36" text-anchor="end">{{ i === 0 ? 'relay' : 'permit' }}</text>
        <line class="rest" :x1="LEFT" :x2="LEFT + WIDTH" :y1="242 + i * 36" :y2="242 + i * 36" />
        <rect
          v-for="s in row"
          :key="s.from"
          class="on"
          :class="{ second: i === 1 }"
          :x="s.from"
          :y="222 + i * 36"
          :width="s.to - s.from"
          height="20"
        />
      </g>
    </svg>
    <figcaption class="small quiet">
      Filled: relay energised, contact closed. The relay switches {{ switches }} times here. With no power the
      relay is off and the contact {{ plan.contact === 'no' ? 'open' : 'closed' }}.
    </figcaption>
  </figure>
</template>

<style scoped>
svg {
  width: 100%;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
text {
  font-family: var(--mono);
  font-size: 12px;
  fill: var(--ink);
}
.quiet-text {
  font-family: var(--text);
  fill: var(--quiet);
}
.band {
  fill: var(--look-surface);
}
.limit {
  stroke: var(--look);
  stroke-width: 1.5;
  stroke-dasharray: 6 4;
}
.lost {
  fill: var(--hair);
  opacity: 0.6;
}
.distance {
  fill: none;
  stroke: var(--accent);
  stroke-width: 2;
}
.rest {
  stroke: var(--quiet);
}
.on {
  fill: var(--accent);
}
.on.second {
  fill: var(--ink);
}
</style>
