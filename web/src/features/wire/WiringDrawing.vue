<script setup lang="ts">
import { sayNumber } from '@calm/core/quantity/round'
import { sayTerminal } from '@calm/core/part/wiring'
import { bridgedPath } from '@calm/core/wire/bridges'
import { drawWiring, type DrawnTerminal, type DrawnWire } from '@calm/core/wire/drawing'
import { potentials } from '@calm/core/wire/potentials'
import { WIRE_INK } from '@calm/core/wire/wire-ink'
import { mdiFitToPageOutline, mdiMinus, mdiPlus } from '@mdi/js'
import { computed, ref, useTemplateRef } from 'vue'
import { useShortcut } from '../../ui/shortcuts.ts'
import { partStatus } from './part-status.ts'
import { useBoard } from './use-board.ts'
import type { WiringBench } from './use-wiring-bench.ts'

/** The wiring drawn along the signal path: real colours, arrows of current, volts at terminals. */
const { bench, readonly = false } = defineProps<{ bench: WiringBench; readonly?: boolean }>()
const svg = useTemplateRef<SVGSVGElement>('svg')

const drawing = computed(() => drawWiring(bench.sound.value))
/** Room above the drawing for power and the states to try, px. */
const TOOLS = 56
const board = useBoard(svg, drawing, TOOLS)
useShortcut('+', 'Drawing larger', () => board.by(1.25))
useShortcut('-', 'Drawing smaller', () => board.by(0.8))
useShortcut('f', 'Fit the drawing to its board', board.fit)
useShortcut('n', 'To the first terminal', () =>
  svg.value?.querySelector<SVGElement>('[data-terminal]')?.focus(),
)
const parts = computed(() => new Map(bench.parts.value.map((p) => [p.id, p])))
const paths = computed(
  () => new Map(drawing.value.wires.map((w) => [w.id, bridgedPath(w, drawing.value.wires)])),
)
const path = (w: DrawnWire) => paths.value.get(w.id)
const colour = (w: DrawnWire) => bench.sound.value.wires[w.id]?.colour
const ink = (w: DrawnWire) => {
  const letters = colour(w)
  return letters ? WIRE_INK[letters] : null
}
const potential = computed(() => potentials(bench.sound.value))
/** Number, colour and potential, as they stand at a wire. */
const marks = (w: DrawnWire) => [w.id, colour(w), potential.value.get(w.id)].filter(Boolean).join(' ')
/** Terminals where more than one wire lands are marked as joints. */
const joints = computed(() => {
  const ends = Object.values(bench.sound.value.wires).flatMap((w) => [w.from, w.to])
  return new Set(ends.filter((at, i) => ends.indexOf(at) !== i))
})
const NOTHING_A = 2e-6
const amps = (w: DrawnWire) => bench.solved.value.wire_A(w.id) ?? 0
/** Small currents have small arrows: two decades between the smallest and the largest. */
const arrowSize = (i: number) => 4 + 2.2 * Math.max(0, Math.min(3, Math.log10(Math.abs(i) / 1e-5)))
const turned = (w: DrawnWire) => (amps(w) < 0 ? w.arrow.angle + 180 : w.arrow.angle)
const sayAmps = (i: number) =>
  Math.abs(i) >= 0.0995
    ? `${sayNumber(Math.abs(i), 3)} A`
    : `${(Math.abs(i) * 1000).toFixed(Math.abs(i) >= 0.01 ? 2 : 3)} mA`
/** Mains is not solved; a meter's leads have the volts of where they stand. */
const NO_VOLTS = new Set<string>(['L', 'N', 'PE', 'lead+', 'lead-'])
const volts = (t: DrawnTerminal) => {
  const v = bench.solved.value.toGround(t.address)
  return v === null || NO_VOLTS.has(t.role) ? '' : (Math.abs(v) < 0.005 ? 0 : v).toFixed(2)
}
const wired = computed(() => new Set(Object.values(bench.sound.value.wires).flatMap((w) => [w.from, w.to])))
const faulty = computed(
  () =>
    new Set(
      bench.faults.value.flatMap((f) => ('wire' in f ? [`w${f.wire}`] : 'part' in f ? [f.part] : [f.at])),
    ),
)
const told = computed(
  () =>
    new Set(
      bench.findings.value
        .filter((f) => f.severity === 'stop' || f.severity === 'warn')
        .flatMap((f) => f.where),
    ),
)
const isSelected = (kind: string, id: string) =>
  bench.selection.value?.kind === kind && bench.selection.value.id === id
const short = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text)

/** Volts stand behind the terminal's own mark. */
const labelRoom = (t: DrawnTerminal) => 20 + 7.5 * t.label.length

