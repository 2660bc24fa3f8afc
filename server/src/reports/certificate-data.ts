import type { ProofOfEvent } from '@calm/contract/plant-log'
import type { LoopDocument } from '@calm/core/loop/document'
import { judgeRun } from '@calm/core/record/judge-run'
import { isOutOfOrder } from '@calm/core/record/event-time'
import type { Run } from '@calm/core/record/run'
import { signaturesAsked } from '@calm/core/record/signing/asked'
import { runDeviations, type RunDeviation } from '@calm/core/record/run-deviations'
import type { Judgement } from '@calm/core/verify/verdict'
import { overallOf, type Overall } from '@calm/core/record/overall'
import { plantRules } from '../settings/store.ts'
import type { Database } from '../db/connection.ts'
import { ableInstrumentsOn } from '../equipment/history.ts'
import { conflict } from '../http/problems.ts'
import { proofOfEvent } from '../plant-log/proof-of-event.ts'
import { authorsOf } from '../record/authors.ts'
import { documentOf } from '../record/documents.ts'
import { eventsOfRun } from '../record/events.ts'
import { runOfRow, runRow } from '../record/runs.ts'
import { stationeryOf, type Stationery } from './stationery.ts'

/** Everything that is printed of a verification, from one place for PDF and CSV. */
export interface CertificateData {
  readonly runId: string
  readonly run: Run
  readonly document: LoopDocument
  readonly asFound: Judgement | null
  readonly asLeft: Judgement | null
  readonly equipment: readonly {
    readonly name: string
    readonly serial: string
    readonly uncertainty: string
    readonly certificate: string
    readonly certifiedOn: string
    readonly dueOn: string
  }[]
  /** What all of it comes to. */
  readonly overall: Overall
  readonly stationery: Stationery
  /** How many signatures the plant asks for on this kind of meter. */
  readonly signaturesAsked: number
  /** Where it was judged by something else than the recorded loop and the register. */
  readonly deviations: readonly RunDeviation[]
  /** Names of the authors that the run keeps; a foreign one is shown as such. */
  readonly names: Readonly<Record<string, string>>
  /** Some of it came with a package. */
  readonly foreign: boolean
  /** How many of its events happened before the event recorded before them. */
  readonly outOfOrder: number
  /** When the server heard of its beginning, where that was a day later or more; null otherwise. */
  readonly recordedLate: string | null
  /** The last event of this run and its hash: what a signature stands for. */
  readonly chain: { readonly seq: number; readonly hash: string }
  /** When it was printed, where that is told: the same paper twice is the same to the byte. */
  readonly printedAt?: string
  /** Where that event stands in the plant's record; null where it waits to be sealed still. */
  readonly proof: ProofOfEvent | null
}

/** Work that waits for a network is recorded within the day; more has to be seen. */
const LATE_MS = 86_400_000
/** When the server heard of the beginning of a run, where that was late; null otherwise. */
export function lateSince(
  e: { readonly at: string; readonly recordedAt?: string | undefined } | undefined,
): string | null {
  const recordedAt = e?.recordedAt ?? e?.at
  return e && recordedAt !== undefined && Date.parse(recordedAt) - Date.parse(e.at) > LATE_MS
    ? recordedAt
    : null
}

export async function certificateData(db: Database, runId: string): Promise<CertificateData> {
  const row = await runRow(db, runId)
  const any = await runOfRow(db, row)
  const run = any?.kind === 'verification' ? any.run : null
  if (!run) throw conflict('This run has no events yet.')
  const document = await documentOf(db, row.loopId, run.started.revision)
  const authors = await authorsOf(db, row.loopId)
  const mine = await eventsOfRun(db, runId)
  const last = mine.at(-1)
  const hasLeft = run.leftAsFound || Object.keys(run.asLeft).length > 0
  const asFound = judgeRun(run, document.path, 'asFound')
  const asLeft = hasLeft ? judgeRun(run, document.path, 'asLeft') : null
  const equipment = await ableInstrumentsOn(db, run.equipment, run.startedAt.slice(0, 10))
  return {
    runId,
    run,
    document,
    asFound,
    asLeft,
    overall: overallOf(run, document, asFound, asLeft),
    stationery: await stationeryOf(db),
    signaturesAsked: signaturesAsked(await plantRules(db), document.family),
    equipment,
    deviations: runDeviations(
      run.started,
      document,
      equipment.filter((e) => run.started.equipment.includes(e.id)),
    ),
    names: Object.fromEntries(
      [run.startedBy, ...run.adjustments.map((a) => a.by), ...run.signatures.map((s) => s.by)].map((by) => [
        by,
        authors.name(by),
      ]),
    ),
    foreign: mine.some((e) => authors.foreign(e.seq, e.by)),
    outOfOrder: mine.filter((e, i) => isOutOfOrder(e.at, mine[i - 1]?.at)).length,
    recordedLate: lateSince(mine[0]),
    chain: { seq: last?.seq ?? 0, hash: last?.hash ?? '' },
    proof: last ? await proofOfEvent(db, last.id) : null,
  }
}
