import { isRefused, refused, type Refused } from '../refused.ts'
import type { Signature } from '../signing/signature.ts'
import type { PlanPoint } from '../verify/plan.ts'
import type { Column, Phase, Typed } from './kinds/reading-values.ts'
import type { RunStartedPayload } from './kinds/run-started.ts'
import type { RunEventBody } from './kinds/verification.ts'
import { begunRun, RUN_CHANGES } from './run-changes.ts'

export type RowValues = Partial<Record<Column, Typed | undefined>>

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
type Changes = (run: Run, e: { payload: unknown; by: string; at: string }) => Partial<Run> | Refused

/** Next state of a run after one event, or a sentence why the event cannot come now. */
export function applyRunEvent(run: Run | null, { body, by, at }: Happened): Folded {
  if (body.type === 'run.started')
    return run ? refused('This run has already begun.') : { kind: 'run', run: begunRun(body.payload, by, at) }
  if (!run) return refused('The run has not begun.')
  // The change of a body's type takes that body's payload: TypeScript cannot tell so for all of them at once.
  const next = (RUN_CHANGES[body.type] as Changes)(run, { payload: body.payload, by, at })
  return isRefused(next) ? next : { kind: 'run', run: { ...run, ...next } }
}
