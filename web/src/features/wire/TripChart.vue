<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import { computed } from 'vue'

/** A moving value with the switching points of its relays, and under it what is on. */
export interface TripTrace {
  readonly unit: string
  readonly says: string
  /** From 0 to 1; null while the value is invalid. */
  readonly values: readonly { readonly t: number; readonly x: number | null }[]
  /** Between the two points of a relay it stays as it was. */
  readonly bands: readonly { readonly name: string; readonly low: number; readonly high: number }[]
  readonly rows: readonly { readonly title: string; readonly on: readonly boolean[] }[]
}
const { trace } = defineProps<{ trace: TripTrace }>()

const LEFT = 84
const WIDTH = 540
const TOP = 14
const HEIGHT = 190
const ROW = 30
const known = computed(() => trace.values.flatMap((m) => (m.x === null ? [] : [m.x])))
const ends = computed(() => trace.bands.flatMap((b) => [b.low, b.high]))
const margin = computed(
  () => 0.06 * (Math.max(...known.value, ...ends.value) - Math.min(...known.value, ...ends.value)) || 1,
)
const low = computed(() => Math.min(...known.value, ...ends.value) - margin.value)
const high = computed(() => Math.max(...known.value, ...ends.value) + margin.value)
const marks = computed(() => [...new Set(ends.value)])
const x = (t: number) => LEFT + t * WIDTH
const y = (v: number) => TOP + (1 - (v - low.value) / (high.value - low.value)) * HEIGHT
const line = computed(() => {
  let pen = 'M'
  return trace.values
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
  const gone = trace.values.filter((m) => m.x === null)
  const [first, last] = [gone[0], gone.at(-1)]
  return first && last ? { from: x(first.t), to: x(last.t) } : null
})
/** Stretches of time in which something is on. */
function spans(on: readonly boolean[]): { from: number; to: number }[] {
  const out: { from: number; to: number }[] = []
  trace.values.forEach((m, i) => {
    if (on[i] !== true) return
    const to = x(trace.values[i + 1]?.t ?? 1)
    const last = out.at(-1)
    if (last && Math.abs(last.to - x(m.t)) < 0.01) last.to = to
    else out.push({ from: x(m.t), to })
  })
  return out
}
const rows = computed(() =>
  trace.rows.map((r, i) => ({ title: r.title, at: TOP + HEIGHT + 14 + i * ROW, spans: spans(r.on) })),
)
const height = computed(() => TOP + HEIGHT + 20 + trace.rows.length * ROW)
</script>

<template>
  <figure>
    <svg :viewBox="`0 0 640 ${height}`" role="img" :aria-label="trace.says">
      <rect
        v-for="b in trace.bands"
        :key="b.name"
        class="band"
        :x="LEFT"
        :y="y(b.high)"
        :width="WIDTH"
        :height="Math.max(1, y(b.low) - y(b.high))"
      />
      <g v-for="m in marks" :key="m">
        <line class="limit" :x1="LEFT" :x2="LEFT + WIDTH" :y1="y(m)" :y2="y(m)" />
        <text :x="LEFT - 6" :y="y(m) + 4" text-anchor="end">{{ sayNumber(m, 4) }}</text>
      </g>
      <text class="quiet-text" :x="LEFT - 6" :y="TOP + HEIGHT + 2" text-anchor="end">{{ trace.unit }}</text>
      <rect v-if="lost" class="lost" :x="lost.from" :y="TOP" :width="lost.to - lost.from" :height="HEIGHT" />
      <path class="value" :d="line" />
      <g v-for="r in rows" :key="r.title">
        <text :x="LEFT - 6" :y="r.at + 15" text-anchor="end">{{ r.title }}</text>
        <line class="rest" :x1="LEFT" :x2="LEFT + WIDTH" :y1="r.at + 20" :y2="r.at + 20" />
        <rect
          v-for="s in r.spans"
          :key="s.from"
          class="on"
          :x="s.from"
          :y="r.at"
          :width="s.to - s.from"
          height="20"
        />
      </g>
    </svg>
    <figcaption class="small quiet">{{ trace.says }}</figcaption>
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
  opacity: 0.6;
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
.value {
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
</style>
