/** A loop's document as some version of the program saved it. */
export type SavedLoopDocument = { readonly version: number } & Readonly<Record<string, unknown>>
