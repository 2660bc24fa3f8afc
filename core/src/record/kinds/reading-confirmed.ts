import { z } from 'zod'
import { COLUMNS, Phase, PHASE_WORDS, RowIndex } from './reading-values.ts'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({
  phase: Phase,
  index: RowIndex,
  columns: z.array(z.enum(COLUMNS)).min(1).max(COLUMNS.length),
})

/** A value that looks like a slip was looked at again: it is what was read. Typing the row anew takes this back. */
export const readingConfirmed = defineKind({
  type: 'reading.confirmed',
  of: 'verification',
  payload: Payload,
  title: 'Reading confirmed',
  says: (p) => `Point ${p.index + 1} ${PHASE_WORDS[p.phase]} was looked at again and confirmed.`,
})
