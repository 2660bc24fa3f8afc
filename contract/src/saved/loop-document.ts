import type { LoopDocument } from '@calm/core/loop/document'
import { toVersion3 } from './to-version-3.ts'
import { toVersion4 } from './to-version-4.ts'
import type { SavedLoopDocument } from './saved.ts'

export type { SavedLoopDocument } from './saved.ts'

/** One step a version: from this version to the next. A released step is never edited. */
export const LOOP_DOCUMENT_STEPS: Readonly<Record<number, (saved: SavedLoopDocument) => SavedLoopDocument>> =
  {
    // Version 2 knows what is wired to what, and what the device was told.
    1: (saved) => ({ ...saved, version: 2, wiring: null, setUp: null }),
    // Version 3 names the kind of meter by its id; names that came from devices are gone.
    2: toVersion3,
    3: toVersion4,
  }

/**
 * The document as this version of the program knows it. What is stored stays as it was saved: its hash
 * stands in the record.
 */
export function currentLoopDocument(saved: SavedLoopDocument): LoopDocument {
  let document = saved
  for (let step; (step = LOOP_DOCUMENT_STEPS[document.version]);) document = step(document)
  return document as unknown as LoopDocument
}
