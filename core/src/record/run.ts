import { refused, type Refused } from '../refused.ts'
import { namedPlan, type PlanPoint } from '../verify/plan.ts'
import { maybeSamePerson } from './authors.ts'
import type { Reading } from '../verify/reading-errors.ts'
import type { Column, Phase, RunEventBody, RunStartedPayload, Typed } from './run-events.ts'

export type RowValues = Partial<Record<Column, Typed | undefined>>

/** A signature with who gave it and when. */
export interface Signature {
  readonly as: 'technician' | 'reviewer'
  readonly by: string
  readonly at: string
  readonly statement: string
}

export type RunState = 'asFound' | 'adjust' | 'asLeft' | 'ready' | 'signed' | 'countersigned'

/** A verification as its events tell it. */
export interface Run {
  readonly started: RunStartedPayload
  readonly startedBy: string
  readonly startedAt: string
  readonly plan: readonly PlanPoint[]
  /** Instruments of this run, those named later last. */
  readonly equipment: readonly string[]
  readonly state: RunState
  readonly asFound: Readonly<Record<number, RowValues>>
  readonly asLeft: Readonly<Record<number, RowValues>>
  /** Columns of a row that somebody looked at again and confirmed. */
  readonly confirmed: Readonly<Record<Phase, Readonly<Record<number, readonly Column[]>>>>
  /** True when nothing was adjusted and as-left refers to as-found. */
  readonly leftAsFound: boolean
  readonly adjustments: readonly { readonly note: string; readonly by: string; readonly at: string }[]
  readonly signatures: readonly Signature[]
  readonly returned: readonly { readonly reason: string; readonly by: string; readonly at: string }[]
}

/** One event with who and when, as far as folding needs it. */
export interface Happened {
  readonly body: RunEventBody
  readonly by: string
  readonly at: string
}

export type Folded = { readonly kind: 'run'; readonly run: Run } | Refused

