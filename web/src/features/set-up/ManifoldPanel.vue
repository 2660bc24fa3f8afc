<script setup lang="ts">
import {
  manifold,
  moveValve,
  RULE_SAYS,
  SEQUENCES,
  valvesOf,
  type ManifoldKind,
  type ManifoldRule,
} from '@calm/core/manifold/manifold'
import { computed, ref } from 'vue'
import FindingRow from '../../ui/FindingRow.vue'

/** The manifold to try before touching the real one: every move shows what it would do. */
const { kind } = defineProps<{ kind: ManifoldKind }>()
interface Done {
  readonly says: string
  readonly broken: ManifoldRule | null
}
const state = ref(manifold(kind, 'in service'))
const done = ref<Done[]>([])
const TITLES: Readonly<Record<string, string>> = {
  H: 'high block',
  L: 'low block',
  E: 'equalise',
  EH: 'equalise, high',
  EL: 'equalise, low',
  VH: 'vent, high',
  VL: 'vent, low',
  V: 'vent',
}
const isOpen = (v: string) => state.value.open.has(v)
function turn(valve: string): void {
  const to = isOpen(valve) ? 'close' : 'open'
  const moved = moveValve(state.value, { valve, to })
  state.value = moved.state
  done.value = [...done.value, { says: `${to} ${valve}`, broken: moved.broken }]
}
function reset(start: 'in service' | 'isolated'): void {
  state.value = manifold(kind, start)
  done.value = []
}
const last = computed(() => done.value.at(-1) ?? null)
const broken = computed(() => done.value.find((d) => d.broken !== null) ?? null)
const words = (which: 'out' | 'test' | 'back') =>
  SEQUENCES[kind][which].map((m) => `${m.to} ${m.valve}`).join(' → ')

/** Where everything stands in the drawing; high side left, low side right. */
const AT: Readonly<Record<string, readonly [number, number]>> =
  kind === 'three-valve'
    ? { H: [110, 90], L: [390, 90], E: [250, 190], VH: [40, 190], VL: [460, 190] }
    : { H: [110, 90], L: [390, 90], EH: [180, 190], EL: [320, 190], V: [250, 270] }
const PIPES: readonly (readonly [number, number])[][] =
  kind === 'three-valve'
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
const pressed = (room: 'CH' | 'CL') => state.value.pressurised.has(room)
</script>

<template>
  <div class="two-sides">
    <section class="stack" aria-label="Manifold">
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
      <div class="row">
        <v-btn
          v-for="v in valvesOf(kind)"
          :key="v"
          :variant="isOpen(v) ? 'flat' : 'outlined'"
          :color="isOpen(v) ? 'primary' : undefined"
          :aria-pressed="isOpen(v)"
          @click="turn(v)"
          >{{ v }} {{ isOpen(v) ? 'open' : 'shut' }}</v-btn
        >
      </div>
      <p class="small quiet">
        <template v-for="v in valvesOf(kind)" :key="v">{{ v }}: {{ TITLES[v] }}. </template>
      </p>
    </section>
    <section class="stack" aria-label="What the moves do" aria-live="polite">
      <FindingRow
        v-if="broken"
        :finding="{
          code: broken.broken ?? '',
          severity: 'stop',
          where: [],
          says: `${broken.says}: ${broken.broken ? RULE_SAYS[broken.broken] : ''}`,
        }"
      />
      <FindingRow
        v-else-if="last"
        :finding="{ code: 'FINE', severity: 'good', where: [], says: `${last.says}: all three rules hold.` }"
      />
      <p v-else>Touch a valve to see what its next move would do. Nothing here moves a real valve.</p>
      <ol v-if="done.length > 0">
        <li v-for="(d, i) in done" :key="i" class="mono">{{ d.says }}{{ d.broken ? '  (wrong)' : '' }}</li>
      </ol>
      <div class="row">
        <v-btn @click="reset('in service')">Back in service</v-btn>
        <v-btn variant="text" @click="reset('isolated')">Isolated</v-btn>
      </div>
      <h3>Orders that keep the rules</h3>
      <p>
        <strong>Out of service</strong> <span class="mono">{{ words('out') }}</span>
      </p>
      <p>
        <strong>Test and back</strong> <span class="mono">{{ words('test') }}</span>
      </p>
      <p>
        <strong>Into service</strong> <span class="mono">{{ words('back') }}</span>
      </p>
      <p class="small quiet">
        Open slowly, vents away from people. The other side first holds as well. For liquid-filled or hot legs
        the site’s own procedure comes first.
      </p>
    </section>
  </div>
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