function terminalWords(t: DrawnTerminal): string {
  const v = volts(t)
  const to = Object.values(bench.sound.value.wires).flatMap((w) =>
    w.from === t.address ? [w.to] : w.to === t.address ? [w.from] : [],
  )
  return `Terminal ${sayTerminal(bench.sound.value, t.address)}, ${to.length > 0 ? `wired to ${to.map((a) => sayTerminal(bench.sound.value, a)).join(' and ')}` : 'free'}${v ? `, ${v} volts` : ''}`
}

// Drawing a wire by dragging: it begins on one terminal and ends on another.
const drag = ref<{ from: DrawnTerminal; x: number; y: number; moved: boolean } | null>(null)
/** Why nothing came of it. */
const missed = ref<string | null>(null)
/** Terminals are small and gloves are not: the nearest one within reach is meant, px of the drawing. */
const REACH = 30
const EDGE = 32
const STEP = 14

function down(t: DrawnTerminal, event: PointerEvent): void {
  if (readonly || event.button !== 0) return
  // A second finger zooms; it never begins a second wire.
  if (!event.isPrimary) {
    drag.value = null
    return
  }
  missed.value = null
  const { x, y } = board.toDrawing(event)
  drag.value = { from: t, x, y, moved: false }
  svg.value?.setPointerCapture(event.pointerId)
}
function move(event: PointerEvent): void {
  if (!drag.value || !event.isPrimary) return
  scrollAtEdge(event)
  const { x, y } = board.toDrawing(event)
  const moved = drag.value.moved || Math.hypot(x - drag.value.from.x, y - drag.value.from.y) > 14
  drag.value = { ...drag.value, x, y, moved }
}
/** What is beyond the board's edge comes into view while a wire is drawn to it. */
function scrollAtEdge(event: PointerEvent): void {
  const box = svg.value?.getBoundingClientRect()
  if (!box || !drag.value?.moved) return
  const x = event.clientX < box.left + EDGE ? STEP : event.clientX > box.right - EDGE ? -STEP : 0
  const y = event.clientY < box.top + EDGE ? STEP : event.clientY > box.bottom - EDGE ? -STEP : 0
  if (x !== 0 || y !== 0) board.move(x, y)
}
const nearest = (x: number, y: number): DrawnTerminal | null => {
  const all = drawing.value.boxes.flatMap((b) => b.terminals)
  const far = (t: DrawnTerminal) => Math.hypot(t.x - x, t.y - y)
  const best = all.reduce<DrawnTerminal | null>((near, t) => (near && far(near) <= far(t) ? near : t), null)
  return best && far(best) <= REACH ? best : null
}
function up(): void {
  const d = drag.value
  drag.value = null
  if (!d) return
  if (!d.moved) {
    bench.pick(d.from.address)
    return
  }
  const to = nearest(d.x, d.y)
  bench.select(null)
  if (!to) missed.value = 'No terminal there: the wire was let go. Drop it on a ring.'
  else if (to.address !== d.from.address) bench.connectTerminals(d.from.address, to.address)
}
/** To the nearest terminal that way: twice as far along as aside. */
function go(t: DrawnTerminal, dx: number, dy: number): void {
  const ahead = drawing.value.boxes
    .flatMap((b) => b.terminals)
    .filter((o) => o.address !== t.address && (o.x - t.x) * dx + (o.y - t.y) * dy > 4)
  const cost = (o: DrawnTerminal) => {
    const [along, aside] =
      dx !== 0 ? [Math.abs(o.x - t.x), Math.abs(o.y - t.y)] : [Math.abs(o.y - t.y), Math.abs(o.x - t.x)]
    return along + 2 * aside
  }
  const [to] = ahead.sort((a, b) => cost(a) - cost(b))
  if (to) svg.value?.querySelector<SVGElement>(`[data-terminal="${CSS.escape(to.address)}"]`)?.focus()
}
const select = (kind: 'part' | 'wire', id: string) => bench.select({ kind, id })
</script>

