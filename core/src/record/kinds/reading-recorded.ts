import { z } from 'zod'
import { refused } from '../../refused.ts'
import { COLUMNS, Phase, PHASE_WORDS, RowIndex, Typed } from './reading-values.ts'
import { defineRunKind } from './verification-kind.ts'

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
export const readingRecorded = defineRunKind({
  type: 'reading.recorded',
  payload: Payload,
  title: 'Reading',
  says: (p) =>
    `Point ${p.index + 1} ${PHASE_WORDS[p.phase]}: ${COLUMNS.flatMap((c) => {
      const v = p.values[c]
      return v ? [`${COLUMN_WORDS[c]} ${v.typed}`] : []
    }).join(', ')}.`,
  change: (run, { payload: { phase, index, values } }) => {
    if (!run.plan.some((p) => p.index === index)) return refused(`The plan has no point ${index + 1}.`)
    if (phase === 'asFound' && run.state !== 'asFound')
      return refused('The as-found readings are closed and stay as they are.')
    if (phase === 'asLeft' && run.state !== 'adjust' && run.state !== 'asLeft')
      return refused(
        run.state === 'asFound'
          ? 'Close the as-found readings before taking as-left ones.'
          : 'The as-left readings are closed and stay as they are.',
      )
    return {
      [phase]: { ...run[phase], [index]: values },
      confirmed: { ...run.confirmed, [phase]: { ...run.confirmed[phase], [index]: [] } },
      ...(phase === 'asLeft' ? { state: 'asLeft' as const } : {}),
    }
  },
})
