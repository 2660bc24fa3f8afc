import { fieldName } from '../loop/field-names.ts'
import { leaves } from '../loop/field-path.ts'
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
  /** Fields set where mine is chosen: one choice may carry others with it. */
  readonly takes: readonly { readonly path: string; readonly value: unknown }[]
}

export interface Merge<T> {
  /** Theirs with everything that only I changed; conflicts stand as theirs until chosen. */
  readonly merged: T
  readonly conflicts: readonly MergeConflict[]
  /** Fields taken from me. */
  readonly mine: readonly FieldChange[]
}

type Fields = Readonly<Record<string, unknown>>
const isFields = (x: unknown): x is Fields => typeof x === 'object' && x !== null && !Array.isArray(x)
const isStages = (x: unknown): x is readonly { readonly kind: string }[] =>
  Array.isArray(x) && x.every((y) => isFields(y) && typeof y['kind'] === 'string')

/** Joins two sets of changes made on the same base: field by field, stage by stage. */
export function mergeDocuments<T>(base: T, mine: T, theirs: T): Merge<T> {
  const conflicts: MergeConflict[] = []
  const taken: FieldChange[] = []
  const under = (path: string, key: string) => (path === '' ? key : `${path}.${key}`)
  const conflict = (path: string, b: unknown, m: unknown, t: unknown, takes = [{ path, value: m }]) => {
    if (!isBookkeeping(path))
      conflicts.push({ path, name: fieldName(path), before: b, after: m, base: b, mine: m, theirs: t, takes })
    return t
  }
  const join = (path: string, b: unknown, m: unknown, t: unknown): unknown => {
    if (same(m, b) || same(m, t)) return t
    if (same(t, b)) {
      taken.push(...leafChanges(b, m, path).filter((c) => !isBookkeeping(c.path)))
      return m
    }
    if (path === 'unconfirmed') return joinedSets(b, m, t)
    if (isStages(m) && isStages(t)) return joinStages(path, isStages(b) ? b : [], m, t)
    if (!isFields(m) || !isFields(t)) return conflict(path, b, m, t)
    const before = isFields(b) ? b : {}
    const apart = path === '' ? setApart(before, m, t) : null
    const keys = new Set([...Object.keys(t), ...Object.keys(m)])
    const joined = [...keys]
      .filter((key) => !apart?.keys.includes(key))
      .map((key): [string, unknown] => [key, join(under(path, key), before[key], m[key], t[key])])
      .filter(([, value]) => value !== undefined)
    if (!apart) return Object.fromEntries(joined)
    const [first = ''] = apart.keys
    const takes = apart.keys.map((key) => ({ path: key, value: m[key] }))
    conflict(first, before[first], m[first], t[first], takes)
    return { ...t, ...Object.fromEntries(joined) }
  }
  const joinStages = (
    path: string,
    b: readonly { readonly kind: string }[],
    m: readonly { readonly kind: string }[],
    t: readonly { readonly kind: string }[],
  ): unknown => {
    const of = (list: readonly { readonly kind: string }[], kind: string) => list.find((s) => s.kind === kind)
    // Who moved a stage leads; what only the other has stands behind the same neighbour as there.
    const kinds = (list: readonly { readonly kind: string }[]) => list.map((s) => s.kind)
    const [lead, other] = same(kinds(t), kinds(b)) ? [m, t] : [t, m]
    const order = kinds(lead)
    other.forEach((s, i) => {
      if (!order.includes(s.kind)) order.splice(order.indexOf(other[i - 1]?.kind ?? '') + 1, 0, s.kind)
    })
    return order
      .map((kind) => join(under(path, kind), of(b, kind), of(m, kind), of(t, kind)))
      .filter((s) => s !== undefined)
  }
  return { merged: join('', base, mine, theirs) as T, conflicts, mine: taken }
}

/** The entries of a set-up belong to its family: where two say what the loop is, one of them is right as a whole. */
const TOGETHER = ['family', 'setUp'] as const
function setApart(b: Fields, m: Fields, t: Fields): { readonly keys: readonly string[] } | null {
  const changed = (x: Fields) => TOGETHER.some((key) => !same(x[key], b[key]))
  return m['family'] !== t['family'] && changed(m) && changed(t) ? { keys: TOGETHER } : null
}

/** A list of names that both changed: what either took away is gone, what either added is there. */
function joinedSets(b: unknown, m: unknown, t: unknown): unknown[] {
  const [base, mine, theirs] = [b, m, t].map((x) => new Set<unknown>(Array.isArray(x) ? x : []))
  return [...new Set([...(theirs ?? []), ...(mine ?? [])])].filter(
    (x) => !base?.has(x) || (mine?.has(x) && theirs?.has(x)),
  )
}

/** Every changed leaf, bookkeeping included; a place that became a branch is told by its leaves. */
function leafChanges(before: unknown, after: unknown, prefix = ''): FieldChange[] {
  const a = leaves(before, prefix)
  const b = leaves(after, prefix)
  const branches = (tree: ReadonlyMap<string, unknown>, path: string) =>
    [...tree.keys()].some((other) => other.startsWith(`${path}.`))
  return [...new Set([...a.keys(), ...b.keys()])]
    .filter((path) => !same(a.get(path), b.get(path)))
    .filter((path) => !(a.has(path) ? !b.has(path) && branches(b, path) : branches(a, path)))
    .map((path) => ({ path, name: fieldName(path), before: a.get(path), after: b.get(path) }))
}
