import type { Log, LogView } from '@calm/contract/logs'
import type { Chart } from '@calm/core/chart'
import { sayDuration } from '@calm/core/logs/say-finding'
import { sayInstantAs, type DatesAs } from '@calm/core/quantity/date-form'
import { printedUnit } from '@calm/core/quantity/units'
import { chartSvg, svgText } from './chart-svg.ts'

type Channel = Log['channels'][number] | undefined
const HOUR_STEPS = [1 / 60, 1 / 12, 0.25, 0.5, 1, 2, 3, 6, 12, 24, 48, 168, 720]
const MOST_TICKS = 9
const HOUR_MS = 3_600_000

/** One upright stroke a place, joined to the next; apart where nothing was recorded. */
function strokes(view: LogView): (readonly [number, number])[][] {
  const parts: (readonly [number, number])[][] = [[]]
  const hours = (i: number) => {
    const behind =
      view.kind === 'samples' ? (view.t[i] ?? 0) : ((i + 0.5) * (view.to - view.from)) / view.min.length
    return behind / HOUR_MS
  }
  view.min.forEach((min, i) => {
    if (min === null) {
      if (parts.at(-1)?.length) parts.push([])
      return
    }
    const max = view.max[i]
    const here = parts.at(-1)
    here?.push([hours(i), min])
    if (max !== null && max !== undefined && max !== min) here?.push([hours(i), max])
  })
  return parts.filter((p) => p.length > 0)
}

/** A moment of a log in words: by the clock, or from its beginning where no clock is known. */
export const placeIn =
  ({ relative }: Pick<Log, 'relative'>, dates: DatesAs) =>
  (ms: number): string =>
    relative ? `${sayDuration(ms / 1000)} in` : sayInstantAs(new Date(ms).toISOString(), dates)

/** A stretch of a channel as a chart for paper; smallest and largest values of each place are true. */
export function logChart(channel: Channel, view: LogView, at: (ms: number) => string): Chart {
  const hours = (view.to - view.from) / HOUR_MS
  const step = HOUR_STEPS.find((h) => hours / h <= MOST_TICKS)
  const name = channel?.name ?? ''
  return {
    title: name,
    says: '',
    x: { label: `hours from ${at(view.from)}`, from: 0, to: hours, ...(step === undefined ? {} : { step }) },
    y: { label: name, ...(channel?.unit ? { unit: channel.unit } : {}) },
    series: strokes(view).map((points) => ({ name, kind: 'line' as const, points })),
  }
}
/** What stands under the chart. */
export const overHours = (channel: Channel, from: string): string =>
  `${channel?.name ?? ''}${channel?.unit ? ` in ${printedUnit(channel.unit)}` : ', unit not told,'} over the hours from ${from}`

export interface LogPlotData {
  readonly dates: DatesAs
  readonly document: { readonly tag: string; readonly service: string }
  readonly log: Log
  readonly channel: number
  readonly view: LogView
}
const [WIDTH, HEIGHT, HEAD, TIMES] = [500, 200, 38, 2]

/** The plot of a stretch as a drawing to hand over: whose it is, what it shows, and the word where nothing was measured. */
export function logPlotSvg({ dates, document, log, channel: index, view }: LogPlotData): string {
  const channel = log.channels[index]
  const at = placeIn(log, dates)
  const of = log.of === 'installed' ? '' : ', a reference beside it'
  const line = (y: number, size: number, says: string) =>
    `<text x="8" y="${y}" font-size="${size}">${svgText(says)}</text>`
  const title = `${document.tag} ${document.service}: ${log.title}${of}`
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH * TIMES}" height="${HEIGHT * TIMES}" viewBox="0 0 ${WIDTH} ${HEIGHT}" role="img">
<title>${svgText(title)}</title>
<style>text { font-family: monospace; }</style>
<rect width="${WIDTH}" height="${HEIGHT}" fill="white"/>
${line(14, 10, title)}
${line(27, 8, log.simulated ? 'SIMULATED: nothing here was measured on a real device.' : `Recorded by: ${log.instrument ?? 'not told'}`)}
<g transform="translate(0 ${HEAD})">${chartSvg(logChart(channel, view, at))}</g>
${line(HEIGHT - 4, 7, `${overHours(channel, at(view.from))} to ${at(view.to)}`)}
</svg>`
}
