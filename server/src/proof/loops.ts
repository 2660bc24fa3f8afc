import { authorOf } from '@calm/core/signing/authors'
import { canonicalJson } from '@calm/core/record/canonical-json'
import type { ChainedEvent } from '@calm/core/record/hash-chain'
import { revisionSaved } from '@calm/core/record/kinds/revision-saved'
import { signingIn } from '@calm/core/record/signing/signed-event'
import { asc, eq } from 'drizzle-orm'
import type { Transactional } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { refreshSummary } from '../loops/store.ts'
import { hashOfLog } from '../logs/samples.ts'
import { logKept } from '@calm/core/record/kinds/log-kept'
import { packageTaken } from '@calm/core/record/kinds/package-taken'
import { picturesIn, wholePictures } from '../notes/pictures.ts'
import { takenIn } from '../record/authors.ts'
import { newestDocument } from '../record/documents.ts'
import { eventsOfLoop } from '../record/events.ts'
import { applyEvent, type AnyRun } from '../record/fold.ts'
import { projectRun } from '../record/project.ts'
import { proveLoop } from '../record/prove.ts'
import { loopRevisions, loops, runs } from '../record/schema.ts'
import { mismatchesOf, type Mismatch } from './mismatch.ts'
import { wrongSignature, type Register } from './signatures.ts'

/** The whole of a loop, with what is done in it undone again. */
export interface ProvedLoop {
  readonly events: readonly ChainedEvent[]
  readonly foreign: number
  readonly signatures: number
  readonly mismatches: readonly Mismatch[]
}

type LoopRow = typeof loops.$inferSelect

/** Who saved each revision, when and why, is what its event says. */
async function provedRevisions(
  db: Transactional,
  row: LoopRow,
  all: readonly ChainedEvent[],
): Promise<Mismatch[]> {
  const kept = await db.select().from(loopRevisions).where(eq(loopRevisions.loopId, row.id))
  return all
    .filter((e) => e.type === revisionSaved.type)
    .flatMap((e) => {
      const { number, reason } = revisionSaved.payload.parse(e.payload)
      const r = kept.find((k) => k.number === number)
      if (!r) return []
      return mismatchesOf(
        `${row.tag}, revision ${number}`,
        { by: r.by, at: isoInstant(r.at), reason: r.reason },
        { by: e.by, at: e.at, reason },
      )
    })
}

/** Every picture that an event tells of is here, and is that picture. */
async function provedPictures(
  db: Transactional,
  row: LoopRow,
  all: readonly ChainedEvent[],
): Promise<Mismatch[]> {
  const whole = await wholePictures(db, picturesIn(all))
  return all.flatMap((e) =>
    picturesIn([e])
      .filter((p) => !whole.has(p.sha256))
      .map((p) => ({
        where: `${row.tag}, event ${e.seq}`,
        field: 'picture',
        says: `The picture ${p.sha256.slice(0, 16)} is gone, or was changed.`,
      })),
  )
}

/** The samples of every log that was read in here are those that its event tells of. */
async function provedLogs(
  db: Transactional,
  row: LoopRow,
  all: readonly ChainedEvent[],
): Promise<Mismatch[]> {
  const upTo = Math.max(0, ...row.taken.map((t) => t.events))
  // Only the last package brought them here; those before brought them elsewhere.
  const last = all.filter((e) => e.type === packageTaken.type).at(-1)
  const came = new Set(last ? (packageTaken.payload.parse(last.payload).logs ?? []) : [])
  const found: Mismatch[] = []
  for (const e of all) {
    const told = e.type === logKept.type ? logKept.payload.safeParse(e.payload).data : undefined
    if (!told || (await hashOfLog(db, told.log)) === told.sha256) continue
    // The samples of a large log stay behind when its loop goes elsewhere: its event tells of it.
    if (e.seq <= upTo && !came.has(told.log)) continue
    found.push({
      where: `${row.tag}, event ${e.seq}`,
      field: 'log',
      says: `The samples of the log “${told.title}” are gone, or were changed.`,
    })
  }
  return found
}

const shownOf = (r: LoopRow) => ({
  tag: r.tag,
  service: r.service,
  area: r.area,
  assignee: r.assignee,
  type: r.type,
  intervalMonths: r.intervalMonths,
  revision: r.revision,
  demo: r.demo,
  summary: r.summary,
  drift: r.drift,
  lastCalibrated: r.lastCalibrated,
  dueNow: r.dueNow,
  archivedAt: r.archivedAt && isoInstant(r.archivedAt),
})
type RunRow = typeof runs.$inferSelect
const runOf = (r: RunRow) => ({
  kind: r.kind,
  procedure: r.procedure,
  revision: r.revision,
  startedAt: isoInstant(r.startedAt),
  startedBy: r.startedBy,
  state: r.state,
  verdict: r.verdict,
  adjustedAt: r.adjustedAt && isoInstant(r.adjustedAt),
  errors: r.errors,
})

class Undo extends Error {}

