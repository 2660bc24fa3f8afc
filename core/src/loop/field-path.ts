/**
 * Fields of a document by a readable path: `tolerance.pctSpan`, `path.controller.range.low`.
 * A stage of the signal path is named by its kind, so that a path stays true when stages move.
 */
type Node = Record<string, unknown> | unknown[]
const isNode = (x: unknown): x is Node => typeof x === 'object' && x !== null
const isKinded = (x: unknown): x is { kind: string } =>
  isNode(x) && !Array.isArray(x) && typeof x['kind'] === 'string'

function child(node: unknown, key: string): unknown {
  if (Array.isArray(node)) {
    const list = node as unknown[]
    return (
      list.find((x) => isKinded(x) && x.kind === key) ?? (/^\d+$/.test(key) ? list[Number(key)] : undefined)
    )
  }
  return isNode(node) ? (node as Record<string, unknown>)[key] : undefined
}

/** The value at a field path, undefined when there is none. */
export const fieldAt = (doc: unknown, path: string): unknown =>
  path.split('.').reduce<unknown>((node, key) => child(node, key), doc)

/** A copy of the document with one field replaced; undefined removes it. The original stays as it is. */
export function withField<T>(doc: T, path: string, value: unknown): T {
  const copy = structuredCopy(doc)
  const keys = path.split('.')
  const last = keys.pop()
  const parent = keys.reduce<unknown>((node, key) => child(node, key), copy)
  if (last === undefined || !isNode(parent)) return copy
  if (Array.isArray(parent)) {
    const i = parent.findIndex((x) => isKinded(x) && x.kind === last)
    const at = i >= 0 ? i : /^\d+$/.test(last) ? Number(last) : parent.length
    if (value === undefined) parent.splice(at, 1)
    else parent[at] = value
  } else if (value === undefined) delete parent[last]
  else parent[last] = value
  return copy
}

/** Plain data copied all the way down. */
export function structuredCopy<T>(x: T): T {
  if (Array.isArray(x)) return x.map((y: unknown) => structuredCopy(y)) as T
  if (!isNode(x)) return x
  return Object.fromEntries(Object.entries(x).map(([k, v]) => [k, structuredCopy(v)])) as T
}

/** Every leaf of a document with its field path. Lists of plain values are one leaf. */
export function leaves(doc: unknown, prefix = ''): Map<string, unknown> {
  const out = new Map<string, unknown>()
  const walk = (node: unknown, path: string) => {
    if (Array.isArray(node) && node.length > 0 && node.every(isKinded)) {
      for (const stage of node) walk(stage, path === '' ? stage.kind : `${path}.${stage.kind}`)
      return
    }
    if (isNode(node) && !Array.isArray(node)) {
      for (const [k, v] of Object.entries(node))
        if (v !== undefined) walk(v, path === '' ? k : `${path}.${k}`)
      return
    }
    out.set(path, node)
  }
  walk(doc, prefix)
  return out
}
