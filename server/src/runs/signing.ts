import { canonicalJson } from '@calm/core/record/canonical-json'
import type { Run } from '@calm/core/record/run'
import { contentsText, type SignedAround } from '@calm/core/record/signing/statement'
import { and, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { instrumentsOn } from '../equipment/history.ts'
import { notFound } from '../http/problems.ts'
import { sha256 } from '../record/digest.ts'
import { loopRevisions } from '../record/schema.ts'

/**
 * What stands around a verification when it is signed: its document's hash, and its instruments as they were certified
 * on its day.
 */
export async function signedAround(db: Executor, loopId: string, run: Run): Promise<SignedAround> {
  const [revision] = await db
    .select({ document: loopRevisions.document })
    .from(loopRevisions)
    .where(and(eq(loopRevisions.loopId, loopId), eq(loopRevisions.number, run.started.revision)))
  if (!revision) throw notFound('revision')
  const instruments = await instrumentsOn(db, run.equipment, run.startedAt.slice(0, 10))
  return { document: sha256(canonicalJson(revision.document)), instruments }
}

/** The hash of what is signed, as the server has it. */
export const signedNow = async (db: Executor, loopId: string, run: Run): Promise<string> =>
  sha256(contentsText(run, await signedAround(db, loopId, run)))
