import type { StoredEvent } from '@calm/contract/events'
import { noteKept } from '@calm/core/record/kinds/note-kept'
import type { Phase } from '@calm/core/record/kinds/reading-values'

/** A note at one reading, as it stands below it. */
export interface ReadingNote {
  readonly id: string
  readonly says: string
  readonly byName: string
  /** Hashes of its pictures. */
  readonly pictures: readonly string[]
}

/** Where a note of a reading says that it belongs: the words are kept with it, and are read in the record. */
export const placeOfReading = (phase: Phase, index: number): string =>
  `${phase === 'asFound' ? 'as found' : 'as left'}, point ${index + 1}`

/** Notes of a verification at the readings of a phase, by the point. */
export function notesAtReadings(
  events: readonly StoredEvent[],
  run: string,
  phase: Phase,
  points: readonly number[],
): Readonly<Record<number, readonly ReadingNote[]>> {
  const told = events.flatMap((e) => {
    const note = e.type === noteKept.type ? noteKept.payload.safeParse(e.payload).data : undefined
    return note?.run === run ? [{ e, note }] : []
  })
  return Object.fromEntries(
    points.map((index) => [
      index,
      told
        .filter(({ note }) => note.where === placeOfReading(phase, index))
        .map(({ e, note }) => ({
          id: e.id,
          says: note.text,
          byName: e.byName,
          pictures: note.pictures.map((p) => p.sha256),
        })),
    ]),
  )
}
