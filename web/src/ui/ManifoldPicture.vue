<script setup lang="ts">
import type { ManifoldState } from '@calm/core/manifold/manifold'

/** A manifold as it stands: which valves are open, and where there is pressure. */
const { state } = defineProps<{ state: ManifoldState }>()
const five = state.kind === 'five-valve'
const isOpen = (v: string | number) => state.open.has(String(v))

/** Where everything stands in the drawing; high side left, low side right. */
const AT: Readonly<Record<string, readonly [number, number]>> = !five
  ? { H: [110, 90], L: [390, 90], E: [250, 190], VH: [40, 190], VL: [460, 190] }
  : { H: [110, 90], L: [390, 90], EH: [180, 190], EL: [320, 190], V: [250, 270] }
const PIPES: readonly (readonly [number, number])[][] = !five
  ? [
      [
        [110, 20],
        [110, 300],
      ],
      [
        [390, 20],
        [390, 300],
      ],
      [
        [10, 190],
        [490, 190],
      ],
    ]
  : [
      [
        [110, 20],
        [110, 300],
      ],
      [
        [390, 20],
        [390, 300],
      ],
      [
        [110, 190],
        [390, 190],
      ],
      [
        [250, 190],
        [250, 320],
      ],
    ]
const line = (points: readonly (readonly [number, number])[]) => points.map((p) => p.join(',')).join(' ')
const pressed = (room: 'CH' | 'CL') => state.pressurised.has(room)
</script>

<template>
  <svg
    viewBox="-10 0 530 370"
    role="img"
    :aria-label="`Manifold: open are ${[...state.open].join(', ') || 'none'}`"
  >
    <polyline v-for="(p, i) in PIPES" :key="i" :points="line(p)" class="pipe" />
    <text x="110" y="14" text-anchor="middle">process, high</text>
    <text x="390" y="14" text-anchor="middle">process, low</text>
    <rect x="80" y="300" width="340" height="46" class="cell" />
    <text x="120" y="328" text-anchor="middle">{{ pressed('CH') ? 'pressure' : 'vented' }}</text>
    <text x="250" y="328" text-anchor="middle" class="quiet">cell</text>
    <text x="380" y="328" text-anchor="middle">{{ pressed('CL') ? 'pressure' : 'vented' }}</text>
    <g v-for="(at, v) in AT" :key="v" :class="{ shut: !isOpen(v) }">
      <circle :cx="at[0]" :cy="at[1]" r="17" class="valve" />
      <path
        :d="isOpen(v) ? `M${at[0] - 9} ${at[1]}H${at[0] + 9}` : `M${at[0]} ${at[1] - 9}V${at[1] + 9}`"
        class="handle"
      />
      <text :x="at[0] + 22" :y="at[1] - 8">{{ v }}</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 100%;
  max-height: 400px;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.pipe {
  fill: none;
  stroke: var(--quiet);
  stroke-width: 5;
}
.cell {
  fill: var(--paper);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.valve {
  fill: var(--accent);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.shut .valve {
  fill: var(--surface);
}
.handle {
  stroke: var(--surface);
  stroke-width: 4;
}
.shut .handle {
  stroke: var(--ink);
}
text {
  font-family: var(--mono);
  font-size: 14px;
  fill: var(--ink);
}
text.quiet {
  fill: var(--quiet);
}
</style>
