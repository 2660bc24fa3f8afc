/** A loop's document as some version of the program saved it. */
export type SavedLoopDocument = { readonly version: number } & Readonly<Record<string, unknown>>

export type Node = Readonly<Record<string, unknown>>
export const isNode = (x: unknown): x is Node => typeof x === 'object' && x !== null && !Array.isArray(x)
export const text = (x: unknown): string => (typeof x === 'string' ? x : '')
export const numberOr = (x: unknown, standard: number): number => (typeof x === 'number' ? x : standard)
