import { z } from 'zod'
import { refused } from '../../refused.ts'
import { COLUMNS, Phase, PHASE_WORDS, RowIndex } from './reading-values.ts'
import { defineRunKind, isSigned } from './verification-kind.ts'

const Payload = z.strictObject({
  phase: Phase,
  index: RowIndex,
  columns: z.array(z.enum(COLUMNS)).min(1).max(COLUMNS.length),
})

/** A value that looks like a slip was looked at again: it is what was read. Typing the row anew takes this back. */
export const readingConfirmed = defineRunKind({
  type: 'reading.confirmed',
  payload: Payload,
  title: 'Reading confirmed',
  says: (p) => `Point ${p.index + 1} ${PHASE_WORDS[p.phase]} was looked at again and confirmed.`,
  change: (run, { payload: { phase, index, columns } }) => {
    if (isSigned(run)) return refused('The record is signed: its readings stand as they are.')
    if (!run[phase][index]) return refused(`Point ${index + 1} has not been read.`)
    const all = [...new Set([...(run.confirmed[phase][index] ?? []), ...columns])]
    return { confirmed: { ...run.confirmed, [phase]: { ...run.confirmed[phase], [index]: all } } }
  },
})
