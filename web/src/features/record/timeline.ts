import { RESULT_WORDS, type Result } from '@calm/core/procedure/outcome'
import type { RunInfo, StoredEvent } from '@calm/contract/events'
import type { Revision } from '@calm/contract/loops'
import { procedureOf } from '@calm/core/procedure/catalogue'
import { procedureSigned } from '@calm/core/record/kinds/procedure-signed'
import { sayEvent } from '@calm/core/record/kinds/index'
import { noteKept } from '@calm/core/record/kinds/note-kept'
import { picturesOfEvent } from '@calm/core/record/kinds/pictures'
import { revisionSaved } from '@calm/core/record/kinds/revision-saved'
import { sayChanges, type ChangeGroup } from '@calm/core/record/said-changes'
import { storyOf, type StoryLine } from '@calm/core/record/story'

export type EntryKind = 'revision' | 'verification' | 'procedure' | 'note' | 'other'
export interface Entry {
  readonly id: string
  readonly kind: EntryKind
  readonly at: string
  readonly by: string
  readonly title: string
  readonly revision?: {
    readonly number: number
    readonly reason: string
    readonly changes: readonly ChangeGroup[]
    readonly document: Revision['document']
  }
  readonly run?: RunInfo & { readonly last: string }
  /** A run from its first event to its last, in words. */
  readonly story?: readonly StoryLine[]
  readonly says?: readonly string[]
  /** Pictures of a note, by their SHA-256. */
  readonly pictures?: readonly string[]
  /** What must be seen of it: it came with a package, or out of the order of times. */
  readonly marks?: readonly string[]
}

/** Where a run stands, in words. */
const STATE_WORDS: Readonly<Record<string, string>> = {
  asFound: 'as found being read',
  adjust: 'as found closed',
  asLeft: 'as left being read',
  ready: 'waits for the signature',
  signed: 'signed, waits for the reviewer',
  countersigned: 'signed and countersigned',
  running: 'under way',
  aborting: 'being stopped',
  done: 'done',
  aborted: 'stopped before its end',
  outOfService: 'left out of service',
  handedOver: 'went on by another procedure',
}
/** What a run came to, in words; of a procedure what was read after its last write. */
export const endWords = (run: Pick<RunInfo, 'kind' | 'state' | 'verdict'>): string =>
  (run.kind === 'procedure' && run.verdict !== null
    ? RESULT_WORDS[run.verdict as Result]
    : STATE_WORDS[run.state]) ?? run.state

const noteOf = (e: StoredEvent) =>
  e.type === noteKept.type ? (noteKept.payload.safeParse(e.payload).data ?? null) : null
const picturesOf = (e: StoredEvent): string[] => picturesOfEvent(e).map((p) => p.sha256)
/** Which work a note belongs to, in words; nothing where it belongs to the loop. */
function belongsTo(e: StoredEvent, runs: readonly RunInfo[]): string[] {
  const run = runs.find((r) => r.id === noteOf(e)?.run)
  if (!run) return []
  const what = run.kind === 'verification' ? 'verification' : 'procedure'
  return [`On the ${what} of ${run.startedAt.slice(0, 10)}.`]
}

/** A loop's record as one list, newest first: its revisions with what they changed, its runs, and what belongs to neither. */
export function timeline(
  revisions: readonly Revision[],
  runs: readonly RunInfo[],
  events: readonly StoredEvent[],
): Entry[] {
  const ofRevisions = revisions.map((r): Entry => {
    const before = revisions.find((x) => x.number === r.number - 1)
    return {
      id: `revision-${r.number}`,
      kind: 'revision',
      at: r.at,
      by: r.by,
      title: `Revision ${r.number}`,
      revision: {
        number: r.number,
        reason: r.reason,
        changes: before ? sayChanges(before.document, r.document) : [],
        document: r.document,
      },
    }
  })
  const ofRuns = runs.map((run): Entry => {
    const mine = events.filter((e) => e.runId === run.id)
    // It may be signed days after it ended.
    const last = mine.findLast((e) => e.type !== procedureSigned.type)
    const late = mine.filter((e) => e.outOfOrder).length
    return {
      id: run.id,
      kind: run.kind,
      story: storyOf(mine),
      at: run.startedAt,
      by: run.startedBy,
      title:
        run.kind === 'verification'
          ? 'Verification'
          : (procedureOf(run.procedure ?? '')?.title ?? 'Procedure'),
      run: { ...run, last: last?.at ?? run.startedAt },
      marks: [
        ...(run.foreign ? ['Foreign: it came with a package.'] : []),
        ...(late > 0 ? [`${late} recorded out of the order of their times.`] : []),
      ],
    }
  })
  // What belongs to no run is told by its kind; a revision is told above, with what it changed. What this version
  // cannot read is told as that: nothing of a record is passed over.
  const ofLoop = events
    .filter((e) => e.runId === null && e.type !== revisionSaved.type)
    .map((e): Entry => {
      const told = sayEvent(e.type, e.payload)
      const says = told?.says.split('\n') ?? ['This version does not know what this says.']
      return {
        id: e.id,
        kind: e.type === noteKept.type ? 'note' : 'other',
        at: e.at,
        by: e.byName,
        title: told?.title ?? 'Something newer',
        says: [...belongsTo(e, runs), ...says],
        pictures: picturesOf(e),
      }
    })
  return [...ofRevisions, ...ofRuns, ...ofLoop].sort((a, b) => b.at.localeCompare(a.at))
}

export interface Shown {
  readonly kind: EntryKind | 'all'
  /** A name as it stands in the record; null: everybody. */
  readonly by: string | null
}
/** What somebody asked to see of the record: an entry with the person in it anywhere counts. */
export const shownEntries = (all: readonly Entry[], shown: Shown): Entry[] =>
  all.filter(
    (e) =>
      (shown.kind === 'all' || e.kind === shown.kind) &&
      (shown.by === null || e.by === shown.by || (e.story ?? []).some((s) => s.by === shown.by)),
  )
/** Everybody who stands in the record, by name. */
export const peopleIn = (all: readonly Entry[]): string[] =>
  [...new Set(all.flatMap((e) => [e.by, ...(e.story ?? []).map((s) => s.by)]))].sort()
