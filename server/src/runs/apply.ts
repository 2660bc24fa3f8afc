import type { EventBody } from '@calm/contract/events'
import { applyProcedureEvent } from '@calm/core/procedure/engine'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { isProcedureType, type ProcedureEventBody } from '@calm/core/procedure/events'
import { applyRunEvent, type Run } from '@calm/core/record/run'
import { refused, type Refused } from '@calm/core/refused'
import type { RunEventBody } from '@calm/core/record/run-events'

/** A run of either kind, folded. */
export type AnyRun =
  | { readonly kind: 'verification'; readonly run: Run }
  | { readonly kind: 'procedure'; readonly run: ProcedureRun }
type Applied = { readonly kind: 'next'; readonly next: AnyRun } | Refused

/** Next state of a run of either kind; a body of the other kind does not belong to it. */
export function applyEvent(
  before: AnyRun | null,
  { body, by, at }: { readonly body: EventBody; readonly by: string; readonly at: string },
): Applied {
  if (isProcedureType(body.type)) {
    if (before?.kind === 'verification') return refused('This run is a verification.')
    const told = applyProcedureEvent(before?.run ?? null, { body: body as ProcedureEventBody, by, at })
    return told.kind === 'run' ? { kind: 'next', next: { kind: 'procedure', run: told.run } } : told
  }
  if (before?.kind === 'procedure') return refused('This run is a procedure.')
  const told = applyRunEvent(before?.run ?? null, { body: body as RunEventBody, by, at })
  return told.kind === 'run' ? { kind: 'next', next: { kind: 'verification', run: told.run } } : told
}
