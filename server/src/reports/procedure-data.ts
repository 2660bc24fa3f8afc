import { judgeRun, lastPhase } from '@calm/core/record/judge-run'
import type { LoopDocument } from '@calm/core/loop/document'
import { procedureOf } from '@calm/core/procedure/catalogue'
import { outcomeOf } from '@calm/core/procedure/closing'
import { overruledOf, RESULT_WORDS } from '@calm/core/procedure/outcome'
import type { Signature } from '@calm/core/signing/signature'
import { storyOf, type StoryLine } from '@calm/core/record/story'
import { VERDICT_WORDS } from '@calm/core/verify/verdict'
import type { Database } from '../db/connection.ts'
import { ableInstrumentsOn } from '../equipment/history.ts'
import { conflict } from '../http/problems.ts'
import { authorsOf } from '../record/authors.ts'
import { documentOf } from '../record/documents.ts'
import { eventsOfRun, tellEvents } from '../record/events.ts'
import { newestVerification, runOfRow, runRow } from '../record/runs.ts'
import { stationeryOf, type Stationery } from './stationery.ts'

/** Everything that is printed of a procedure: what it came to, each step with its readings, name and time. */
export interface ProcedureData {
  readonly runId: string
  readonly stationery: Stationery
  readonly document: LoopDocument
  readonly title: string
  readonly startedAt: string
  readonly startedBy: string
  readonly way: string
  readonly simulated: boolean
  readonly result: string
  readonly says: readonly string[]
  /** Gates that were passed over, each with who did it and why. */
  readonly against: readonly string[]
  readonly story: readonly StoryLine[]
  readonly equipment: Awaited<ReturnType<typeof ableInstrumentsOn>>
  readonly withoutInstrument: string | null
  /** Who stands for it, with their names. */
  readonly signatures: readonly (Signature & { readonly name: string })[]
  /** The verification it belongs to, in a sentence. */
  readonly verification: string
  readonly chain: { readonly seq: number; readonly hash: string }
}

const WAYS = {
  inService: 'in service: operators told, in manual, trips bypassed',
  commissioning: 'not in service yet',
  bench: 'on the bench',
} as const

export async function procedureData(db: Database, runId: string): Promise<ProcedureData> {
  const row = await runRow(db, runId)
  const any = await runOfRow(db, row)
  if (any?.kind !== 'procedure') throw conflict('This run has no events yet.')
  const { run } = any
  const { started } = run
  const authors = await authorsOf(db, row.loopId)
  const mine = await eventsOfRun(db, runId)
  const last = mine.at(-1)
  const outcome = outcomeOf(run)
  const verification = await newestVerification(db, row.loopId)
  const verified = verification
    ? judgeRun(
        verification,
        (await documentOf(db, row.loopId, verification.started.revision)).path,
        lastPhase(verification),
      )
    : null
  const wroteAt = row.adjustedAt?.toISOString()
  return {
    runId,
    stationery: await stationeryOf(db),
    document: await documentOf(db, row.loopId, started.revision),
    title: procedureOf(started.procedure)?.title ?? started.procedure,
    startedAt: run.startedAt,
    startedBy: authors.name(run.startedBy),
    way: `${WAYS[started.way ?? 'inService']}${started.notInServiceBy ? `, says ${started.notInServiceBy}` : ''}`,
    simulated: started.withDevice,
    result: outcome ? RESULT_WORDS[outcome.result] : 'under way',
    says: outcome?.says ?? [],
    against: overruledOf(run).map(
      (o) => `${o.step.title}: ${o.gates.join(', ')}. ${o.reason} (${authors.name(o.by)}, ${o.at})`,
    ),
    story: storyOf(await tellEvents(db, row.loopId, mine)),
    equipment: await ableInstrumentsOn(db, started.equipment, run.startedAt.slice(0, 10)),
    withoutInstrument: started.withoutInstrument ?? null,
    signatures: (run.signatures ?? []).map((s) => ({ ...s, name: authors.name(s.by) })),
    verification:
      verification && verified
        ? `Verification begun ${verification.startedAt.slice(0, 10)}: ${VERDICT_WORDS[verified.class]}.${wroteAt !== undefined && verification.startedAt < wroteAt ? ' It is older than this adjustment and says nothing of what stands there now.' : ''}`
        : 'The loop was not verified yet.',
    chain: { seq: last?.seq ?? 0, hash: last?.hash ?? '' },
  }
}
