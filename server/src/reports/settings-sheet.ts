import type { PlantRules } from '@calm/contract/settings'
import { factsOf } from '@calm/core/loop/facts'
import type { LoopDocument } from '@calm/core/loop/document'
import { restsOn } from '@calm/core/loop/rests-on'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { inOrder, orderOf } from '@calm/core/loop/sheet-order'
import { doubtOf, sayDoubt, STORE, toldValue, typedFor } from '@calm/core/loop/sheet-told'
import { sayInstantAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { heading, mono, rule } from './sheet-parts.ts'
import { pageSizeOf, type Stationery } from './stationery.ts'
import { tagged } from './tagging.ts'

/** What a settings sheet is printed from: a saved loop, and the order in which the plant's devices ask. */
export interface SheetData {
  readonly document: LoopDocument
  readonly revision: number
  readonly revisedAt: string
  readonly revisedBy: string
  readonly order: PlantRules['sheetOrder']
  readonly stationery: Stationery
}

/** The values to be keyed in, in their order, with room for what was keyed and read back; null where a loop has none. */
export function settingsSheetPdf(d: SheetData): Promise<Buffer> | null {
  const facts = factsOf(d.document)
  const result = facts.setUpBegun && facts.family ? judgeSetUp(facts) : null
  if (!result || !facts.family || result.sheet.length === 0) return null
  const rests = restsOn(facts, result)
  const lines = inOrder(result.sheet, orderOf(d.order, facts.family.id, d.document.setUp?.device ?? ''))
  const stops = result.findings.filter((f) => f.severity === 'stop')
  const blank = (): TableCell => ({ text: '' })
  const row = (i: number): TableCell[][] => {
    const l = lines[i]
    if (!l) return []
    const doubt = doubtOf(rests, l)
    const says = sayDoubt(doubt)
    const typed = typedFor(l, d.document.asTyped)
    const begins = l.part !== undefined && l.part !== lines[i - 1]?.part
    return [
      ...(begins
        ? [
            [
              { text: l.part ?? '', bold: true, colSpan: 5, margin: [0, 5, 0, 0] } as TableCell,
              ...Array.from({ length: 4 }, blank),
            ],
          ]
        : []),
      [
        mono(String(i + 1)),
        { stack: [l.says, ...(l.trap ? [{ text: l.trap, fontSize: 7 }] : [])] },
        {
          stack: [
            mono(toldValue(l, doubt)),
            ...(typed ? [{ text: `typed ${asWritten(typed)}`, fontSize: 7 }] : []),
            ...(says ? [{ text: says, fontSize: 7, bold: true }] : []),
          ] as Content[],
        },
        blank(),
        blank(),
      ],
    ]
  }
  const { tag, service, area, setUp } = d.document
  const device = setUp?.device ?? ''
  return pdfLibrary()
    .createPdf(
      tagged(d.stationery.sign, {
        pageSize: pageSizeOf(d.stationery),
        pageMargins: [40, 44, 40, 44],
        defaultStyle: { font: 'Text', fontSize: 9, lineHeight: 1.1 },
        info: { title: `Settings sheet of ${tag}`, author: 'Calm Loop' },
        footer: (page, pages) => ({
          margin: [40, 12, 40, 0],
          fontSize: 7.5,
          columns: [
            {
              text: asWritten(
                `${tag} · revision ${d.revision}, ${sayInstantAs(d.revisedAt, d.stationery.dates)}, ${d.revisedBy}`,
              ),
              font: 'Mono',
              width: '*',
            },
            { text: `page ${page} of ${pages}`, width: 'auto' },
          ],
        }),
        content: [
          { text: `Settings sheet of ${asWritten(tag)}`, fontSize: 17, bold: true },
          {
            text: asWritten([service, area, device].filter((t) => t !== '').join(', ')),
            margin: [0, 0, 0, 6],
          },
          ...stops.map((f): Content => ({ text: `Stop: ${f.says}`, bold: true, margin: [0, 0, 0, 4] })),
          {
            // Room to write into, told apart from the value.
            layout: { ...rule, vLineWidth: (i) => (i === 3 || i === 4 ? 0.5 : 0) },
            table: {
              headerRows: 1,
              dontBreakRows: true,
              widths: [22, '*', 150, 68, 68],
              body: [
                ['Step', 'Setting', 'Value', 'Keyed in', 'Read back'].map((text): TableCell => ({
                  text,
                  bold: true,
                })),
                ...lines.flatMap((_, i) => row(i)),
                [mono(String(lines.length + 1)), { text: STORE, colSpan: 2 }, blank(), blank(), blank()],
              ],
            },
          },
          {
            text: 'Keyed in by: ____________________    Read back by: ____________________    Date: ____________',
            margin: [0, 12, 0, 0],
          },
          heading('To bring'),
          { ul: [...facts.family.needs.kit] },
          {
            text: 'Calm Loop advises. Local codes, permits, the device’s manual and licensed practice decide.',
            fontSize: 7.5,
            margin: [0, 8, 0, 0],
          },
        ],
      }),
    )
    .getBuffer()
}
