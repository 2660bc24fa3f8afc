<script setup lang="ts">
import type { ScaleDrawing, Shape } from '@calm/core/family/scale-drawing'
import { computed } from 'vue'

/** Any family's drawing, to scale: hatching and line kind tell wall, liner, fluid and beam apart, not colour alone. */
const { drawing } = defineProps<{ drawing: ScaleDrawing }>()
/** Words and lines keep their size whatever the pipe's. */
const unit = computed(() =>
  drawing.sketch
    ? Math.max(drawing.width / 480, drawing.height / 280)
    : Math.max(drawing.width / 760, drawing.height / 420),
)
const path = (points: readonly (readonly [number, number])[]) =>
  points.map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x} ${y}`).join('')
const ring = (s: Extract<Shape, { kind: 'ring' }>) => {
  const circle = (r: number) => `M${s.x - r} ${s.y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`
  return s.inner > 0 ? circle(s.r) + circle(s.inner) : circle(s.r)
}
const upright = (s: Extract<Shape, { kind: 'dimension' }>) => Math.abs(s.from[0] - s.to[0]) < 1e-6
</script>

<template>
  <figure>
    <svg
      :viewBox="`${drawing.left} ${drawing.top} ${drawing.width} ${drawing.height}`"
      role="img"
      :aria-label="drawing.says"
      :class="{ sketch: drawing.sketch }"
      :style="{ '--u': `${unit}px` }"
    >
      <defs>
        <pattern
          id="hatch-wall"
          patternUnits="userSpaceOnUse"
          :width="8 * unit"
          :height="8 * unit"
          patternTransform="rotate(45)"
        >
          <line x1="0" y1="0" x2="0" :y2="8 * unit" class="hatch" :stroke-width="2.4 * unit" />
        </pattern>
        <pattern id="hatch-liner" patternUnits="userSpaceOnUse" :width="5 * unit" :height="5 * unit">
          <circle :cx="2.5 * unit" :cy="2.5 * unit" :r="1.1 * unit" class="dot" />
        </pattern>
        <pattern id="hatch-liquid" patternUnits="userSpaceOnUse" :width="14 * unit" :height="9 * unit">
          <path :d="`M0 ${4 * unit}h${8 * unit}`" class="ripple" :stroke-width="1.4 * unit" />
        </pattern>
        <pattern
          id="hatch-dead"
          patternUnits="userSpaceOnUse"
          :width="6 * unit"
          :height="6 * unit"
          patternTransform="rotate(-45)"
        >
          <line x1="0" y1="0" x2="0" :y2="6 * unit" class="deadline" :stroke-width="2.6 * unit" />
        </pattern>
        <marker
          id="arrow-flow"
          viewBox="0 0 10 10"
          refX="9"
          refY="5"
          markerWidth="7"
          markerHeight="7"
          orient="auto-start-reverse"
        >
          <path d="M0 0L10 5L0 10Z" class="head" />
        </marker>
      </defs>
      <template v-for="(s, i) in drawing.shapes" :key="i">
        <rect
          v-if="s.kind === 'rect'"
          :x="s.x"
          :y="s.y"
          :width="Math.max(0, s.w)"
          :height="Math.max(0, s.h)"
          :class="['shape', s.ink]"
          :stroke-width="unit"
        />
        <path
          v-else-if="s.kind === 'ring'"
          :d="ring(s)"
          fill-rule="evenodd"
          :class="['shape', s.ink]"
          :stroke-width="unit"
        />
        <path
          v-else-if="s.kind === 'area'"
          :d="`${path(s.points)}Z`"
          :class="['shape', s.ink]"
          :stroke-width="unit"
        />
        <path
          v-else-if="s.kind === 'line'"
          :d="path(s.points)"
          :class="['line', s.ink]"
          :stroke-width="(s.ink === 'axis' || s.ink === 'mark' ? 1 : 2.4) * unit"
          :stroke-dasharray="
            s.ink === 'axis' || s.ink === 'mark'
              ? `${12 * unit} ${4 * unit} ${2 * unit} ${4 * unit}`
              : s.ink === 'beam2'
                ? `${7 * unit} ${4 * unit}`
                : undefined
          "
          :marker-end="s.ink === 'flow' ? 'url(#arrow-flow)' : undefined"
        />
        <g v-else-if="s.kind === 'dimension'">
          <path
            :d="path([s.from, s.to])"
            class="dimension"
            :stroke-width="unit"
            marker-start="url(#arrow-flow)"
            marker-end="url(#arrow-flow)"
          />
          <text
            :x="upright(s) ? s.from[0] + 6 * unit : (s.from[0] + s.to[0]) / 2"
            :y="upright(s) ? (s.from[1] + s.to[1]) / 2 : s.from[1] - 6 * unit"
            :text-anchor="upright(s) ? 'start' : 'middle'"
          >
            {{ s.text }}
          </text>
        </g>
        <text v-else :x="s.at[0]" :y="s.at[1]" :text-anchor="s.anchor">{{ s.text }}</text>
      </template>
    </svg>
    <figcaption class="small quiet">
      {{ drawing.says }}.
      {{ drawing.sketch ? 'A sketch, not to scale.' : 'Drawn to scale: a wrong number looks wrong.' }}
    </figcaption>
  </figure>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 420px;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
svg.sketch {
  max-height: 280px;
}
text {
  font-family: var(--mono);
  font-size: calc(13 * var(--u));
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--surface);
  stroke-width: calc(4 * var(--u));
}
.hatch {
  stroke: var(--quiet);
}
.dot,
.head {
  fill: var(--ink);
}
.shape {
  stroke: var(--ink);
}
.wall {
  fill: url('#hatch-wall');
}
.liner {
  fill: url('#hatch-liner');
}
.fluid {
  fill: var(--paper);
  stroke: none;
}
.box {
  fill: var(--surface);
}
.ripple {
  stroke: var(--accent);
  opacity: 0.55;
}
.deadline {
  stroke: var(--stop);
}
.liquid {
  fill: url('#hatch-liquid');
}
.dead {
  fill: url('#hatch-dead');
}
.mark {
  stroke: var(--accent);
}
.sensor.shape,
.plate,
.stem {
  fill: var(--ink);
}
.stem {
  opacity: 0.75;
}
.line {
  fill: none;
  stroke: var(--ink);
}
.beam,
.beam2 {
  stroke: var(--accent);
}
.axis,
.dimension {
  stroke: var(--quiet);
}
</style>
