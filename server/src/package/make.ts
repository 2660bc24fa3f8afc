import type { Paper } from '@calm/core/paper'
import type { LoopPackage } from '@calm/contract/loop-package'
import type { Database } from '../db/connection.ts'
import { certificateData, type CertificateData } from '../reports/certificate-data.ts'
import { contentsOf } from './contents.ts'

/** What a package is made of, as the database has it. */
export interface Parts {
  readonly contents: LoopPackage
  /** Of its verifications, what their papers print. */
  readonly verifications: readonly CertificateData[]
  readonly madeAt: string
}

/** Reads what a package is made of; it is packed in a thread of its own. */
export async function partsOfPackage(
  db: Database,
  loopId: string,
  madeAt: Date,
  paper: Paper,
): Promise<Parts> {
  const contents = await contentsOf(db, loopId)
  const verifications: CertificateData[] = []
  for (const run of contents.runs)
    if (run.kind === 'verification') verifications.push(await certificateData(db, run.id, paper))
  return { contents, verifications, madeAt: madeAt.toISOString() }
}
