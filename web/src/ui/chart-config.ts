import type { Chart as ChartSpec, Series } from '@calm/core/chart'
import { sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { ChartData, ChartOptions } from 'chart.js'

/** A colour of the theme by its name. */
export type Colour = (name: string) => string

const axis = (a: ChartSpec['x']) => (a.unit ? `${a.label}, ${printedUnit(a.unit)}` : a.label)
/** Lines tell apart by their dashes too, not by colour alone. */
const DASHES = [[], [8, 4], [2, 3], [10, 3, 2, 3]]
const THIN = { showLine: true, pointRadius: 0, borderWidth: 1, borderDash: [6, 4] }
/** Name of a lower edge that the legend does not repeat. */
const BELOW = ' below'

function datasets(s: Series, n: number, colour: Colour): object[] {
  const base = { label: s.name, data: s.points.map(([x, y]) => ({ x, y })) }
  const ink = s.simulated ? colour('simulated') : null
  switch (s.kind) {
    case 'points':
      return [
        {
          ...base,
          showLine: !s.apart,
          borderWidth: 1.5,
          borderDash: s.open ? [3, 3] : [],
          borderColor: ink ?? colour('copper'),
          pointBorderColor: ink ?? colour('copper'),
          pointBackgroundColor: s.open ? colour('surface') : (ink ?? colour('copper')),
          pointRadius: 5,
          pointHoverRadius: 7,
        },
      ]
    case 'limit':
      return [{ ...base, ...THIN, borderColor: colour('quiet') }]
    case 'band': {
      const edge = { ...THIN, borderColor: colour('quiet') }
      const below = s.points.map(([x], i) => ({ x, y: s.below?.[i] ?? 0 }))
      return [
        { ...base, ...edge, fill: '+1', backgroundColor: `${colour('primary')}14` },
        { label: `${s.name}${BELOW}`, data: below, ...edge },
      ]
    }
    case 'floor':
      return [
        {
          ...base,
          ...THIN,
          borderWidth: 2,
          borderDash: [8, 4],
          borderColor: colour('error'),
          fill: 'start',
          backgroundColor: `${colour('error')}14`,
        },
      ]
    case 'bars':
      return [
        {
          ...base,
          type: 'bar' as const,
          backgroundColor: colour('primary'),
          barPercentage: 1,
          categoryPercentage: 0.96,
        },
      ]
    case 'line':
      return [
        {
          ...base,
          showLine: true,
          pointRadius: 0,
          borderWidth: 2,
          borderDash: DASHES[n % DASHES.length] ?? [],
          borderColor: ink ?? (n % 2 === 0 ? colour('primary') : colour('on-surface')),
        },
      ]
  }
}
/** What a chart of the core shows: lines computed, points measured or typed, limits dashed. */
export function chartData(chart: ChartSpec, colour: Colour): ChartData<'scatter'> {
  let n = 0
  // Bars are drawn by the same chart; its types do not know that they can stand among points.
  return {
    datasets: chart.series.flatMap((s) => datasets(s, s.kind === 'line' ? n++ : 0, colour)),
  } as ChartData<'scatter'>
}

const endsOf = (a: ChartSpec['x']) => ({
  ...(a.from === undefined ? {} : { min: a.from }),
  ...(a.to === undefined ? {} : { max: a.to }),
})
/** Bars fill the axis; anything else has the ends that the chart tells, or the room that is found good. */
function endsAlong(chart: ChartSpec) {
  const bars = chart.series.find((s) => s.kind === 'bars')?.points ?? []
  const [first, second, last] = [bars[0], bars[1], bars.at(-1)]
  if (!first || !second || !last) return endsOf(chart.x)
  const half = (second[0] - first[0]) / 2
  return { min: first[0] - half, max: last[0] + half }
}
const TICK_DIGITS = 10
const ticksOf = (a: ChartSpec['x'], most: number) => ({
  maxTicksLimit: most,
  ...(a.step === undefined ? {} : { stepSize: a.step }),
  includeBounds: a.from === undefined,
  // As everywhere else: no comma in thousands, so that a year looks like one.
  callback: (value: number | string) => String(Number(Number(value).toPrecision(TICK_DIGITS))),
})

/** Its axes, legend and words. */
export function chartOptions(chart: ChartSpec, colour: Colour): ChartOptions<'scatter'> {
  const text = { color: colour('on-surface'), font: { family: 'Calm Mono', size: 13 } }
  return {
    animation: false,
    maintainAspectRatio: false,
    scales: {
      x: {
        type: 'linear',
        ...endsAlong(chart),
        title: { display: true, text: axis(chart.x), ...text },
        ticks: { ...text, ...ticksOf(chart.x, 8) },
        grid: { color: colour('hairline') },
      },
      y: {
        ...endsOf(chart.y),
        title: { display: true, text: axis(chart.y), ...text },
        ticks: { ...text, ...ticksOf(chart.y, 7) },
        grid: { color: colour('hairline') },
      },
    },
    plugins: {
      legend: {
        align: 'end',
        display: chart.series.length > 1,
        labels: { ...text, boxHeight: 1, boxWidth: 24, filter: (i) => !i.text.endsWith(BELOW) },
      },
      tooltip: {
        callbacks: {
          label: (c) =>
            `${c.dataset.label}: ${sayNumber(c.parsed.y ?? 0, 5)} at ${sayNumber(c.parsed.x ?? 0, 5)}`,
        },
      },
    },
  }
}
