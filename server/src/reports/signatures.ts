import { sayInstantAs, type DatesAs } from '@calm/core/quantity/date-form'
import { asWritten } from '@calm/core/quantity/decimal-sign'
import type { Meaning } from '@calm/core/signing/meanings'
import type { Signature } from '@calm/core/signing/signature'
import type { Content, TableCell } from 'pdfmake/interfaces.js'
import { mono, rule } from './sheet-parts.ts'

/** What a signature stands for. */
const SIGNED_AS: Readonly<Record<Meaning, string>> = {
  performed: 'Performed by',
  reviewed: 'Reviewed by',
  approved: 'Approved by',
  witnessed: 'Witnessed by',
}
/** Before people had keys a reviewer reviewed. */
const signedAs = (s: Signature) =>
  SIGNED_AS[s.signature?.meaning ?? (s.as === 'technician' ? 'performed' : 'reviewed')]

/** Who signed, what it means, when, and in which words. */
export const signatureTable = (
  signatures: readonly Signature[],
  nameOf: (by: string) => string,
  dates: DatesAs,
): Content => ({
  layout: rule,
  table: {
    widths: [84, '*', 122, '*'],
    body: signatures.map((s): TableCell[] => [
      signedAs(s),
      { text: asWritten(nameOf(s.by)), bold: true },
      mono(sayInstantAs(s.at, dates)),
      asWritten(s.statement),
    ]),
  },
})
