import type { LoopDocument } from '@calm/core/loop/document'
import { judgeRun } from '@calm/core/loop/summary'
import type { Run } from '@calm/core/record/run'
import type { Judgement } from '@calm/core/verify/verdict'
import type { Database } from '../db/connection.ts'
import { equipmentByIds } from '../equipment/store.ts'
import { conflict } from '../http/problems.ts'
import { documentOf } from '../loops/store.ts'
import { allPeople } from '../people/store.ts'
import { eventsOfLoop } from '../record/chain.ts'
import { runOf } from '../runs/fold.ts'
import { runRow } from '../runs/store.ts'

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
  readonly nameOf: (personId: string) => string
  /** The last event of this run and its hash: what a signature stands for. */
  readonly chain: { readonly seq: number; readonly hash: string }
}

export async function certificateData(db: Database, runId: string): Promise<CertificateData> {
  const row = await runRow(db, runId)
  const run = await runOf(db, runId)
  if (!run) throw conflict('This run has no events yet.')
  const document = await documentOf(db, row.loopId, run.started.revision)
  const names = new Map((await allPeople(db)).map((p) => [p.id, p.shownName]))
  const last = (await eventsOfLoop(db, row.loopId)).findLast((e) => e.runId === runId)
  const hasLeft = run.leftAsFound || Object.keys(run.asLeft).length > 0
  return {
    runId,
    run,
    document,
    asFound: judgeRun(run, document.path, 'asFound'),
    asLeft: hasLeft ? judgeRun(run, document.path, 'asLeft') : null,
    equipment: await equipmentByIds(db, run.started.equipment),
    nameOf: (id) => names.get(id) ?? 'unknown',
    chain: { seq: last?.seq ?? 0, hash: last?.hash ?? '' },
  }
}
