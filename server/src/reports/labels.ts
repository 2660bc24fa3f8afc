import { asWritten } from '@calm/core/quantity/decimal-sign'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { pageSizeOf, type Stationery } from './stationery.ts'
import { tagged } from './tagging.ts'

/** Labels of tags: what stands on each, and where it leads when it is scanned. */
export interface LabelData {
  readonly stationery: Stationery
  readonly loops: readonly { readonly tag: string; readonly service: string; readonly address: string }[]
}

const COLUMNS = 3
/** Small enough for a nameplate's side, large enough for a phone at arm's length, points. */
const CODE = 78
const HEIGHT = 96

const label = (l: LabelData['loops'][number]): Content => ({
  columns: [
    { qr: l.address, fit: CODE, width: CODE + 6, margin: [2, 2, 0, 0] },
    {
      width: '*',
      stack: [
        { text: asWritten(l.tag), font: 'Mono', bold: true, fontSize: l.tag.length > 10 ? 10 : 13 },
        { text: asWritten(l.service), fontSize: 8 },
      ],
      margin: [4, 10, 2, 0],
    },
  ],
})

/** A sheet of labels to be cut, three in a row: a scanned one opens its loop. */
export function labelsPdf({ stationery, loops }: LabelData): Promise<Buffer> {
  const rows = Array.from({ length: Math.ceil(loops.length / COLUMNS) }, (_, i) =>
    Array.from({ length: COLUMNS }, (_, k): TableCell => {
      const l = loops[COLUMNS * i + k]
      return l ? label(l) : { text: '' }
    }),
  )
  return pdfLibrary()
    .createPdf(
      tagged(stationery.sign, {
        pageSize: pageSizeOf(stationery),
        pageMargins: [24, 24, 24, 24],
        defaultStyle: { font: 'Text', fontSize: 8 },
        info: { title: 'Labels of loops', author: 'Calm Loop' },
        content: [
          {
            layout: {
              hLineWidth: () => 0.3,
              vLineWidth: () => 0.3,
              hLineStyle: () => ({ dash: { length: 2, space: 3 } }),
              vLineStyle: () => ({ dash: { length: 2, space: 3 } }),
              paddingTop: () => 2,
              paddingBottom: () => 2,
            },
            table: {
              widths: Array.from({ length: COLUMNS }, () => '*'),
              heights: HEIGHT,
              dontBreakRows: true,
              body: rows,
            },
          },
        ],
      }),
    )
    .getBuffer()
}