/** Next state of a run after one event, or a sentence why the event cannot come now. */
export function applyRunEvent(run: Run | null, { body, by, at }: Happened): Folded {
  const ok = (next: Partial<Run>): Folded =>
    run ? { kind: 'run', run: { ...run, ...next } } : refused('No run.')
  if (body.type === 'run.started') {
    if (run) return refused('This run has already begun.')
    return {
      kind: 'run',
      run: {
        started: body.payload,
        startedBy: by,
        startedAt: at,
        plan: namedPlan(body.payload.plan),
        equipment: body.payload.equipment,
        state: 'asFound',
        asFound: {},
        asLeft: {},
        confirmed: { asFound: {}, asLeft: {} },
        leftAsFound: false,
        adjustments: [],
        signatures: [],
        returned: [],
      },
    }
  }
  if (!run) return refused('The run has not begun.')
  switch (body.type) {
    case 'equipment.named':
      if (run.state === 'signed' || run.state === 'countersigned')
        return refused('The record is signed: its instruments stand as they are.')
      return ok({ equipment: [...new Set([...run.equipment, ...body.payload.equipment])] })
    case 'reading.recorded': {
      const { phase, index, values } = body.payload
      if (!run.plan.some((p) => p.index === index)) return refused(`The plan has no point ${index + 1}.`)
      if (phase === 'asFound' && run.state !== 'asFound')
        return refused('The as-found readings are closed and stay as they are.')
      if (phase === 'asLeft' && run.state !== 'adjust' && run.state !== 'asLeft')
        return refused(
          run.state === 'asFound'
            ? 'Close the as-found readings before taking as-left ones.'
            : 'The as-left readings are closed and stay as they are.',
        )
      return ok({
        [phase]: { ...run[phase], [index]: values },
        confirmed: { ...run.confirmed, [phase]: { ...run.confirmed[phase], [index]: [] } },
        ...(phase === 'asLeft' ? { state: 'asLeft' } : {}),
      })
    }
    case 'reading.confirmed': {
      const { phase, index, columns } = body.payload
      if (run.state === 'signed' || run.state === 'countersigned')
        return refused('The record is signed: its readings stand as they are.')
      if (!run[phase][index]) return refused(`Point ${index + 1} has not been read.`)
      const all = [...new Set([...(run.confirmed[phase][index] ?? []), ...columns])]
      return ok({ confirmed: { ...run.confirmed, [phase]: { ...run.confirmed[phase], [index]: all } } })
    }
    case 'phase.closed': {
      const { phase } = body.payload
      const open = phase === 'asFound' ? run.state === 'asFound' : run.state === 'asLeft'
      if (!open) return refused(`There is no open ${phase === 'asFound' ? 'as-found' : 'as-left'} to close.`)
      if (readings(run, phase).every((r) => r.applied === null))
        return refused('Nothing has been read yet. Type at least one applied value and what the loop read.')
      return ok({ state: phase === 'asFound' ? 'adjust' : 'ready' })
    }
    case 'left.asFound':
      if (run.state !== 'adjust') return refused('Only after as-found is closed and before as-left is taken.')
      if (run.adjustments.length > 0)
        return refused('Something was adjusted, so as-left has to be read; it cannot refer to as-found.')
      return ok({ state: 'ready', leftAsFound: true })
    case 'adjusted':
      if (run.state === 'asFound') return refused('Record and close as-found before anything is adjusted.')
      if (run.state !== 'adjust' && run.state !== 'asLeft') return refused('The record is closed.')
      return ok({ adjustments: [...run.adjustments, { note: body.payload.note, by, at }] })
    case 'signed': {
      const signature: Signature = { as: body.payload.as, by, at, statement: body.payload.statement }
      if (body.payload.as === 'technician') {
        if (run.state !== 'ready')
          return refused(
            run.signatures.length > 0
              ? 'This record is signed already. One technician signs; another person reviews it.'
              : 'Close as-left before signing, or say that nothing was adjusted.',
          )
        return ok({ state: 'signed', signatures: [...run.signatures, signature] })
      }
      if (run.state === 'countersigned') return refused('This record is signed and reviewed already.')
      if (run.state !== 'signed') return refused('A reviewer signs after the technician has signed.')
      if (run.signatures.some((s) => maybeSamePerson(s.by, by)))
        return refused('The record needs a second person: who signed it cannot review it.')
      return ok({ state: 'countersigned', signatures: [...run.signatures, signature] })
    }
    case 'returned':
      if (run.state !== 'signed')
        return refused('Only a signed record that is not yet reviewed can be returned.')
      if (run.signatures.some((s) => maybeSamePerson(s.by, by)))
        return refused('The record needs a second person: who signed it cannot review it.')
      // The technician's signature stood for readings that now may change: it is void, the event remains.
      return ok({
        state: run.leftAsFound ? 'adjust' : 'asLeft',
        leftAsFound: false,
        signatures: [],
        returned: [...run.returned, { reason: body.payload.reason, by, at }],
      })
  }
}

/** A run from all its events. @throws Error when stored events contradict the rules: they were checked when stored. */
export function foldRun(events: readonly Happened[]): Run | null {
  let run: Run | null = null
  for (const e of events) {
    const next = applyRunEvent(run, e)
    if (next.kind === 'refused') throw new Error(`stored event ${e.body.type}: ${next.says}`)
    run = next.run
  }
  return run
}

/** The readings of a phase as numbers, in the order of the plan. */
export function readings(run: Run, phase: Phase): Reading[] {
  const rows = phase === 'asLeft' && run.leftAsFound ? run.asFound : run[phase]
  return run.plan.map((p) => {
    const row = rows[p.index]
    return {
      index: p.index,
      direction: p.direction,
      applied: row?.applied?.value ?? null,
      pv: row?.pv?.value ?? null,
      loopCurrent_mA: row?.loopCurrent_mA?.value ?? null,
      controller: row?.controller?.value ?? null,
    }
  })
}
