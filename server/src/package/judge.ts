import type { LoopPackage } from '@calm/contract/loop-package'
import { wrongInEvent } from '@calm/core/record/kinds/wrong-in-event'
import { unstorableIn } from '@calm/core/record/storable'
import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import { LoopDocument } from '@calm/core/loop/document'
import { eventTimeProblem } from '@calm/core/record/event-time'
import { applyEvent, type AnyRun } from '../record/fold.ts'

export interface Misfit {
  readonly path: string
  readonly says: string
}

/** The first thing that stands twice in a list. */
function twice(list: readonly { readonly id: string }[], path: string, what: string): Misfit | null {
  const seen = new Set<string>()
  for (const [i, { id }] of list.entries()) {
    if (seen.has(id)) return { path: `${path}.${i}.id`, says: `This ${what} is in the package twice.` }
    seen.add(id)
  }
  return null
}

/** Each document is one of ours, and its revision is what the record says of it. */
function judgeRevisions({ loop, revisions, events }: LoopPackage): Misfit | null {
  for (const [i, r] of revisions.entries()) {
    const path = `revisions.${i}`
    if (r.number !== i + 1)
      return { path: `${path}.number`, says: `Revision ${i + 1} is missing or out of its place.` }
    const told = events.find(
      (e) => e.type === 'revision.saved' && (e.payload as { number?: unknown }).number === r.number,
    )
    if (!told) return { path, says: `Revision ${r.number} stands in no event of the record.` }
    if (
      told.by !== r.by ||
      Date.parse(told.at) !== Date.parse(r.at) ||
      (told.payload as { reason: string }).reason !== r.reason
    )
      return {
        path,
        says: `Who saved revision ${r.number}, when and why is not what event ${told.seq} recorded.`,
      }
    const parsed = documentOf(r.document)
    if ('says' in parsed) return { path: `${path}.document${parsed.path}`, says: parsed.says }
    if (i === revisions.length - 1 && parsed.document.tag !== loop.tag)
      return {
        path: 'loop.tag',
        says: `The package says ${loop.tag}, its newest document ${parsed.document.tag}.`,
      }
  }
  return null
}

function documentOf(saved: unknown): { document: LoopDocument } | { path: string; says: string } {
  const unstorable = unstorableIn(saved)
  if (unstorable) return { path: `.${unstorable.path}`, says: unstorable.says }
  if (typeof (saved as SavedLoopDocument).version !== 'number')
    return { path: '.version', says: 'This is not a loop document of any version.' }
  try {
    const parsed = LoopDocument.safeParse(currentLoopDocument(saved as SavedLoopDocument))
    if (parsed.success) return { document: parsed.data }
    const [issue] = parsed.error.issues
    return { path: issue ? `.${issue.path.join('.')}` : '', says: issue?.message ?? '' }
  } catch {
    // An upgrade met something that no version ever saved.
    return { path: '', says: 'This is not a loop document of any version.' }
  }
}

/** Each event is of a kind that is known here, holds what that kind holds, and lies in a time that can be. */
function judgeEvents({ events, people }: LoopPackage, now: string): Misfit | null {
  const known = new Set(people.map((p) => p.id))
  for (const [i, e] of events.entries()) {
    const path = `events.${i}`
    const wrong = wrongInEvent(e.type, e.runId, e.payload)
    if (wrong) return { path: `${path}.${wrong.path}`, says: wrong.says }
    if (!known.has(e.by))
      return { path: 'people', says: `Nobody in the package is the one who did event ${e.seq}.` }
    const recordedAt = e.recordedAt ?? e.at
    if (e.form === 2 && e.recordedAt === undefined)
      return { path: `${path}.recordedAt`, says: `Event ${e.seq} does not tell when it was recorded.` }
    const time =
      eventTimeProblem({ at: e.at, recordedAt }) ??
      (recordedAt > now ? eventTimeProblem({ at: recordedAt, recordedAt: now }) : null)
    if (time) return { path: `${path}.at`, says: time }
  }
  return null
}

/** Each run is begun, goes on and ends as its events tell, and is listed as what they tell. */
function judgeRuns({ runs, events, revisions }: LoopPackage): Misfit | null {
  const folded = new Map<string, AnyRun | null>(runs.map((r) => [r.id, null]))
  for (const [i, e] of events.entries()) {
    if (e.runId === null) continue
    const path = `events.${i}`
    const before = folded.get(e.runId)
    if (before === undefined)
      return {
        path: `${path}.runId`,
        says: `Event ${e.seq} belongs to a run that the package does not hold.`,
      }
    const next = applyEvent(before, e)
    if (next.kind === 'refused')
      return { path, says: `Event ${e.seq} (${e.type}) cannot have happened there: ${next.says}` }
    folded.set(e.runId, next.next)
  }
  for (const [i, r] of runs.entries()) {
    const any = folded.get(r.id)
    const path = `runs.${i}`
    if (!any) return { path, says: 'This run has no events.' }
    const { started, startedAt, startedBy } = any.run
    const procedure = any.kind === 'procedure' ? any.run.started.procedure : null
    if (
      r.kind !== any.kind ||
      r.procedure !== procedure ||
      r.revision !== started.revision ||
      r.startedBy !== startedBy ||
      Date.parse(r.startedAt) !== Date.parse(startedAt)
    )
      return { path, says: 'This run is not what its own events tell.' }
    if (r.revision > revisions.length)
      return { path: `${path}.revision`, says: `The package holds ${revisions.length} revisions.` }
  }
  return null
}

/**
 * What does not fit in a package whose chain is whole: anybody can make a whole chain of nonsense.
 * @param now - by the clock here: nothing in it happened later
 * @returns the first misfit with its place in `loop.json`, or null
 */
export function judgePackage(contents: LoopPackage, now: string): Misfit | null {
  const told = unstorableIn({ people: contents.people, equipment: contents.equipment, runs: contents.runs })
  return (
    told ??
    twice(contents.events, 'events', 'event') ??
    twice(contents.runs, 'runs', 'run') ??
    twice(contents.people, 'people', 'person') ??
    twice(contents.equipment, 'equipment', 'instrument') ??
    judgeEvents(contents, now) ??
    judgeRevisions(contents) ??
    judgeRuns(contents)
  )
}
