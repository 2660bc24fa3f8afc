import { sayInstantAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { pdfLibrary } from './fonts.ts'
import type { ProcedureData } from './procedure-data.ts'
import { signatureTable } from './signatures.ts'
import { facts, heading, instruments, mono, printed, recordEnd, rule } from './sheet-parts.ts'

const bold = (text: string): Content => ({ text, bold: true, margin: [0, 4, 0, 0] })

/** A procedure as it was done: what it came to first, then every step with its readings, name and time. */
export async function procedurePdf(data: ProcedureData): Promise<Buffer> {
  const { document: loop } = data
  const { dates } = data.stationery
  return pdfLibrary()
    .createPdf(
      printed(data, `${loop.tag} ${data.title}`, null, [
        { text: data.title, fontSize: 17, bold: true, margin: [0, 0, 0, 6] },
        ...(data.simulated
          ? [bold('SIMULATED: a stand-in was worked at. Nothing here was measured on a real device.')]
          : []),
        {
          columns: [
            facts([
              ['Loop', asWritten(`${loop.tag} (${loop.type})`)],
              ['Area', asWritten(loop.area)],
              ['Way', asWritten(data.way)],
            ]),
            facts([
              ['Begun', sayInstantAs(data.startedAt, dates)],
              ['By', asWritten(data.startedBy)],
            ]),
          ],
        },
        heading('What it came to'),
        { text: data.result, bold: true, fontSize: 12 },
        ...data.says.map((text): Content => ({ text })),
        { text: data.verification, margin: [0, 3, 0, 0] },
        ...(data.against.length > 0
          ? [heading('Done against a gate'), ...data.against.map((text) => bold(asWritten(text)))]
          : []),
        heading('Instruments'),
        instruments(data.equipment, dates),
        ...(data.withoutInstrument === null
          ? []
          : [bold(`Without an instrument that covers it: ${asWritten(data.withoutInstrument)}`)]),
        heading('Every step'),
        {
          layout: rule,
          fontSize: 8,
          table: {
            headerRows: 1,
            dontBreakRows: true,
            widths: [92, 70, 150, '*'],
            body: [
              ['When', 'Who', 'Step', 'What was read, typed, chosen'].map((text): TableCell => ({
                text,
                bold: true,
              })),
              ...data.story.map((s): TableCell[] => [
                mono(sayInstantAs(s.at, dates)),
                asWritten(s.by),
                s.title,
                // Readings stand as they were typed, beside what was noted.
                asWritten(s.says.map((line) => line.trim()).join('\n')),
              ]),
            ],
          },
        },
        heading('Signatures'),
        data.signatures.length === 0
          ? { text: 'Not signed.', bold: true }
          : signatureTable(
              data.signatures,
              (by) => data.signatures.find((s) => s.by === by)?.name ?? '',
              dates,
            ),
        ...recordEnd(data.chain),
      ]),
    )
    .getBuffer()
}
