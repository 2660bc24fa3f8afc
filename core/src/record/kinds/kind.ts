import type { z } from 'zod'

/** What an event belongs to: a run of either kind, or the loop itself. */
export type BelongsTo = 'verification' | 'procedure' | 'loop'

/**
 * One kind of event: what it must hold, what it is called, and one sentence that tells it. What it does to a run stands
 * apart, in `run-changes.ts` and in the engine of procedures: a page folds a run at once and needs no schema for it.
 */
export interface Kind<T extends string = string, P extends z.ZodType = z.ZodType> {
  readonly type: T
  readonly of: BelongsTo
  readonly payload: P
  readonly title: string
  /** One sentence for who reads the record later. */
  readonly says: (payload: z.output<P>) => string
}

export type PayloadOf<K> = K extends Kind<string, infer P> ? z.output<P> : never

/** Ties a kind's schema to its sentence. */
export const defineKind = <T extends string, P extends z.ZodType>(kind: Kind<T, P>): Kind<T, P> => kind
