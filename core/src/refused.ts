/** One way to say no in the core: what is wrong, in a sentence, and which entry or step it is about. */
export interface Refused {
  readonly kind: 'refused'
  /** What is wrong and what is possible. */
  readonly says: string
  /** Name or path of the entry; empty where it is about the whole. */
  readonly where: string
  /** Stable, in capitals, for whoever reads it by machine; never part of the sentence. */
  readonly code: string
}

export const refused = (says: string, where = '', code = 'REFUSED'): Refused => ({
  kind: 'refused',
  says,
  where,
  code,
})

/** Whether a result is a refusal. */
export const isRefused = (x: unknown): x is Refused =>
  typeof x === 'object' && x !== null && 'kind' in x && x.kind === 'refused'