<template>
  <div class="drawing">
    <svg
      ref="svg"
      xmlns="http://www.w3.org/2000/svg"
      role="group"
      aria-label="Wiring drawing"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="drag = null"
    >
      <g :transform="board.transform.value.toString()">
        <text v-for="c in drawing.columns" :key="c.title" :x="c.x + c.width / 2" y="11" class="column">
          {{ c.title }}
        </text>
        <g
          v-for="w in drawing.wires"
          :key="w.id"
          class="wire"
          :class="{ chosen: isSelected('wire', w.id), faulty: faulty.has(`w${w.id}`) }"
          :data-wire="w.id"
          @click="select('wire', w.id)"
        >
          <title>wire {{ w.id }}, {{ sayAmps(amps(w)) }}</title>
          <path :d="path(w)" class="reach" />
          <path :d="path(w)" class="edge" />
          <path :d="path(w)" class="core" :stroke="ink(w)?.[0]" />
          <path v-if="ink(w)?.[1]" :d="path(w)" class="core stripe" :stroke="ink(w)?.[1]" />
          <rect class="grip" :x="w.arrow.x - 16" :y="w.arrow.y - 14" width="32" height="28" />
        </g>
        <g
          v-for="b in drawing.boxes"
          :key="b.id"
          class="part"
          :class="{ chosen: isSelected('part', b.id), told: told.has(b.id), faulty: faulty.has(b.id) }"
          role="button"
          tabindex="0"
          :aria-label="`Part ${b.id}, ${b.label}`"
          @click="select('part', b.id)"
          @keydown.enter.prevent="select('part', b.id)"
          @keydown.space.prevent="select('part', b.id)"
        >
          <title>{{ parts.get(b.id)?.kind.title }}: {{ b.label }}</title>
          <rect :x="b.x" :y="b.y" :width="b.width" :height="b.height" rx="6" />
          <polyline
            v-if="b.bar"
            class="bar"
            :points="b.bar.map((p) => p.join(',')).join(' ')"
            aria-hidden="true"
          />
          <text :x="b.x + b.width / 2" :y="b.y + 18" class="name">{{ b.id }}</text>
          <text :x="b.x + b.width / 2" :y="b.y + 33" class="label">{{ short(b.label, 25) }}</text>
          <text v-if="parts.has(b.id)" :x="b.x + b.width / 2" :y="b.y + 49" class="status">
            {{
              short(
                partStatus(parts.get(b.id)!, bench.sound.value, bench.solved.value, bench.power.value),
                22,
              )
            }}
          </text>
        </g>
        <template v-for="b in drawing.boxes" :key="`${b.id}-terminals`">
          <g
            v-for="t in b.terminals"
            :key="t.address"
            class="terminal"
            :class="{
              picked: bench.picked.value === t.address,
              free: !wired.has(t.address),
              faulty: faulty.has(t.address),
              joint: joints.has(t.address),
            }"
            role="button"
            :tabindex="readonly ? -1 : 0"
            :aria-label="terminalWords(t)"
            :aria-pressed="bench.picked.value === t.address"
            :data-terminal="t.address"
            @pointerdown="down(t, $event)"
            @keydown.enter.prevent="readonly || bench.pick(t.address)"
            @keydown.space.prevent="readonly || bench.pick(t.address)"
            @keydown.left.prevent="go(t, -1, 0)"
            @keydown.right.prevent="go(t, 1, 0)"
            @keydown.up.prevent="go(t, 0, -1)"
            @keydown.down.prevent="go(t, 0, 1)"
          >
            <rect
              class="reach"
              :x="t.side === 'left' ? t.x - 16 : t.x - 40"
              :y="t.y - 16"
              width="56"
              height="32"
            />
            <circle :cx="t.x" :cy="t.y" r="6.5" />
            <text
              :x="t.side === 'left' ? t.x + 12 : t.x - 12"
              :y="t.y + 4.5"
              class="mark"
              :text-anchor="t.side === 'left' ? 'start' : 'end'"
            >
              {{ t.label }}
            </text>
            <text
              v-if="volts(t) && (wired.has(t.address) || bench.picked.value === t.address)"
              class="volts"
              :x="t.side === 'left' ? t.x + labelRoom(t) : t.x - labelRoom(t)"
              :y="t.y + 4"
              :text-anchor="t.side === 'left' ? 'start' : 'end'"
            >
              {{ volts(t) }} V
            </text>
          </g>
        </template>
        <g v-for="w in drawing.wires" :key="`${w.id}-words`" class="words" aria-hidden="true">
          <path
            v-if="Math.abs(amps(w)) > NOTHING_A"
            class="arrow"
            :d="`M${-arrowSize(amps(w))} ${-arrowSize(amps(w)) * 0.75} L${arrowSize(amps(w))} 0 L${-arrowSize(amps(w))} ${arrowSize(amps(w)) * 0.75} Z`"
            :transform="`translate(${w.arrow.x} ${w.arrow.y}) rotate(${turned(w)})`"
          />
          <text
            v-if="isSelected('wire', w.id)"
            class="amps"
            :x="w.arrow.x + (w.arrow.angle % 180 === 0 ? 0 : 12)"
            :y="w.arrow.y + (w.arrow.angle % 180 === 0 ? -12 : 4)"
            :text-anchor="w.arrow.angle % 180 === 0 ? 'middle' : 'start'"
          >
            {{ sayAmps(amps(w)) }}
          </text>
          <text
            class="letters"
            :x="(w.points[0]?.[0] ?? 0) + ((w.points[1]?.[0] ?? 0) >= (w.points[0]?.[0] ?? 0) ? 8 : -8)"
            :y="(w.points[0]?.[1] ?? 0) + 14"
            :text-anchor="(w.points[1]?.[0] ?? 0) >= (w.points[0]?.[0] ?? 0) ? 'start' : 'end'"
          >
            {{ marks(w) }}
          </text>
        </g>
        <line
          v-if="drag?.moved"
          class="rubber"
          :x1="drag.from.x"
          :y1="drag.from.y"
          :x2="drag.x"
          :y2="drag.y"
        />
      </g>
    </svg>
    <p v-if="missed" class="missed" role="status">{{ missed }}</p>
    <div class="zoom no-print" role="group" aria-label="Size of the drawing">
      <v-btn
        variant="text"
        :icon="mdiMinus"
        aria-label="Smaller"
        title="Smaller (-)"
        @click="board.by(0.8)"
      />
      <v-btn
        variant="text"
        :icon="mdiFitToPageOutline"
        aria-label="Fit to the board"
        title="Fit (f)"
        @click="board.fit()"
      />
      <v-btn variant="text" :icon="mdiPlus" aria-label="Larger" title="Larger (+)" @click="board.by(1.25)" />
    </div>
  </div>
