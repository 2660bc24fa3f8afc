<script setup lang="ts">
import type { LogJudgement, LogView } from '@calm/contract/logs'
import type { LogSaying } from '@calm/core/logs/say-finding'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import {
  Chart,
  Filler,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js'
import Zoom from 'chartjs-plugin-zoom'
import { computed, onBeforeUnmount, onMounted, shallowRef, useTemplateRef, watch } from 'vue'
import { useTheme } from 'vuetify'
import { pointsOf, type Point } from './log-chart.ts'
import { sayLogTime, sayTick, timeTicks, type TimesAs } from './say-time.ts'

Chart.register(LineController, LinearScale, PointElement, LineElement, Filler, Legend, Tooltip, Zoom)

export interface Drawn {
  readonly view: LogView
  readonly name: string
  readonly unit: string | null
  readonly gapAbove: number
  readonly simulated: boolean
  /** Of a reference: what is allowed is drawn around it. */
  readonly isReference: boolean
}

/** A stretch of a log, with the range of its loop and the stretches that its findings speak of. */
const { main, besides, from, to, whole, band, own, cursor, held, found, chosen, times, says } = defineProps<{
  main: Drawn | null
  /** Others of the same time, each on the axis of its unit. */
  besides: readonly Drawn[]
  from: number
  to: number
  whole: { readonly from: number; readonly to: number }
  band: LogJudgement['against']
  /** Moments that somebody marked. */
  own: readonly number[]
  /** The moment that was touched last; null where none was. */
  cursor: number | null
  /** The stretch that is held; null where what is seen is judged. */
  held: { readonly from: number; readonly to: number } | null
  found: readonly LogSaying[]
  chosen: LogSaying | null
  times: TimesAs
  /** The drawing in words. */
  says: string
}>()
const emit = defineEmits<{
  look: [from: number, to: number]
  wide: [pixels: number]
  touch: [at: number]
}>()

const theme = useTheme()
const colour = (name: string) => {
  const c = theme.current.value.colors[name]
  return typeof c === 'string' ? c : ''
}
/** What is simulated keeps its ink; those beside are fainter and each has a dash of its own: colour alone tells nothing. */
const FAINT = '77'
const ink = (d: Drawn, place: number, other: string) =>
  d.simulated ? `${colour('simulated')}${place > 0 ? FAINT : ''}` : colour(other)
const DASH_BESIDE = [[], [], [6, 3], [2, 3], [10, 3, 2, 3]]
/** @param place - 0 is the one that is judged, then those beside it */
const line = (d: Drawn, place: number, axis: string, other: string) => ({
  label: d.name,
  borderDash: DASH_BESIDE[place] ?? [],
  data: pointsOf(d.view, d.gapAbove),
  yAxisID: axis,
  borderColor: ink(d, place, other),
  backgroundColor: ink(d, place, other),
  borderWidth: 1.2,
  pointRadius: d.view.kind === 'samples' && d.view.t.length < 200 ? 2.5 : 0,
  pointHoverRadius: 5,
})
/** Units that are not the one of the main channel: each has an axis of its own on the right. */
const otherUnits = computed(() => [
  ...new Set(besides.filter((b) => main !== null && b.unit !== main.unit).map((b) => b.unit)),
])
const axisOf = (d: Drawn) => {
  const at = otherUnits.value.indexOf(d.unit)
  return at < 0 ? 'y' : `y${at + 2}`
}
const datasets = computed(() => [
  ...marks.value,
  ...moments.value,
  ...levels.value,
  ...allowed.value,
  ...(main ? [line(main, 0, 'y', 'copper')] : []),
  ...besides.map((b, i) => line(b, i + 1, axisOf(b), 'primary')),
])
const named = (d: Drawn) => (d.unit === null ? d.name : `${d.name}, ${printedUnit(d.unit)}`)
const HUES = { stop: 'error', warn: 'warning', note: 'quiet', good: 'success' } as const

/** Where the marks stand: from the foot of the drawing to its head, whatever the values are. */
const MARKS = { type: 'linear' as const, axis: 'y' as const, display: false, min: 0, max: 1 }
const mark = (hue: string, data: Point[], width: number, dash: number[], fill: string | false) => ({
  label: '',
  data,
  yAxisID: 'marks',
  borderColor: hue,
  backgroundColor: fill === false ? hue : fill,
  borderWidth: width,
  borderDash: dash,
  fill: fill === false ? false : ('origin' as const),
  pointRadius: 0,
  pointHitRadius: 0,
  pointHoverRadius: 0,
})
/** Stretches as bands of the drawing, single moments as upright lines; what speaks of all that is seen needs none. */
const marks = computed(() =>
  found
    .filter((f) => f === chosen || f.from > from || f.to < to)
    .slice(0, 200)
    .map((f) => {
      const hue = colour(HUES[f.severity])
      const isChosen = f === chosen
      const isMoment = f.to - f.from < (to - from) / 400
      return isMoment
        ? mark(hue, upright(f.from), isChosen ? 3 : 1, [3, 3], false)
        : mark(hue, stretch(f.from, f.to), isChosen ? 2 : 0, [], `${hue}${isChosen ? '33' : '14'}`)
    }),
)
/** A stretch from the foot of the drawing to its head. */
const stretch = (a: number, b: number): Point[] => [
  { x: a, y: 1 },
  { x: b, y: 1 },
]
const upright = (x: number): Point[] => [
  { x, y: 0 },
  { x, y: 1 },
]
/** What people marked, what was touched, and what is held. */
const moments = computed(() => [
  ...(held
    ? [
        mark(colour('primary'), stretch(held.from, held.to), 0, [], `${colour('primary')}1f`),
        ...[held.from, held.to].map((x) => mark(colour('primary'), upright(x), 2, [], false)),
      ]
    : []),
  ...own.map((x) => mark(colour('primary'), upright(x), 2, [2, 4], false)),
  ...(cursor === null ? [] : [mark(colour('on-surface'), upright(cursor), 1, [], false)]),
])
/** The ends of the loop's range, its trips and the ends of the signal: each dashed in its own way where it is in sight. */
const DASHES = { range: [8, 4], trip: [12, 3, 2, 3], signal: [2, 3] }
const levels = computed(() =>
  (band
    ? [
        ...[band.lo, band.hi].map((at) => ({ kind: 'range' as const, at })),
        ...band.lines.map(({ kind, at }) => ({ kind, at })),
      ]
    : []
  ).map(({ kind, at: y }) => ({
    ...mark(
      colour(kind === 'trip' ? 'warning' : 'quiet'),
      [
        { x: from, y },
        { x: to, y },
      ],
      kind === 'trip' ? 1.5 : 1,
      DASHES[kind],
      false,
    ),
    yAxisID: 'y',
  })),
)
/** What the loop is allowed around a reference that is drawn beside it. */
const allowed = computed(() => {
  const T = band?.T ?? null
  const reference = besides.find((b) => b.isReference && b.unit === main?.unit)
  if (!reference || T === null) return []
  const edge = (up: 1 | -1): Point[] =>
    pointsOf(reference.view, reference.gapAbove).map(({ x, y }) => ({ x, y: y + up * T }))
  const shade = (up: 1 | -1) => ({
    ...mark(colour('quiet'), edge(up), 0.5, [], up === 1 ? false : `${colour('quiet')}18`),
    yAxisID: 'y',
    fill: up === 1 ? (false as const) : ('-1' as const),
  })
  return [shade(1), shade(-1)]
})
/** The axis of the values is theirs alone: a range far away does not press them flat. */
const seen = computed(() => {
  const ys = [main, ...besides.filter((b) => b.unit === main?.unit)].flatMap((d) => [
    ...(d?.view.min ?? []),
    ...(d?.view.max ?? []),
  ])
  let [lo, hi] = [Infinity, -Infinity]
  for (const y of ys) {
    if (y === null) continue
    lo = Math.min(lo, y)
    hi = Math.max(hi, y)
  }
  const room = hi > lo ? (hi - lo) * 0.06 : Math.abs(hi) * 0.01 || 1
  return lo <= hi ? { min: lo - room, max: hi + room } : {}
})
const options = computed(() => {
  const text = { color: colour('on-surface'), font: { family: 'Calm Mono', size: 13 } }
  const axis = (title: string) => ({
    title: { display: true, text: title, ...text },
    ticks: {
      ...text,
      maxTicksLimit: 7,
      includeBounds: false,
      callback: (v: number | string) => String(Number(Number(v).toPrecision(8))),
    },
    grid: { color: colour('hairline') },
  })
  return {
    animation: false as const,
    maintainAspectRatio: false,
    parsing: false as const,
    normalized: true,
    onClick: (e: { x: number | null }, _at: unknown, chart: Chart) => {
      const at = e.x === null ? undefined : chart.scales['x']?.getValueForPixel(e.x)
      if (at !== undefined && at >= from && at <= to) emit('touch', at)
    },
    interaction: { mode: 'nearest' as const, axis: 'x' as const, intersect: false },
    scales: {
      x: {
        type: 'linear' as const,
        min: from,
        max: to,
        afterBuildTicks: (a: { min: number; max: number; width: number; ticks: { value: number }[] }) => {
          a.ticks = timeTicks(a.min, a.max, Math.max(2, a.width / 110)).map((value) => ({ value }))
        },
        ticks: {
          ...text,
          maxRotation: 0,
          callback: (v: number | string) => sayTick(Number(v), to - from, times),
        },
        grid: { color: colour('hairline') },
      },
      y: { ...axis(main ? named(main) : ''), ...seen.value },
      marks: MARKS,
      ...Object.fromEntries(
        otherUnits.value.map((unit, i) => {
          const of = besides.filter((b) => b.unit === unit)
          const title = of.length === 1 && of[0] ? named(of[0]) : unit === null ? '' : printedUnit(unit)
          return [
            `y${i + 2}`,
            { ...axis(title), position: 'right' as const, grid: { drawOnChartArea: false } },
          ]
        }),
      ),
    },
    plugins: {
      legend: {
        display: besides.length > 0,
        align: 'end' as const,
        labels: { ...text, boxHeight: 2, boxWidth: 24, filter: (i: { text: string }) => i.text !== '' },
      },
      tooltip: {
        filter: (c: { dataset: { label?: string } }) => c.dataset.label !== '',
        callbacks: {
          // Over a mark, which has no value, nothing is said.
          title: ([item]: { parsed: { x: number | null } }[]) =>
            item ? sayLogTime(item.parsed.x ?? 0, times) : '',
          label: (c: { dataset: { label?: string }; parsed: { y: number | null } }) =>
            `${c.dataset.label ?? ''}: ${sayNumber(c.parsed.y ?? 0, 6)}`,
        },
      },
      zoom: {
        limits: { x: { min: whole.from, max: whole.to, minRange: 1 } },
        pan: { enabled: true, mode: 'x' as const, onPanComplete: told },
        zoom: {
          wheel: { enabled: true },
          pinch: { enabled: true },
          drag: { enabled: true, modifierKey: 'shift' as const, backgroundColor: `${colour('primary')}22` },
          mode: 'x' as const,
          onZoomComplete: told,
        },
      },
    },
  }
})
function told({ chart }: { chart: Chart }): void {
  const x = chart.scales['x']
  if (x) emit('look', x.min, x.max)
}

const canvas = useTemplateRef('canvas')
const drawn = shallowRef<Chart<'line'> | null>(null)
/** How many strokes there is room for. */
const sayWide = (): void => {
  const pixels = Math.round(drawn.value?.chartArea?.width ?? 0)
  if (pixels > 0) emit('wide', pixels)
}
onMounted(() => {
  if (canvas.value)
    drawn.value = new Chart(canvas.value, {
      type: 'line',
      data: { datasets: datasets.value },
      options: options.value,
    })
})
watch([datasets, options], () => {
  if (!drawn.value) return
  drawn.value.data.datasets = datasets.value
  drawn.value.options = options.value
  drawn.value.update('none')
  sayWide()
})
onBeforeUnmount(() => drawn.value?.destroy())
/** The drawing as a picture, on the colour of the page. */
function picture(): string {
  const from_ = canvas.value
  if (!from_) return ''
  const sheet = document.createElement('canvas')
  sheet.width = from_.width
  sheet.height = from_.height
  const pen = sheet.getContext('2d')
  if (!pen) return ''
  pen.fillStyle = colour('surface')
  pen.fillRect(0, 0, sheet.width, sheet.height)
  pen.drawImage(from_, 0, 0)
  return sheet.toDataURL('image/png')
}
defineExpose({ picture })
</script>

<template>
  <canvas ref="canvas" role="img" :aria-label="says" />
</template>
