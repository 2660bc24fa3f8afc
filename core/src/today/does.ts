/**
 * What in its loop's record proves that a job is done. `visit`: the record asks for it no more, or a verification came to
 * a verdict; `verify`: a verification; else a procedure by its identifier. null: nothing does, somebody says it.
 */
export type Does = 'visit' | 'verify' | (string & {}) | null
export const VISIT = 'visit'
export const VERIFY = 'verify'
