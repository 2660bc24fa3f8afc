/** One way to say no in the core: what is wrong, in a sentence, and which entry or step it is about. */
export interface Refused {
  /** Stable, in capitals. */
  readonly code: string
  readonly says: string
  /** Name or path of the entry. */
  readonly where: string
}
