import { calmLineSvg } from './calm-line.ts'
import type { Judgement } from '@calm/core/verify/verdict'
import { tagged } from './tagging.ts'
import { sayDayAs, type DatesAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import { pageSizeOf, type Stationery } from './stationery.ts'
import type { Content, TableCell, TDocumentDefinitions } from 'pdfmake/interfaces.js'

/** What every printed record shares: its head and foot, its rules, how a fact, a time and an instrument stand. */
export const mono = (text: string, more: object = {}): TableCell => ({ text, font: 'Mono', ...more })
export const heading = (text: string): Content => ({
  text,
  bold: true,
  fontSize: 11,
  margin: [0, 10, 0, 3],
})
/** A drawing with what it shows in words, for who does not see it. */
export const figure = (svg: string, width: number, alt: string): Content => ({ svg, width, alt }) as Content
export const rule = {
  hLineWidth: () => 0.5,
  vLineWidth: () => 0,
  paddingTop: () => 2,
  paddingBottom: () => 2,
}

export const facts = (rows: readonly (readonly [string, string])[]): Content => ({
  layout: 'noBorders',
  table: { widths: [88, '*'], body: rows.map(([k, v]): TableCell[] => [k, mono(v)]) },
})

interface Named {
  readonly name: string
  readonly serial: string
  readonly uncertainty: string
  readonly certificate: string
  readonly certifiedOn: string
  readonly dueOn: string
}
export const instruments = (equipment: readonly Named[], dates: DatesAs): Content =>
  equipment.length === 0
    ? { text: 'No instrument was named.' }
    : {
        layout: rule,
        table: {
          widths: ['*', 62, '*', 78, 58, 58],
          body: [
            ['Instrument', 'Serial', 'Uncertainty (k = 2)', 'Certificate', 'of', 'valid until'].map(
              (text): TableCell => ({ text, bold: true }),
            ),
            ...equipment.map((e): TableCell[] => [
              asWritten(e.name),
              mono(asWritten(e.serial)),
              asWritten(e.uncertainty),
              mono(asWritten(e.certificate)),
              mono(sayDayAs(e.certifiedOn, dates)),
              mono(sayDayAs(e.dueOn, dates)),
            ]),
          ],
        },
      }

const small = (text: string): Content => ({ text, fontSize: 7, margin: [0, 1, 0, 0] })

/** Where the record ends, and who decides. @param proof - how the first is proved */
export const recordEnd = (
  chain: { readonly seq: number; readonly hash: string },
  proof?: string,
): Content[] => [
  {
    text: `Record: event ${chain.seq} of this loop, SHA-256 ${chain.hash}`,
    font: 'Mono',
    fontSize: 7,
    margin: [0, 8, 0, 0],
  },
  ...(proof === undefined ? [] : [small(proof)]),
  {
    text: 'Calm Loop advises. Local codes, permits, the device’s manual and licensed practice decide.',
    fontSize: 7.5,
    margin: [0, 3, 0, 0],
  },
]

/** Black on white, tag and page on every page. */
export const printed = (
  d: {
    readonly stationery: Stationery
    readonly runId: string
    /** When it was printed; now where it is silent. */
    readonly printedAt?: string
    /** What stands at the foot where it is no run. */
    readonly stands?: string
    readonly document: { readonly tag: string; readonly service: string }
  },
  title: string,
  line: Judgement | null,
  content: Content[],
  /** Files that lie in the paper, as text by their names. */
  inside: Readonly<Record<string, { readonly text: string; readonly says: string }>> = {},
): TDocumentDefinitions =>
  tagged(d.stationery.sign, {
    pageSize: pageSizeOf(d.stationery),
    pageMargins: [44, 56, 44, 48],
    defaultStyle: { font: 'Text', fontSize: 9, lineHeight: 1.15 },
    info: {
      title,
      author: 'Calm Loop',
      ...(d.printedAt === undefined ? {} : { creationDate: new Date(d.printedAt) }),
    },
    files: Object.fromEntries(
      Object.entries(inside).map(([name, f]) => [
        name,
        {
          name,
          src: `data:application/${name.endsWith('.xml') ? 'xml' : 'json'};base64,${Buffer.from(f.text).toString('base64')}`,
          description: f.says,
        },
      ]),
    ),
    header: () => ({
      margin: [44, 20, 44, 0],
      columns: [
        { svg: calmLineSvg(line), width: 150 },
        ...(d.stationery.logo === null
          ? []
          : [
              {
                image: d.stationery.logo,
                fit: [110, 28] as [number, number],
                margin: [12, 0, 0, 0] as [number, number, number, number],
              },
            ]),
        {
          text: [
            { text: asWritten(d.document.tag), font: 'Mono', bold: true, fontSize: 14 },
            `   ${asWritten(d.document.service)}`,
          ],
          alignment: 'right',
        },
      ],
    }),
    footer: (page, pages) => ({
      margin: [44, 14, 44, 0],
      fontSize: 7.5,
      columns: [
        { text: asWritten(`${d.document.tag} · ${d.stands ?? `run ${d.runId}`}`), font: 'Mono' },
        { text: `page ${page} of ${pages}`, alignment: 'right' },
      ],
    }),
    content,
  })