</template>

<style scoped>
.drawing {
  position: relative;
  height: 100%;
  background: var(--surface);
}
svg {
  display: block;
  width: 100%;
  height: 100%;
  touch-action: none;
  user-select: none;
  cursor: grab;
}
.zoom {
  position: absolute;
  right: 8px;
  bottom: 8px;
  display: flex;
  background: var(--surface);
  border: var(--line) solid var(--hair);
  border-radius: var(--corner);
}
.zoom :deep(svg) {
  width: 1em;
  height: 1em;
}
.missed {
  position: absolute;
  left: 16px;
  bottom: 16px;
  padding: 8px 12px;
  background: var(--look-surface);
  border-radius: var(--corner);
}
text {
  font-family: var(--mono);
  fill: var(--ink);
}
.column {
  font-family: var(--text);
  font-size: 12px;
  fill: var(--quiet);
  text-anchor: middle;
}
.reach {
  fill: transparent;
  stroke: none;
}
.wire {
  cursor: pointer;
}
.wire path {
  fill: none;
  stroke-linejoin: round;
}
.grip {
  fill: transparent;
}
.wire .reach {
  stroke: transparent;
  stroke-width: 16;
}
.edge {
  stroke: var(--ink);
  stroke-width: 4.5;
}
.core {
  stroke-width: 3;
}
.core:not([stroke]) {
  stroke: var(--hair);
}
.stripe {
  stroke-dasharray: 7 7;
}
.wire.chosen .edge {
  stroke: var(--accent);
  stroke-width: 9;
}
.wire.faulty .edge {
  stroke-dasharray: 4 6;
  stroke: var(--stop);
  stroke-width: 7;
}
.arrow {
  fill: var(--ink);
  stroke: var(--surface);
  stroke-width: 1.5;
}
.words text,
.volts {
  paint-order: stroke;
  stroke: var(--surface);
  stroke-width: 4px;
  stroke-linejoin: round;
}
.words {
  pointer-events: none;
}
.amps {
  font-size: 13px;
  font-weight: 700;
}
.letters {
  font-size: 10px;
  fill: var(--quiet);
}
.part {
  cursor: pointer;
}
.part rect {
  fill: var(--paper);
  stroke: var(--quiet);
  stroke-width: 1;
}
.bar {
  fill: none;
  stroke: var(--copper);
  stroke-width: 6;
}
.part.chosen rect {
  stroke: var(--accent);
  stroke-width: 3;
}
.part.told rect {
  fill: var(--stop-surface);
}
.part.faulty rect {
  stroke: var(--stop);
  stroke-dasharray: 5 4;
  stroke-width: 2.5;
}
.name {
  font-size: 14px;
  font-weight: 700;
  text-anchor: middle;
}
.label {
  font-family: var(--text);
  font-size: 11px;
  fill: var(--quiet);
  text-anchor: middle;
}
.status {
  font-size: 12px;
  text-anchor: middle;
}
.terminal {
  cursor: pointer;
  touch-action: none;
}
.terminal circle {
  fill: var(--surface);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.terminal.free circle {
  stroke: var(--quiet);
  stroke-dasharray: 3 2.4;
}
.terminal.picked circle {
  fill: var(--accent);
  stroke: var(--accent);
}
.terminal.faulty circle {
  stroke: var(--stop);
  stroke-width: 3;
}
.terminal.joint circle {
  fill: var(--ink);
}
.mark {
  font-size: 12px;
  font-weight: 700;
}
.volts {
  font-size: 11px;
  stroke: none;
  pointer-events: none;
}
.rubber {
  stroke: var(--accent);
  stroke-width: 3;
  stroke-dasharray: 8 5;
  pointer-events: none;
}
</style>
