import { unstorableIn, type Wrong } from '../storable.ts'
import { KINDS } from './index.ts'

/** Judges an event's contents by its kind: what comes in, what a package brings and what is read back alike. */
export function wrongInEvent(type: string, runId: string | null, payload: unknown): Wrong | null {
  const wrong = unstorableIn(payload, 'payload')
  if (wrong) return wrong
  const kind = KINDS.get(type)
  if (!kind) return { path: 'type', says: `Events of the kind “${type.slice(0, 60)}” are not known here.` }
  const alone = kind.of === 'loop'
  if (alone && runId !== null) return { path: 'runId', says: `An event “${type}” belongs to no run.` }
  const [issue] = kind.payload.safeParse(payload).error?.issues ?? []
  if (issue) return { path: ['payload', ...issue.path.map(String)].join('.'), says: issue.message }
  return alone || runId !== null ? null : { path: 'runId', says: `An event “${type}” belongs to a run.` }
}