/** The rows as they would be if they were told anew from the events: nothing of it stays. */
async function toldAnew(
  db: Transactional,
  loopId: string,
): Promise<{ loop: LoopRow; runs: RunRow[] } | Mismatch> {
  const told: { is: { loop: LoopRow; runs: RunRow[] } | null } = { is: null }
  try {
    await db.transaction(async (tx) => {
      const all = await tx.select({ id: runs.id }).from(runs).where(eq(runs.loopId, loopId))
      // Not from what was kept beside the row: that could have been changed with it.
      await tx
        .update(runs)
        .set({ folded: null, adjustedAt: null, verdict: null, errors: null })
        .where(eq(runs.loopId, loopId))
      for (const { id } of all) await projectRun(tx, loopId, id)
      await refreshSummary(tx, loopId)
      const [loop] = await tx.select().from(loops).where(eq(loops.id, loopId))
      const again = await tx.select().from(runs).where(eq(runs.loopId, loopId)).orderBy(asc(runs.id))
      if (loop) told.is = { loop, runs: again }
      throw new Undo()
    })
  } catch (error) {
    if (!(error instanceof Undo))
      return {
        where: '',
        field: null,
        says: `Its rows cannot be told from its events: ${error instanceof Error ? error.message.slice(0, 160) : 'unknown'}.`,
      }
  }
  return told.is ?? { where: '', field: null, says: 'It is gone.' }
}

/** Each run is folded from its events again; each signature is held against what stood there when it was made. */
function foldedRuns(
  row: LoopRow,
  all: readonly ChainedEvent[],
  documents: ReadonlyMap<number, string>,
  register: Register,
): {
  readonly runs: ReadonlyMap<string, AnyRun>
  readonly signatures: number
  readonly mismatches: Mismatch[]
} {
  const folded = new Map<string, AnyRun>()
  const mismatches: Mismatch[] = []
  const taken = takenIn(all)
  const ownFrom = Math.max(0, ...taken.map((t) => t.events))
  let signatures = 0
  for (const e of all) {
    if (e.runId === null) continue
    const before = folded.get(e.runId) ?? null
    const signing = before && e.seq > ownFrom ? signingIn(e) : null
    if (before && signing) {
      signatures++
      const document = documents.get(before.run.started.revision) ?? ''
      const wrong =
        signing.signature && wrongSignature(e, signing.signature, row.tag, before, document, register)
      if (wrong) mismatches.push(wrong)
    }
    const next = applyEvent(before, { ...e, by: authorOf(e.seq, e.by, taken) })
    if (next.kind === 'refused')
      mismatches.push({
        where: `${row.tag}, event ${e.seq}`,
        field: null,
        says: `It cannot have happened there: ${next.says}`,
      })
    else folded.set(e.runId, next.next)
  }
  return { runs: folded, signatures, mismatches }
}

/**
 * Proves a loop: its chain from the first event, every row that follows from it told again and compared, and every
 * signature. What it does in the database to tell rows again is undone.
 * @param demo - whether the log tells that it came with the demo plant
 */
export async function provedLoop(
  db: Transactional,
  loopId: string,
  demo: boolean,
  register: Register,
): Promise<ProvedLoop> {
  const [row] = await db.select().from(loops).where(eq(loops.id, loopId))
  const all = await eventsOfLoop(db, loopId)
  if (!row) return { events: all, foreign: 0, signatures: 0, mismatches: [] }
  const proof = await proveLoop(db, loopId)
  if (proof.kind === 'broken') {
    const where = `${row.tag}, event ${proof.seq}`
    return { events: all, foreign: 0, signatures: 0, mismatches: [{ where, field: null, says: proof.says }] }
  }
  const mismatches = [
    ...(await provedRevisions(db, row, all)),
    ...(await provedPictures(db, row, all)),
    ...(await provedLogs(db, row, all)),
  ]
  const documents = new Map(
    all
      .filter((e) => e.type === revisionSaved.type)
      .map((e) => {
        const { number, documentHash } = revisionSaved.payload.parse(e.payload)
        return [number, documentHash]
      }),
  )
  const newest = Math.max(0, ...documents.keys())
  const told = await toldAnew(db, loopId)
  const folded = foldedRuns(row, all, documents, register)
  mismatches.push(...folded.mismatches)
  if ('says' in told) mismatches.push({ ...told, where: row.tag })
  else {
    const d = await newestDocument(db, loopId).catch(() => null)
    const shown = {
      ...shownOf(told.loop),
      ...(d && {
        tag: d.tag,
        service: d.service,
        area: d.area,
        assignee: d.assignee ?? '',
        type: d.type,
        intervalMonths: d.interval_months,
      }),
      revision: newest,
      demo,
    }
    mismatches.push(...mismatchesOf(row.tag, shownOf(row), shown))
    const here = await db.select().from(runs).where(eq(runs.loopId, loopId)).orderBy(asc(runs.id))
    for (const r of here) {
      const where = `${row.tag}, run of ${isoInstant(r.startedAt).slice(0, 10)}`
      const any = folded.runs.get(r.id)
      if (!any) {
        mismatches.push({ where, field: null, says: 'No event of the record begins it.' })
        continue
      }
      const again = told.runs.find((t) => t.id === r.id) ?? r
      const { started, startedAt } = any.run
      const began = all.find((e) => e.runId === r.id)
      const anew = {
        ...runOf(again),
        kind: any.kind,
        procedure: any.kind === 'procedure' ? any.run.started.procedure : null,
        revision: started.revision,
        startedAt,
        startedBy: began?.by ?? '',
      }
      mismatches.push(...mismatchesOf(where, runOf(r), anew))
      if (r.folded && again.folded && canonicalJson(r.folded) !== canonicalJson(again.folded))
        mismatches.push({
          where,
          field: 'folded',
          says: 'What is kept of its readings is not what its events tell.',
        })
    }
  }
  return { events: all, foreign: proof.foreign, signatures: folded.signatures, mismatches }
}
