import { PAPERS, type Paper } from '@calm/core/paper'
import type { Wiring } from '@calm/core/part/wiring'
import { wiringSheet, type SheetHead } from '@calm/core/wire/sheet'
import type { Content } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { tagged } from './tagging.ts'

/** The wiring as a drawing on one sheet of paper, to be handed over. */
export function wiringPdf(wiring: Wiring, head: SheetHead, paper: Paper): Promise<Buffer> {
  return pdfLibrary()
    .createPdf(
      tagged({
        pageSize: paper === 'letter' ? 'LETTER' : 'A4',
        pageOrientation: 'landscape',
        pageMargins: 0,
        info: { title: `Wiring of ${head.tag}`, author: 'Calm Loop' },
        defaultStyle: { font: 'Text' },
        content: [
          {
            svg: wiringSheet(wiring, head, paper),
            width: PAPERS[paper].height,
            alt: `Wiring of ${head.tag}, ${head.service}`,
          } as Content,
        ],
      }),
    )
    .getBuffer()
}
