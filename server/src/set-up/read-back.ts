import type { Person } from '@calm/contract/people'
import type { KeepReadBack, SettingsReadBack } from '@calm/contract/read-back'
import { factsOf } from '@calm/core/loop/facts'
import { compareReadBack } from '@calm/core/loop/read-back'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import { settingsReadBack } from '@calm/core/record/kinds/settings-read-back'
import type { Database } from '../db/connection.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { loopDetail } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'

/** Compares what a device shows with the sheet of the saved revision, and keeps it in the record. */
export async function keepReadBack(
  db: Database,
  loopId: string,
  { id, at, revision, lines }: KeepReadBack,
  person: Person,
  now: Date,
): Promise<SettingsReadBack> {
  const loop = await loopDetail(db, loopId)
  if (loop.revision !== revision)
    throw conflict(
      `The sheet was of revision ${revision}, and the loop has ${loop.revision} now. Reload the page and compare again.`,
    )
  const sheet = judgeSetUp(factsOf(loop.document))?.sheet ?? []
  if (sheet.length === 0) throw conflict('Nothing is set up on this loop yet.')
  const payload: SettingsReadBack = {
    revision,
    lines: lines.map(({ says, read }, i) => {
      const line = sheet.find((l) => l.says === says)
      if (!line)
        throw new HttpProblem('wrong-values', 'Some values cannot be used.', [
          { path: `lines.${i}.says`, says: 'The saved sheet has no such line. Reload the page.' },
        ])
      return { says, value: line.value, read, same: compareReadBack(line, read) === 'same' }
    }),
    left: sheet.filter((l) => !lines.some((x) => x.says === l.says)).length,
  }
  await appendOnce(db, loopId, { id, at, type: settingsReadBack.type, payload }, person, now)
  return payload
}
