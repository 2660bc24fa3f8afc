import { canonicalJson } from '@calm/core/record/canonical-json'
import type { SignedAround } from '@calm/core/record/signing/statement'
import { and, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { instrumentsOn } from '../equipment/history.ts'
import { notFound } from '../http/problems.ts'
import { contentsOf, instrumentsOfRun } from '../record/contents.ts'
import { sha256 } from '../record/digest.ts'
import type { AnyRun } from '../record/fold.ts'
import { loopRevisions } from '../record/schema.ts'

/** What stands around a run when it is signed: its document's hash, and its instruments as certified on its day. */
export async function signedAround(db: Executor, loopId: string, any: AnyRun): Promise<SignedAround> {
  const { started, startedAt } = any.run
  const [revision] = await db
    .select({ document: loopRevisions.document })
    .from(loopRevisions)
    .where(and(eq(loopRevisions.loopId, loopId), eq(loopRevisions.number, started.revision)))
  if (!revision) throw notFound('revision')
  const instruments = await instrumentsOn(db, instrumentsOfRun(any), startedAt.slice(0, 10))
  return { document: sha256(canonicalJson(revision.document)), instruments }
}

/** The hash of what is signed, as the server has it. */
export const signedNow = async (db: Executor, loopId: string, any: AnyRun): Promise<string> =>
  contentsOf(any, await signedAround(db, loopId, any))
