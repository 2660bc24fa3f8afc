/** Something that is done off the main thread, by its name: what it takes and gives, and how much of a machine it may use. */
export interface Work<In, Out, Told = never> {
  readonly name: string
  readonly time_ms: number
  readonly memory_MB: number
  /** Types of what it takes and gives: nothing at run time. */
  readonly types?: { readonly takes: In; readonly gives: Out; readonly tells: Told }
}

/** One piece of work on its way to a thread. */
export interface Order {
  readonly name: string
  readonly input: unknown
}
