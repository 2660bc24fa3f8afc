// A thread of the pool: takes one piece of work at a time and answers it. Whoever started it ends it when it does not
// answer. Nothing here touches the database, and everything may be ended at any moment.
import { setPriority } from 'node:os'
import { parentPort } from 'node:worker_threads'
import { answer } from '@calm/core/calculation'
import { calculationNamed } from '@calm/core/catalogue'
import { calculate } from './calc/work.ts'
import { provePackage } from './package/prove.ts'
import { comparedStretch, laggedPart, pairedPart } from './logs/compared.ts'
import { judgedPart, judgedStretch } from './logs/judge.ts'
import { readLines } from './logs/read-piece.ts'
import { compareStretch, judgeOnePart, judgeStretch, lagOfPart, pairsOfPart, readPiece } from './logs/work.ts'
import { historyFile } from './devices/work.ts'
import { comparePaper, makePackageWork, provePackageWork } from './package/work.ts'
import {
  printCertificate,
  printLabels,
  printLog,
  printPocketCard,
  printProcedure,
  printSettingsSheet,
  printSurvey,
  printWiring,
} from './reports/work.ts'
import { solvedDay, weighedDay } from './today/solve.ts'
import { printDay, solveDay, weighDay } from './today/work.ts'
import type { Order, Work } from './work/work.ts'

type Does = (input: unknown, tell: (told: unknown) => void) => unknown
/** Ties a work to what does it: whoever orders it sends what it takes. */
const does = <In, Out, T>(
  work: Work<In, Out, T>,
  by: (input: In, tell: (told: T) => void) => Out | Promise<Out>,
): [string, Does] => [work.name, by as Does]

const DOES = new Map([
  does(calculate, ({ calculation, input }) => {
    const known = calculationNamed(calculation)
    if (!known) throw new RangeError(`no calculation ${calculation}`)
    return answer(known, input, () => performance.now())
  }),
  does(provePackageWork, ({ bytes, now }) => provePackage(bytes, now)),
  does(readPiece, readLines),
  does(judgeStretch, judgedStretch),
  does(judgeOnePart, judgedPart),
  does(compareStretch, comparedStretch),
  does(lagOfPart, laggedPart),
  does(pairsOfPart, pairedPart),
  does(solveDay, solvedDay),
  does(weighDay, weighedDay),
  // What prints is large: a thread that only calculates never loads it.
  does(comparePaper, async (print) => (await import('./package/papers.ts')).printsSame(print)),
  does(makePackageWork, async (parts, tell) => (await import('./package/pack.ts')).pack(parts, tell)),
  does(historyFile, async (from) => (await import('./devices/files.ts')).historyCsv(from)),
  does(printProcedure, async (data) => (await import('./reports/procedure-report.ts')).procedurePdf(data)),
  does(printCertificate, async (data) => (await import('./reports/certificate.ts')).certificatePdf(data)),
  does(printWiring, async ({ wiring, head, paper, sign }) =>
    (await import('./reports/wiring.ts')).wiringPdf(wiring, head, paper, sign),
  ),
  does(printSettingsSheet, async (data) =>
    (await import('./reports/settings-sheet.ts')).settingsSheetPdf(data),
  ),
  does(printLog, async (data) => (await import('./reports/log-report.ts')).logPdf(data)),
  does(printSurvey, async (data) => (await import('./reports/survey-report.ts')).surveyPdf(data)),
  does(printDay, async (data) => (await import('./reports/day-sheet.ts')).dayPdf(data)),
  does(printLabels, async (data) => (await import('./reports/labels.ts')).labelsPdf(data)),
  does(printPocketCard, async ({ document, revision, levels, sign }) =>
    (await import('./reports/pocket-card.ts')).pocketCardPdf(document, revision, levels, sign),
  ),
])

// Below the thread that answers everybody (on Linux a thread has a priority of its own).
const LOWER = 10
try {
  setPriority(0, LOWER)
} catch {
  // Not allowed here: it works as well, only less politely.
}
async function work({ name, input }: Order): Promise<void> {
  try {
    const by = DOES.get(name)
    if (!by) throw new RangeError(`no work ${name}`)
    parentPort?.postMessage({
      ok: true,
      result: await by(input, (tells) => parentPort?.postMessage({ tells })),
    })
  } catch (error) {
    parentPort?.postMessage({
      ok: false,
      says: error instanceof Error ? (error.stack ?? error.message) : String(error),
    })
  }
}
parentPort?.on('message', (order: Order) => void work(order))
parentPort?.postMessage({ ready: true })
