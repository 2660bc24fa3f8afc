import { PAPERS, type Paper } from '@calm/core/paper'
import type { Wiring } from '@calm/core/part/wiring'
import type { SheetHead } from '@calm/core/wire/sheet'
import { asWritten, type DecimalSign } from '@calm/core/quantity/decimal-sign'
import type { Content } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import { tagged } from './tagging.ts'
import { wiringSvg } from './wiring-svg.ts'

/** The wiring as a drawing on one sheet of paper, to be handed over. */
export function wiringPdf(wiring: Wiring, head: SheetHead, paper: Paper, sign: DecimalSign): Promise<Buffer> {
  return pdfLibrary()
    .createPdf(
      tagged(sign, {
        pageSize: paper === 'letter' ? 'LETTER' : 'A4',
        pageOrientation: 'landscape',
        pageMargins: 0,
        info: { title: `Wiring of ${head.tag}`, author: 'Calm Loop' },
        defaultStyle: { font: 'Text' },
        content: [
          {
            svg: wiringSvg(wiring, head, paper, sign),
            width: PAPERS[paper].height,
            alt: `Wiring of ${asWritten(head.tag)}, ${asWritten(head.service)}`,
          } as Content,
        ],
      }),
    )
    .getBuffer()
}
