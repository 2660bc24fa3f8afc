import type { StoredEvent } from '@calm/contract/events'
import { noteKept } from '@calm/core/record/kinds/note-kept'

/** A moment of a log that somebody marked, with what was said of it. */
export interface LogMark {
  readonly id: string
  readonly at: number
  readonly says: string
  readonly byName: string
}

/** Marks of a log out of the record of its loop, in the order of their moments. */
export const marksOf = (events: readonly StoredEvent[], log: string): LogMark[] =>
  events
    .flatMap((e): LogMark[] => {
      const told = e.type === noteKept.type ? noteKept.payload.safeParse(e.payload).data : undefined
      if (told?.mark?.log !== log) return []
      const says = told.text === '' ? 'A picture' : told.text
      return [{ id: e.id, at: told.mark.at, says, byName: e.byName }]
    })
    .sort((a, b) => a.at - b.at)
