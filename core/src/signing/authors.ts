/** That a package brought the record up to an event, and who took it in here. The event itself stands in the chain. */
export interface Taken {
  /** The package's events are the first ones of the record, up to this number. */
  readonly events: number
  readonly by: string
  /** Names of the people in the package, as the package told them, by identifier. */
  readonly names: Readonly<Record<string, string>>
}

const FOREIGN = 'foreign:'

/**
 * Whether an event is somebody else's word, taken in with a package. Only what the taker did is the taker's own:
 * an identifier that a person here happens to have proves nothing in a file that anybody could have written.
 */
export const isForeign = (seq: number, by: string, taken: readonly Taken[]): boolean =>
  taken.some((t) => seq <= t.events && t.by !== by)

/** The author of an event that came with a package. */
export const foreignAuthor = (by: string): string => `${FOREIGN}${by}`

/** Whether an author came with a package. */
export const isForeignAuthor = (author: string): boolean => author.startsWith(FOREIGN)

/** Who did an event, so that a foreign person is never taken for the one here who has the same identifier. */
export const authorOf = (seq: number, by: string, taken: readonly Taken[]): string =>
  isForeign(seq, by, taken) ? foreignAuthor(by) : by

/** The identifier of an author, foreign or not. */
const bareId = (author: string): string => (isForeignAuthor(author) ? author.slice(FOREIGN.length) : author)

/** Whether two authors may be one person: who claims to be somebody is not a second person beside them. */
export const maybeSamePerson = (a: string, b: string): boolean => bareId(a) === bareId(b)

/** The name of an author; a foreign one is always shown as such. */
export function nameOfAuthor(
  author: string,
  here: ReadonlyMap<string, string>,
  taken: readonly Taken[],
): string {
  if (!isForeignAuthor(author)) return here.get(author) ?? 'somebody unknown here'
  const id = bareId(author)
  const told = taken.map((t) => t.names[id]).find((n) => n !== undefined)
  return `${told ?? 'somebody'} (foreign, by package)`
}
