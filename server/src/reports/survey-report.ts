import type { Survey, SurveyedSite } from '@calm/contract/surveys'
import { sayEntry } from '@calm/core/family/sensor-choice'
import type { PartState } from '@calm/core/loop/parts'
import { sayDayAs, sayInstantAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import { sayNumber } from '@calm/core/quantity/round'
import { labelOf } from '@calm/core/quantity/setting'
import { judgePosition } from '@calm/core/survey/judge-position'
import { SITE_POINTS } from '@calm/core/survey/judge-site'
import { SITE_GROUPS } from '@calm/core/survey/site'
import { triesChart } from '@calm/core/survey/tries-chart'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { chartSvg } from './chart-svg.ts'
import { pdfLibrary } from './fonts.ts'
import { facts, figure, heading, mono, printed, rule } from './sheet-parts.ts'
import type { Stationery } from './stationery.ts'

export interface SurveyReportData {
  readonly stationery: Stationery
  readonly survey: Survey
  /** Data addresses of the pictures, by their hash. */
  readonly pictures: Readonly<Record<string, string>>
  readonly printedAt: string
}
const WORD: Readonly<Record<PartState, string>> = {
  good: 'good',
  look: 'with care',
  stop: 'do not use',
  notYet: 'not judged',
}
const nameOf = (s: SurveyedSite) => asWritten(String(s.found.values['site'] ?? ''))
const TITLES: Readonly<Partial<Record<string, string>>> = SITE_POINTS
const pointTitle = (of: string): string => TITLES[of] ?? of
const head = (text: string): TableCell => ({ text, bold: true })
const reads = (s: SurveyedSite): string =>
  s.log?.mean == null
    ? 'nothing recorded'
    : `${sayNumber(s.log.mean, 5)}${s.log.U === null ? '' : ` ± ${sayNumber(s.log.U, 2)}`} ${s.log.unit ?? ''}${s.log.simulated ? ' (simulated)' : ''}`

/** Every site in one line: never a mean over them. */
const overview = (survey: Survey): Content => ({
  layout: rule,
  table: {
    headerRows: 1,
    dontBreakRows: true,
    widths: [56, 56, 52, 90, '*'],
    body: [
      ['Site', 'Loop', 'Verdict', 'Read (k = 2)', 'Why'].map(head),
      ...survey.sites.map((s): TableCell[] => [
        mono(nameOf(s), { bold: true }),
        mono(asWritten(s.tag)),
        { text: WORD[s.state], bold: s.state !== 'good' },
        mono(reads(s)),
        { text: s.says, fontSize: 8 },
      ]),
    ],
  },
})

/** What was entered there, group by group; nothing that nobody entered. */
function entered(s: SurveyedSite): Content {
  const rows = SITE_GROUPS.flatMap((g) =>
    g.settings.flatMap((x): TableCell[][] => {
      const value = s.found.values[x.name]
      return value === undefined || value === '' || x.name === 'site'
        ? []
        : [
            [
              { text: labelOf(x.title).label },
              mono(x.kind === 'text' ? asWritten(sayEntry(x, value)) : sayEntry(x, value)),
            ],
          ]
    }),
  )
  const half = Math.ceil(rows.length / 2)
  const table = (body: TableCell[][]): Content =>
    body.length === 0 ? { text: '' } : { layout: rule, fontSize: 8, table: { widths: ['*', 96], body } }
  return { columns: [table(rows.slice(0, half)), table(rows.slice(half))], columnGap: 16 }
}

function siteOnPaper(s: SurveyedSite, d: SurveyReportData): Content[] {
  const unit = s.found.values['rail'] === 'index' ? '' : 'mm'
  const { tries, note } = s.found
  const shots = s.pictures.flatMap((p) => d.pictures[p.sha256] ?? [])
  return [
    {
      text: `${nameOf(s)}: ${asWritten(`${s.tag} ${s.service}`)}`,
      fontSize: 15,
      bold: true,
      pageBreak: 'before',
      margin: [0, 0, 0, 4],
    },
    ...(s.log?.simulated
      ? [{ text: 'SIMULATED: its log was not measured on a real device.', bold: true } as Content]
      : []),
    ...(s.demo ? [{ text: 'DEMO PLANT: made up, nothing was measured.', bold: true } as Content] : []),
    facts([
      ['Verdict', s.says],
      [
        'By',
        `${asWritten(s.byName)}, ${sayInstantAs(s.at, d.stationery.dates)}${s.keeping > 1 ? `, kept ${s.keeping} times` : ''}`,
      ],
      ['Read (k = 2)', reads(s)],
      ...(note === '' ? [] : [['Note', asWritten(note)] as const]),
    ]),
    heading('Judged'),
    {
      layout: rule,
      fontSize: 8.5,
      table: {
        dontBreakRows: true,
        widths: [82, 58, '*'],
        body: s.points.map((p): TableCell[] => [
          { text: pointTitle(p.of) },
          { text: WORD[p.state], bold: p.state !== 'good' },
          { text: p.says.join('\n') },
        ]),
      },
    },
    heading('Entered'),
    entered(s),
    ...(tries.length === 0
      ? []
      : [
          heading('Positions tried'),
          figure(
            chartSvg(triesChart(tries, judgePosition(tries, unit), unit)),
            420,
            `Signal of ${tries.length} positions`,
          ),
          mono(
            tries
              .map(
                (t) =>
                  `${sayNumber(t.at, 5)}${unit === '' ? '' : ` ${unit}`}: ${sayNumber(t.signal_pct, 3)} %`,
              )
              .join('   '),
            { fontSize: 8 },
          ) as Content,
        ]),
    ...(shots.length === 0
      ? []
      : [
          heading('Photographs'),
          {
            columns: shots.map((image) => ({ image, fit: [230, 170] as [number, number] })),
            columnGap: 10,
          } as Content,
        ]),
  ]
}

/** A day of measuring on several pipes: all sites in one table, then each with its evidence. */
export async function surveyPdf(d: SurveyReportData): Promise<Buffer> {
  const { survey } = d
  const on = sayDayAs(survey.on, d.stationery.dates)
  const count = (state: PartState) => survey.sites.filter((s) => s.state === state).length
  return pdfLibrary()
    .createPdf(
      printed(
        {
          ...d,
          runId: survey.id,
          stands: `survey ${survey.id}`,
          document: { tag: survey.on, service: 'Survey' },
        },
        `Survey ${survey.on} ${survey.title}`,
        null,
        [
          { text: asWritten(survey.title), fontSize: 17, bold: true, margin: [0, 0, 0, 4] },
          {
            text: `${on}. ${survey.sites.length} ${survey.sites.length === 1 ? 'site' : 'sites'}: ${(
              ['good', 'look', 'stop', 'notYet'] as const
            )
              .filter((s) => count(s) > 0)
              .map((s) => `${count(s)} ${WORD[s]}`)
              .join(', ')}. Printed ${sayInstantAs(d.printedAt, d.stationery.dates)}.`,
          },
          heading('Sites'),
          overview(survey),
          {
            text: 'Each site is judged by itself: signals of several sites are never averaged. Limits marked typical give way to those of the meter’s maker. Calm Loop advises; local codes, permits and licensed practice decide.',
            fontSize: 7.5,
            margin: [0, 8, 0, 0],
          },
          ...survey.sites.flatMap((s) => siteOnPaper(s, d)),
        ],
      ),
    )
    .getBuffer()
}
