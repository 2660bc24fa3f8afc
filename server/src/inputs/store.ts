import { factsOf } from '@calm/core/loop/facts'
import type { InputVerification, InputVerified, LiveInput } from '@calm/contract/inputs'
import { inputVerified } from '@calm/core/record/kinds/input-verified'
import type { Person } from '@calm/contract/people'
import { edgesBetween, levelAt, type Cylinder } from '@calm/core/device/cylinder'
import { checkInput } from '@calm/core/verify/input-check'
import { inputVerdict, judgeForced, judgePoints } from '@calm/core/verify/input-verdict'
import type { Database, Executor } from '../db/connection.ts'
import { seedOf } from '../devices/seed.ts'
import { conflict } from '../http/problems.ts'
import { loopDetail, refreshSummary } from '../loops/store.ts'
import { appendOnce } from '../record/append-once.ts'

/** Zero of the cylinders' clock: every server on every day sees the same strokes. */
const ZERO_MS = Date.parse('2026-01-01T00:00:00.000Z')
const USUAL_CYCLE_S = 10

async function cylinderOf(db: Executor, loopId: string): Promise<Cylinder> {
  const { document } = await loopDetail(db, loopId)
  if (document.path.length > 0)
    throw conflict('This loop measures; its readings are verified, not its input.')
  return { seed: seedOf(loopId), ideal_s: factsOf(document).input?.cycle.ideal_s ?? USUAL_CYCLE_S }
}

/** The stand-in behind a discrete input, with its raw edges up to now. */
export async function liveInput(
  db: Executor,
  loopId: string,
  seconds: number,
  now: number,
): Promise<LiveInput> {
  const cylinder = await cylinderOf(db, loopId)
  const t_s = (now - ZERO_MS) / 1000
  const from_s = t_s - seconds
  return {
    zero: new Date(ZERO_MS).toISOString(),
    t_s,
    level: levelAt(cylinder, t_s),
    from_s,
    edges: edgesBetween(cylinder, from_s, t_s).map((e) => ({ ...e })),
  }
}

/** Judges what was looked at from the input itself and keeps it in the record. */
export async function verifyInput(
  db: Database,
  loopId: string,
  { id, at, ...looked }: InputVerification,
  person: Person,
  now = new Date(),
): Promise<InputVerified> {
  const cylinder = await cylinderOf(db, loopId)
  const { counted, forced, points } = looked
  const result = counted
    ? checkInput({ ...counted, edges: edgesBetween(cylinder, counted.from_s, counted.to_s) })
    : null
  const verdict = inputVerdict(
    result,
    forced && judgeForced(forced, forced.contact),
    points && judgePoints(points),
  )
  const payload: InputVerified = {
    ...looked,
    count: result?.count ?? null,
    passes: verdict.passes,
    says: [...verdict.says],
  }
  await appendOnce(db, loopId, { id, at, type: inputVerified.type, payload }, person, now)
  await db.transaction((tx) => refreshSummary(tx, loopId))
  return payload
}
