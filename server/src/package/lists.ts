import type { LoopPackage } from '@calm/contract/loop-package'

type Rows = readonly (readonly unknown[])[]

/** The lists in which a package says its revisions and events once more, for a spreadsheet. */
export function listsOf(contents: LoopPackage): Readonly<Record<'revisions.csv' | 'events.csv', Rows>> {
  const names = new Map(contents.people.map((p) => [p.id, p.shownName]))
  return {
    'revisions.csv': [
      ['number', 'at', 'by', 'reason'],
      ...contents.revisions.map((r) => [r.number, r.at, names.get(r.by) ?? '', r.reason]),
    ],
    'events.csv': [
      ['seq', 'at', 'by', 'type', 'run', 'hash'],
      ...contents.events.map((e) => [e.seq, e.at, names.get(e.by) ?? '', e.type, e.runId ?? '', e.hash]),
    ],
  }
}

/** How the files of a verification are called. */
export const nameOfRun = (startedAt: string, runId: string): string =>
  `${startedAt.slice(0, 10)}-${runId.slice(0, 8)}`
