import { fieldName } from '../loop/field-names.ts'
import { leaves, withField } from '../loop/field-path.ts'
import { canonicalJson } from './canonical-json.ts'

export interface FieldChange {
  readonly path: string
  readonly name: string
  readonly before: unknown
  readonly after: unknown
}

const same = (a: unknown, b: unknown) => canonicalJson(a) === canonicalJson(b)
/** How a number was typed is kept with it, but is no change of its own. */
const isBookkeeping = (path: string) => path.startsWith('asTyped') || path === 'unconfirmed'

/** Which fields differ between two documents, by their names. */
export function differences(before: unknown, after: unknown): FieldChange[] {
  return leafChanges(before, after).filter((c) => !isBookkeeping(c.path))
}

export interface MergeConflict extends FieldChange {
  /** Both sides changed this field, and not to the same value. */
  readonly base: unknown
  readonly mine: unknown
  readonly theirs: unknown
}

export interface Merge<T> {
  /** Theirs with every field that only I changed; conflicts stand as theirs until chosen. */
  readonly merged: T
  readonly conflicts: readonly MergeConflict[]
  /** Fields taken from me. */
  readonly mine: readonly FieldChange[]
}

/** Joins two sets of changes made on the same base, field by field. */
export function mergeDocuments<T>(base: T, mine: T, theirs: T): Merge<T> {
  const myChanges = leafChanges(base, mine)
  const b = leaves(base)
  const m = leaves(mine)
  const t = leaves(theirs)
  let merged = theirs
  const conflicts: MergeConflict[] = []
  const taken: FieldChange[] = []
  for (const change of myChanges) {
    const theirValue = t.get(change.path)
    const theirsChanged = !same(b.get(change.path), theirValue)
    if (theirsChanged && !same(theirValue, change.after)) {
      if (!isBookkeeping(change.path))
        conflicts.push({ ...change, base: b.get(change.path), mine: m.get(change.path), theirs: theirValue })
      continue
    }
    merged = withField(merged, change.path, change.after)
    if (!isBookkeeping(change.path)) taken.push(change)
  }
  return { merged, conflicts, mine: taken }
}

/** Every changed leaf, bookkeeping included. */
function leafChanges(before: unknown, after: unknown): FieldChange[] {
  const a = leaves(before)
  const b = leaves(after)
  return [...new Set([...a.keys(), ...b.keys()])]
    .filter((path) => !same(a.get(path), b.get(path)))
    .map((path) => ({ path, name: fieldName(path), before: a.get(path), after: b.get(path) }))
}
