import { applyProcedureEvent } from '@calm/core/procedure/engine'
import { isProcedureType, type ProcedureEventBody } from '@calm/core/procedure/events'
import { keepProcedure, procedureFromKept, type KeptProcedure } from '@calm/core/procedure/kept'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { authorOf, type Taken } from '@calm/core/signing/authors'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { applyRunEvent, type Run } from '@calm/core/record/run'
import { refused, type Refused } from '@calm/core/refused'

/** A run of either kind, folded. */
export type AnyRun =
  | { readonly kind: 'verification'; readonly run: Run }
  | { readonly kind: 'procedure'; readonly run: ProcedureRun }
type Applied = { readonly kind: 'next'; readonly next: AnyRun } | Refused

export interface FoldedEvent {
  readonly type: string
  readonly payload: unknown
  readonly by: string
  readonly at: string
}

/** Next state of a run of either kind; a body of the other kind does not belong to it. */
export function applyEvent(before: AnyRun | null, { type, payload, by, at }: FoldedEvent): Applied {
  // Whatever stands in a record was checked against its kind on the way in.
  if (isProcedureType(type)) {
    if (before?.kind === 'verification') return refused('This run is a verification.')
    const told = applyProcedureEvent(before?.run ?? null, {
      body: { type, payload } as ProcedureEventBody,
      by,
      at,
    })
    return told.kind === 'run' ? { kind: 'next', next: { kind: 'procedure', run: told.run } } : told
  }
  if (before?.kind === 'procedure') return refused('This run is a procedure.')
  const told = applyRunEvent(before?.run ?? null, { body: { type, payload } as RunEventBody, by, at })
  return told.kind === 'run' ? { kind: 'next', next: { kind: 'verification', run: told.run } } : told
}

/**
 * A run from its events, or null. Authors that came with a package are foreign in it.
 * @throws Error when stored events contradict the rules: they were checked when stored
 */
export const foldEvents = (
  events: readonly (FoldedEvent & { readonly seq: number })[],
  taken: readonly Taken[],
): AnyRun | null =>
  events.reduce<AnyRun | null>((before, e) => {
    const told = applyEvent(before, { ...e, by: authorOf(e.seq, e.by, taken) })
    if (told.kind === 'refused') throw new Error(`stored event ${e.type}: ${told.says}`)
    return told.next
  }, null)

/** Raised whenever a fold comes to hold something else: what was kept in an older form is folded anew. */
const FORM = 3

/** A run beside its row: all of it, so that one more event needs no other. */
export type KeptFold =
  | { readonly form: number; readonly kind: 'verification'; readonly run: Run }
  | { readonly form: number; readonly kind: 'procedure'; readonly run: KeptProcedure }

export const keptFold = (any: AnyRun): KeptFold =>
  any.kind === 'verification'
    ? { form: FORM, kind: any.kind, run: any.run }
    : { form: FORM, kind: any.kind, run: keepProcedure(any.run) }

/** The run as it was kept; null where it has to be folded anew. */
export function fromKept(kept: KeptFold | null): AnyRun | null {
  if (kept?.form !== FORM) return null
  if (kept.kind === 'verification') return { kind: kept.kind, run: kept.run }
  const run = procedureFromKept(kept.run)
  return run && { kind: kept.kind, run }
}
