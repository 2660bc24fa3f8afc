import type { Log, LogJudgement, LogView } from '@calm/contract/logs'
import type { Chart } from '@calm/core/chart'
import { FEWEST_JUDGED, LOG_FINDINGS } from '@calm/core/logs/findings/finding'
import { sayDuration, sayFindings, type LogSaying } from '@calm/core/logs/say-finding'
import { sayInstantAs, type DatesAs } from '@calm/core/quantity/date-form'
import { asWritten, type DecimalSign } from '@calm/core/quantity/decimal-sign'
import { sayCount, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import { chartSvg, svgText } from './chart-svg.ts'
import { svgInSign } from './svg-in-sign.ts'

type Channel = Log['channels'][number] | undefined
const HOUR_STEPS = [1 / 60, 1 / 12, 0.25, 0.5, 1, 2, 3, 6, 12, 24, 48, 168, 720]
const MOST_TICKS = 9
const MOST_MARKS = 60
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

/** What the judgement of a stretch came to, with its evidence, or why it is none. */
export function sayJudged(j: LogJudgement, found: readonly LogSaying[], unit: string): string {
  const s = j.statistics
  if (s === null) return 'Not judged: no value lies in this stretch.'
  if (j.findings === null) return `Not judged: more than ${j.most / 1e6} million samples.`
  if (found.length === 0 && s.n < FEWEST_JUDGED)
    return `Not judged: ${s.n} samples are too few, ${FEWEST_JUDGED} are needed.`
  const count =
    found.length === 0
      ? `None of the ${LOG_FINDINGS.length} kinds of finding`
      : `${found.length} ${found.length === 1 ? 'finding' : 'findings'}`
  const range = j.against
    ? `held against the range of the loop, ${sayNumber(j.against.lo, 5)} to ${sayNumber(j.against.hi, 5)}${unit === '' ? '' : ` ${unit}`}`
    : 'not held against a range'
  const inParts = j.parts === null ? '' : `, judged in ${j.parts} parts`
  return `${count} in ${sayCount(s.n)} samples${inParts}; ${range}.`
}

/**
 * A stretch of a channel as a chart for paper; smallest and largest values of each place are true.
 * @param found - each that begins inside it has an upright line there
 */
export function logChart(
  channel: Channel,
  view: LogView,
  at: (ms: number) => string,
  found: readonly LogSaying[],
): Chart {
  const drawn = strokes(view)
  const values = drawn.flatMap((part) => part.map(([, y]) => y))
  const [lowest, highest] = values.reduce(
    ([lo, hi], y) => [Math.min(lo, y), Math.max(hi, y)],
    [Infinity, -Infinity],
  )
  const hours = (view.to - view.from) / HOUR_MS
  const step = HOUR_STEPS.find((h) => hours / h <= MOST_TICKS)
  const name = channel?.name ?? ''
  return {
    title: name,
    says: '',
    x: { label: `hours from ${at(view.from)}`, from: 0, to: hours, ...(step === undefined ? {} : { step }) },
    y: { label: name, ...(channel?.unit ? { unit: channel.unit } : {}) },
    series: [
      ...drawn.map((points) => ({ name, kind: 'line' as const, points })),
      ...found
        .filter((f) => f.from > view.from && f.from < view.to && lowest <= highest)
        .slice(0, MOST_MARKS)
        .map((f) => {
          const x = (f.from - view.from) / HOUR_MS
          return {
            name: f.code,
            kind: 'limit' as const,
            points: [
              [x, lowest],
              [x, highest],
            ] as const,
          }
        }),
    ],
  }
}
/** What stands under the chart. */
export const overHours = (channel: Channel, from: string): string =>
  `${asWritten(channel?.name ?? '')}${channel?.unit ? ` in ${printedUnit(channel.unit)}` : ', unit not told,'} over the hours from ${from}`

/** A line of a plot: a channel of a log in the stretch that is drawn. */
export interface LogPlotLine {
  readonly log: Log
  readonly channel: number
  readonly view: LogView
}
export interface LogPlotData extends LogPlotLine {
  readonly dates: DatesAs
  readonly sign: DecimalSign
  readonly document: { readonly tag: string; readonly service: string }
  readonly judgement: LogJudgement
  /** Drawn under it over the same hours, each with an axis of its own; nothing is judged of them. */
  readonly beside: readonly LogPlotLine[]
}
const [WIDTH, HEIGHT, HEAD, TIMES, LINE] = [500, 200, 38, 2, 10]
/** Height of a line beside it, with its words. */
const BESIDE = 174
/** Findings that are written out under the drawing. */
const MOST_WRITTEN = 8

/** One more line: whose it is where that is another log, simulated or not, and its own axis. */
function besideSvg(b: LogPlotLine, main: Log, at: (ms: number) => string, top: number): string {
  const channel = b.log.channels[b.channel]
  const whose = b.log.id === main.id ? '' : `${asWritten(b.log.title)}: `
  const word = b.log.simulated ? ' SIMULATED.' : ''
  const unit = channel?.unit ? ` in ${printedUnit(channel.unit)}` : ', unit not told'
  return `<text x="8" y="${top + 10}" font-size="7">${svgText(`${whose}${asWritten(channel?.name ?? '')}${unit}.${word} Not judged here.`)}</text>
<g transform="translate(0 ${top + 14})">${chartSvg(logChart(channel, b.view, at, []))}</g>`
}

/** The plot of a stretch as a drawing to hand over: whose it is, what it shows, and the word where nothing was measured. */
export function logPlotSvg(d: LogPlotData): string {
  const { dates, document, log, view } = d
  const channel = log.channels[d.channel]
  const unit = channel?.unit ? printedUnit(channel.unit) : ''
  const found = sayFindings(d.judgement.findings ?? [], unit)
  const at = placeIn(log, dates)
  const of = log.of === 'installed' ? '' : ', a reference beside it'
  const line = (y: number, size: number, says: string) =>
    `<text x="8" y="${y}" font-size="${size}">${svgText(says)}</text>`
  const under = [
    sayJudged(d.judgement, found, unit),
    ...found.slice(0, MOST_WRITTEN).map((f) => `${at(f.from)}: ${f.says}`),
    ...(found.length > MOST_WRITTEN ? [`and ${found.length - MOST_WRITTEN} more`] : []),
  ]
  const below = HEIGHT + LINE * under.length
  const height = below + BESIDE * d.beside.length
  const title = `${asWritten(`${document.tag} ${document.service}: ${log.title}`)}${of}`
  const drawn = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH * TIMES}" height="${height * TIMES}" viewBox="0 0 ${WIDTH} ${height}" role="img">
<title>${svgText(title)}</title>
<style>text { font-family: monospace; }</style>
<rect width="${WIDTH}" height="${height}" fill="white"/>
${line(14, 10, title)}
${line(27, 8, log.simulated ? 'SIMULATED: nothing here was measured on a real device.' : `Recorded by: ${asWritten(log.instrument ?? 'not told')}`)}
<g transform="translate(0 ${HEAD})">${chartSvg(logChart(channel, view, at, found))}</g>
${line(HEIGHT - 4, 7, `${overHours(channel, at(view.from))} to ${at(view.to)}`)}
${under.map((says, i) => line(HEIGHT - 4 + LINE * (i + 1), 6, says)).join('\n')}
${d.beside.map((b, i) => besideSvg(b, log, at, below + BESIDE * i)).join('\n')}
</svg>`
  return svgInSign(drawn, d.sign)
}
