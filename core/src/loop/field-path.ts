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

/**
 * The document with one field replaced; undefined removes it, and a place that is not there changes nothing. The
 * original stays as it is, and everything beside the way to the field is shared with it: what has not changed is
 * the same object, so nobody reckons or draws it again.
 */
export const withField = <T>(doc: T, path: string, value: unknown): T =>
  replaced(doc, path.split('.'), value) as T

function replaced(node: unknown, [key, ...rest]: readonly string[], value: unknown): unknown {
  if (key === undefined) return value
  if (!isNode(node)) return node
  const put = (now: unknown): unknown => (rest.length === 0 ? value : replaced(now, rest, value))
  if (Array.isArray(node)) {
    const named = node.findIndex((x) => isKinded(x) && x.kind === key)
    const at = named >= 0 ? named : /^\d+$/.test(key) ? Number(key) : node.length
    if (rest.length > 0 && at >= node.length) return node
    const now = put(node[at])
    return now === undefined ? node.toSpliced(at, 1) : node.toSpliced(at, 1, now)
  }
  const now = put(node[key])
  if (now !== undefined) return { ...node, [key]: now }
  return Object.fromEntries(Object.entries(node).filter(([k]) => k !== key))
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
