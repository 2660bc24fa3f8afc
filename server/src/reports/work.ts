import type { LoopDocument } from '@calm/core/loop/document'
import type { Paper } from '@calm/core/paper'
import type { Wiring } from '@calm/core/part/wiring'
import type { DecimalSign } from '@calm/core/quantity/decimal-sign'
import type { SheetHead } from '@calm/core/wire/sheet'
import type { Work } from '../work/work.ts'
import type { CertificateData } from './certificate-data.ts'
import type { LogReportData } from './log-report.ts'
import type { LabelData } from './labels.ts'
import type { SurveyReportData } from './survey-report.ts'
import type { SheetData } from './settings-sheet.ts'
import type { ProcedureData } from './procedure-data.ts'

const TIME_MS = 30_000
const MEMORY_MB = 256

/** A certificate as PDF. */
export const printCertificate: Work<CertificateData, Uint8Array> = {
  name: 'print-certificate',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}

/** A procedure as it was done, PDF. */
export const printProcedure: Work<ProcedureData, Uint8Array> = {
  name: 'print-procedure',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}

/** A wiring as a drawing, PDF. */
export const printWiring: Work<
  { readonly wiring: Wiring; readonly head: SheetHead; readonly paper: Paper; readonly sign: DecimalSign },
  Uint8Array
> = { name: 'print-wiring', time_ms: TIME_MS, memory_MB: MEMORY_MB }

/** A settings sheet as PDF; null where the loop has none. */
export const printSettingsSheet: Work<SheetData, Uint8Array | null> = {
  name: 'print-settings-sheet',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}

/** Labels of tags, PDF. */
export const printLabels: Work<LabelData, Uint8Array> = {
  name: 'print-labels',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}

/** A pocket card as PDF. */
export const printPocketCard: Work<
  {
    readonly document: LoopDocument
    readonly revision: number
    readonly levels: readonly number[]
    readonly sign: DecimalSign
  },
  Uint8Array
> = { name: 'print-pocket-card', time_ms: TIME_MS, memory_MB: MEMORY_MB }

/** A stretch of a log, PDF. */
export const printLog: Work<LogReportData, Uint8Array> = {
  name: 'print-log',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}

/** A survey with its sites, PDF. */
export const printSurvey: Work<SurveyReportData, Uint8Array> = {
  name: 'print-survey',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}
