import type { Log, LogJudgement, LogView } from '@calm/contract/logs'
import { HOW_IT_CAME } from '@calm/core/logs/recording'
import { sayFindings } from '@calm/core/logs/say-finding'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import { sayCount, sayNumber } from '@calm/core/quantity/round'
import { printedUnit } from '@calm/core/quantity/units'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { chartSvg } from './chart-svg.ts'
import { logChart, overHours, placeIn, sayJudged } from './log-plot.ts'
import { pdfLibrary } from './fonts.ts'
import { facts, figure, heading, mono, printed, rule } from './sheet-parts.ts'
import type { Stationery } from './stationery.ts'

/** A channel of a log in the stretch that is printed. */
export interface LogReportPart {
  readonly log: Log
  readonly channel: number
  readonly view: LogView
  readonly judgement: LogJudgement
  readonly sha256: string
}
export interface LogReportData extends LogReportPart {
  readonly stationery: Stationery
  readonly document: { readonly tag: string; readonly service: string }
  /** Printed behind it, each judged by itself in the same stretch. */
  readonly beside: readonly LogReportPart[]
}
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1)
const MOST_FOUND = 60
const WIDTH = 500
const SIMULATED: Content = {
  text: 'SIMULATED: nothing here was measured on a real device.',
  bold: true,
  margin: [0, 4, 0, 0],
}

/** Whose log it is, and which of its channels. */
function ofLog({ log, channel: at, view }: LogReportPart, place: (ms: number) => string): Content {
  const channel = log.channels[at]
  const unit = channel?.unit ? printedUnit(channel.unit) : ''
  const lines = log.wrongCount === 1 ? 'line' : 'lines'
  return {
    columns: [
      facts([
        ['Of', log.of === 'installed' ? 'this meter' : 'a reference beside it'],
        ['Recorded by', asWritten(log.instrument ?? 'not told')],
        ['Where', asWritten(log.site === '' ? 'not told' : log.site)],
        ['Channel', `${asWritten(channel?.name ?? '')}${unit === '' ? ', unit not told' : `, ${unit}`}`],
      ]),
      facts([
        ['From', place(view.from)],
        ['To', place(view.to)],
        [`${capital(HOW_IT_CAME[log.source])} by`, asWritten(log.byName)],
        [
          'Rows',
          `${sayCount(log.rows)}${log.wrongCount > 0 ? `, ${sayCount(log.wrongCount)} ${lines} could not be read` : ''}`,
        ],
      ]),
    ],
  }
}

/** What a channel shows and amounts to, and everything that was found in it, or that nothing was. */
function shown(d: LogReportPart, at: (ms: number) => string): Content[] {
  const { log, judgement: j, view } = d
  const channel = log.channels[d.channel]
  const unit = channel?.unit ? printedUnit(channel.unit) : ''
  const found = sayFindings(j.findings ?? [], unit)
  const s = j.statistics
  const of = (x: number, digits = 5) => `${sayNumber(x, digits)}${unit === '' ? '' : ` ${unit}`}`
  return [
    heading('Seen'),
    figure(
      chartSvg(logChart(channel, view, at, found)),
      WIDTH,
      `${asWritten(channel?.name ?? '')} over the stretch${s ? `, from ${sayNumber(s.min, 5)} to ${of(s.max)}` : ''}`,
    ),
    { text: overHours(channel, at(view.from)), fontSize: 8 },
    heading('Judged'),
    { text: sayJudged(j, found, unit), bold: true },
    ...(found.length === 0
      ? []
      : [
          {
            layout: rule,
            fontSize: 8,
            margin: [0, 4, 0, 0] as [number, number, number, number],
            table: {
              headerRows: 1,
              dontBreakRows: true,
              widths: [120, '*'],
              body: [
                ['When', 'What'].map((text): TableCell => ({ text, bold: true })),
                ...found.slice(0, MOST_FOUND).map((f): TableCell[] => [mono(at(f.from)), f.says]),
              ],
            },
          },
        ]),
    ...(found.length > MOST_FOUND ? [{ text: `and ${found.length - MOST_FOUND} more` }] : []),
    ...(s
      ? [
          heading('In numbers'),
          facts([
            ['Mean (k = 2)', s.close ? `${of(s.mean)} ± ${sayNumber(2 * s.close.uMean, 2)}` : of(s.mean)],
            ['From, to', `${sayNumber(s.min, 5)}, ${of(s.max)}`],
            ['Scatter', of(s.sd, 3)],
            ...(s.close
              ? ([
                  ['Noise', of(s.close.noise, 3)],
                  ['Gaps', s.close.gaps === 0 ? 'none' : String(s.close.gaps)],
                ] as const)
              : []),
            ...(j.total
              ? ([
                  [
                    j.total.complete ? 'Total' : 'Total, gaps left out',
                    `${sayNumber(j.total.net, 5)} ${channel?.unit ? printedUnit(channel.unit.replace(/\/(s|min|h|d)$/, '')) : ''}`,
                  ],
                ] as const)
              : []),
          ]),
        ]
      : []),
    {
      text: `Files: ${asWritten(log.files.join(', '))}. Samples: SHA-256 ${d.sha256}`,
      font: 'Mono',
      fontSize: 7,
      margin: [0, 8, 0, 0],
    },
  ]
}

/** A stretch of a log on paper; what was drawn beside it follows, each line judged by itself on a page of its own. */
export async function logPdf(d: LogReportData): Promise<Buffer> {
  const { log, stationery, beside } = d
  const place = (part: LogReportPart) => placeIn(part.log, stationery.dates)
  const titleOf = (b: LogReportPart) =>
    asWritten(`${b.log.id === log.id ? '' : `${b.log.title}: `}${b.log.channels[b.channel]?.name ?? ''}`)
  return pdfLibrary()
    .createPdf(
      printed({ ...d, runId: log.id, stands: `log ${log.id}` }, `${log.tag} ${log.title}`, null, [
        { text: asWritten(log.title), fontSize: 17, bold: true, margin: [0, 0, 0, 6] },
        ...(log.simulated ? [SIMULATED] : []),
        ofLog(d, place(d)),
        ...shown(d, place(d)),
        ...beside.flatMap((b): Content[] => [
          {
            text: `Beside it: ${titleOf(b)}`,
            fontSize: 14,
            bold: true,
            margin: [0, 0, 0, 6],
            pageBreak: 'before',
          },
          ...(b.log.simulated ? [SIMULATED] : []),
          ofLog(b, place(b)),
          ...shown(b, place(b)),
        ]),
        {
          text: 'Findings speak of the record, not of blame: a process that was meant to move gives steps and drift too.',
          fontSize: 7.5,
          margin: [0, 3, 0, 0],
        },
      ]),
    )
    .getBuffer()
}
