import { refused, type Refused } from '../refused.ts'
import { pointsOf } from '../verify/plan.ts'
import { maybeSamePerson } from '../signing/authors.ts'
import { reviewProblem, withSignature } from '../signing/signature.ts'
import type { RunEventBody } from './kinds/verification.ts'
import { readings } from './readings.ts'
import type { Run } from './run.ts'

/** What a kind of event does to a verification: what is new of it, or why it cannot come now. */
type Change<T extends RunEventBody['type']> = (
  run: Run,
  e: {
    readonly payload: Extract<RunEventBody, { type: T }>['payload']
    readonly by: string
    readonly at: string
  },
) => Partial<Run> | Refused
/** A signed record stands as it is. */
const isSigned = (run: Run): boolean => run.state === 'signed' || run.state === 'countersigned'

/** A verification at its beginning. */
export const begunRun = (
  payload: Extract<RunEventBody, { type: 'run.started' }>['payload'],
  by: string,
  at: string,
): Run => ({
  started: payload,
  startedBy: by,
  startedAt: at,
  plan: pointsOf(payload.plan),
  equipment: payload.equipment,
  state: 'asFound',
  asFound: {},
  asLeft: {},
  confirmed: { asFound: {}, asLeft: {} },
  leftAsFound: false,
  adjustments: [],
  signatures: [],
  returned: [],
})

/**
 * What each kind does to a verification that has begun. It stands apart from the kinds' schemas: a page that shows a
 * run folds it at once, and needs no schema for it.
 */
export const RUN_CHANGES: {
  readonly [T in Exclude<RunEventBody['type'], 'run.started'>]: Change<T>
} = {
  'equipment.named': (run, { payload }) =>
    isSigned(run)
      ? refused('The record is signed: its instruments stand as they are.')
      : { equipment: [...new Set([...run.equipment, ...payload.equipment])] },
  'reading.recorded': (run, { payload: { phase, index, values } }) => {
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
  'reading.confirmed': (run, { payload: { phase, index, columns } }) => {
    if (isSigned(run)) return refused('The record is signed: its readings stand as they are.')
    if (!run[phase][index]) return refused(`Point ${index + 1} has not been read.`)
    const all = [...new Set([...(run.confirmed[phase][index] ?? []), ...columns])]
    return { confirmed: { ...run.confirmed, [phase]: { ...run.confirmed[phase], [index]: all } } }
  },
  'phase.closed': (run, { payload: { phase } }) => {
    const open = phase === 'asFound' ? run.state === 'asFound' : run.state === 'asLeft'
    if (!open) return refused(`There is no open ${phase === 'asFound' ? 'as-found' : 'as-left'} to close.`)
    if (readings(run, phase).every((r) => r.applied === null))
      return refused('Nothing has been read yet. Type at least one applied value and what the loop read.')
    return { state: phase === 'asFound' ? 'adjust' : 'ready' }
  },
  'left.asFound': (run) => {
    if (run.state !== 'adjust')
      return refused('This is possible only after as-found is closed and before as-left is taken.')
    if (run.adjustments.length > 0)
      return refused('Something was adjusted, so as-left has to be read; it cannot refer to as-found.')
    return { state: 'ready', leftAsFound: true }
  },
  adjusted: (run, { payload, by, at }) => {
    if (run.state === 'asFound') return refused('Record and close as-found before anything is adjusted.')
    if (run.state !== 'adjust' && run.state !== 'asLeft') return refused('The record is closed.')
    return { adjustments: [...run.adjustments, { note: payload.note, by, at }] }
  },
  signed: (run, { payload, by, at }) => {
    const signatures = withSignature(run.signatures, payload, by, at)
    if (payload.as === 'technician') {
      if (run.state === 'ready') return { state: 'signed', signatures }
      return refused(
        run.signatures.length > 0
          ? 'This record is signed already. One technician signs; another person reviews it.'
          : 'Close as-left before signing, or say that nothing was adjusted.',
      )
    }
    const says = reviewProblem(run.signatures, payload, by)
    return says === null ? { state: 'countersigned', signatures } : refused(says)
  },
  returned: (run, { payload, by, at }) => {
    if (run.state !== 'signed')
      return refused('Only a signed record that is not yet reviewed can be returned.')
    if (run.signatures.some((s) => maybeSamePerson(s.by, by)))
      return refused('The record needs a second person: who signed it cannot review it.')
    // The technician's signature stood for readings that now may change: it is void, the event remains.
    return {
      state: run.leftAsFound ? 'adjust' : 'asLeft',
      leftAsFound: false,
      signatures: [],
      returned: [...run.returned, { reason: payload.reason, by, at }],
    }
  },
}
