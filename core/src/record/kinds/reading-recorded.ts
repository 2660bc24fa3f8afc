import { z } from 'zod'
import { COLUMNS, Phase, PHASE_WORDS, RowIndex, Typed } from './reading-values.ts'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({
  phase: Phase,
  index: RowIndex,
  values: z.partialRecord(z.enum(COLUMNS), Typed),
})
const COLUMN_WORDS: Readonly<Record<(typeof COLUMNS)[number], string>> = {
  applied: 'applied',
  pv: 'transmitter',
  loopCurrent_mA: 'mA',
  controller: 'controller',
}

/** One row as it stands now. A row typed again is a new event; the earlier one stays in the record. */
export const readingRecorded = defineKind({
  type: 'reading.recorded',
  of: 'verification',
  payload: Payload,
  title: 'Reading',
  says: (p) =>
    `Point ${p.index + 1} ${PHASE_WORDS[p.phase]}: ${COLUMNS.flatMap((c) => {
      const v = p.values[c]
      return v ? [`${COLUMN_WORDS[c]} ${v.typed}`] : []
    }).join(', ')}.`,
})
