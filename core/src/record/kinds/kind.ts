import type { z } from 'zod'
import type { Refused } from '../../refused.ts'

/** What an event belongs to: a run of either kind, or the loop itself. */
export type BelongsTo = 'verification' | 'procedure' | 'loop'

/** One kind of event: what it must hold, what it is called, and one sentence that tells it. */
export interface Kind<T extends string = string, P extends z.ZodType = z.ZodType> {
  readonly type: T
  readonly of: BelongsTo
  readonly payload: P
  readonly title: string
  /** One sentence for who reads the record later. */
  readonly says: (payload: z.output<P>) => string
}

export type PayloadOf<K> = K extends Kind<string, infer P> ? z.output<P> : never

/** An event of a kind with who did it and when, as far as folding needs it. */
export interface Happened<P> {
  readonly payload: P
  readonly by: string
  readonly at: string
}

/** A kind that takes a run from one state to the next, or says why it cannot come now. */
export interface FoldedKind<T extends string, P extends z.ZodType, R> extends Kind<T, P> {
  readonly fold: (
    run: R | null,
    e: Happened<z.output<P>>,
  ) => { readonly kind: 'run'; readonly run: R } | Refused
}

/** Ties a kind's schema to its sentence. */
export const defineKind = <T extends string, P extends z.ZodType>(kind: Kind<T, P>): Kind<T, P> => kind
