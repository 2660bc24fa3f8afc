import type { LoopDocument } from '@calm/core/loop/document'
import { asWritten, type DecimalSign } from '@calm/core/quantity/decimal-sign'
import { printedUnit } from '@calm/core/quantity/units'
import { pocketCard, type PocketCard } from '@calm/core/scale/pocket-card'
import { STATION_NAMES } from '@calm/core/signal/station-names'
import type { TableCell } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { tagged } from './tagging.ts'

const unitOf = (unit: string) => (unit === 'counts' ? 'counts' : printedUnit(unit))

/** The pocket card as rows for CSV: the heading first. */
export function pocketCardRows(card: PocketCard): string[][] {
  return [
    ['% of range', ...card.columns.map((c) => `${STATION_NAMES[c.kind]}, ${unitOf(c.unit)}`)],
    ...card.rows.map((r) => [String(r.level_pct), ...r.cells]),
  ]
}

/** One small page, A6 across, to be taken to the field; black on white. */
export function pocketCardPdf(
  document: LoopDocument,
  revision: number,
  levels: readonly number[],
  sign: DecimalSign,
): Promise<Buffer> {
  const card = pocketCard(document.path, levels)
  const head = (text: string): TableCell => ({ text, bold: true, alignment: 'right', fontSize: 6.5 })
  return pdfLibrary()
    .createPdf(
      tagged(sign, {
        pageSize: 'A6',
        pageOrientation: 'landscape',
        pageMargins: [18, 18, 18, 26],
        defaultStyle: { font: 'Text', fontSize: 8 },
        info: { title: `Pocket card ${document.tag}` },
        footer: (page, pages) => ({
          text: `${asWritten(document.tag)}  revision ${revision}  page ${page} of ${pages}`,
          font: 'Mono',
          fontSize: 6.5,
          margin: [18, 6, 18, 0],
        }),
        content: [
          {
            columns: [
              { text: asWritten(document.tag), font: 'Mono', fontSize: 14, bold: true, width: 'auto' },
              { text: asWritten(`  ${document.service}`), fontSize: 9, margin: [4, 5, 0, 0] },
            ],
          },
          {
            margin: [0, 6, 0, 0],
            layout: {
              hLineWidth: () => 0.5,
              vLineWidth: () => 0,
              paddingLeft: () => 2,
              paddingRight: () => 2,
            },
            table: {
              headerRows: 1,
              widths: ['auto', ...card.columns.map(() => '*')],
              body: [
                [
                  head('of range'),
                  ...card.columns.map((c) => head(`${STATION_NAMES[c.kind]}\n${unitOf(c.unit)}`)),
                ],
                ...card.rows.map((r): TableCell[] => [
                  { text: `${r.level_pct} %`, font: 'Mono', fontSize: 7.5, alignment: 'right', bold: true },
                  ...r.cells.map((text): TableCell => ({
                    text,
                    font: 'Mono',
                    fontSize: 7.5,
                    alignment: 'right',
                  })),
                ]),
              ],
            },
          },
          {
            text: 'Computed from the ranges as configured. Expected values, not measured ones.',
            fontSize: 6.5,
            margin: [0, 5, 0, 0],
          },
        ],
      }),
    )
    .getBuffer()
}
