/** SHA-256 of bytes; given by the server or the browser, the core has neither. */
export type BytesDigest = (bytes: Uint8Array) => Uint8Array

/** Roots of the whole parts of a tree, the largest first: all that appending a leaf needs to know. */
export type Edge = readonly { readonly size: number; readonly hash: Uint8Array }[]

const LEAF = 0x00
const NODE = 0x01

/** Hash of a leaf: no leaf can pass for a node. @see RFC 9162, 2.1.1 */
export const leafHash = (data: Uint8Array, digest: BytesDigest): Uint8Array =>
  digest(Uint8Array.of(LEAF, ...data))

/** Hash of a node over its two sides. @see RFC 9162, 2.1.1 */
export const nodeHash = (left: Uint8Array, right: Uint8Array, digest: BytesDigest): Uint8Array =>
  digest(Uint8Array.of(NODE, ...left, ...right))

/** Largest power of two below n, from 2 on: where a tree of n leaves parts. */
function split(n: number): number {
  let k = 1
  while (k * 2 < n) k *= 2
  return k
}

/**
 * One leaf more, at the right: whole parts of the same size become one.
 * @returns the edge then, and the whole parts that the leaf completed, the smallest first
 */
export function grown(
  edge: Edge,
  leaf: Uint8Array,
  digest: BytesDigest,
): { readonly edge: Edge; readonly made: Edge } {
  const next = [...edge]
  const made: Edge[number][] = []
  let part = { size: 1, hash: leaf }
  for (let last = next.at(-1); last?.size === part.size; last = next.at(-1)) {
    next.pop()
    part = { size: part.size * 2, hash: nodeHash(last.hash, part.hash, digest) }
    made.push(part)
  }
  next.push(part)
  return { edge: next, made }
}

/** Root over the whole parts of a tree; of none, the digest of nothing. */
export const rootOfEdge = (edge: Edge, digest: BytesDigest): Uint8Array =>
  edge.reduceRight<Uint8Array | null>(
    (right, part) => (right === null ? part.hash : nodeHash(part.hash, right, digest)),
    null,
  ) ?? digest(new Uint8Array())

/** Root of a tree from the hashes of all its leaves. @see RFC 9162, 2.1.1 */
export const rootOf = (leaves: readonly Uint8Array[], digest: BytesDigest): Uint8Array =>
  rootOfEdge(
    leaves.reduce<Edge>((edge, leaf) => grown(edge, leaf, digest).edge, []),
    digest,
  )

/**
 * Proof that a leaf is in a tree: the nodes beside its way to the root, the lowest first.
 * @param at - position from 0. @throws RangeError where the tree has no such leaf
 * @see RFC 9162, 2.1.3.1
 */
export function inclusionPath(
  leaves: readonly Uint8Array[],
  at: number,
  digest: BytesDigest,
): readonly Uint8Array[] {
  if (!Number.isInteger(at) || at < 0 || at >= leaves.length)
    throw new RangeError(`a tree of ${leaves.length} leaves has no leaf ${at}`)
  if (leaves.length === 1) return []
  const k = split(leaves.length)
  const [left, right] = [leaves.slice(0, k), leaves.slice(k)]
  return at < k
    ? [...inclusionPath(left, at, digest), rootOf(right, digest)]
    : [...inclusionPath(right, at - k, digest), rootOf(left, digest)]
}

/** A whole part of a tree: at a level, 2^level leaves; `at` counts such parts from the left. */
export interface Part {
  readonly level: number
  readonly at: number
}

/** The whole parts that some leaves are made of, the largest first. */
function partsFrom(from: number, n: number): readonly Part[] {
  const parts: Part[] = []
  for (let start = from, left = n; left > 0;) {
    let size = 1
    while (size * 2 <= left) size *= 2
    parts.push({ level: Math.log2(size), at: start / size })
    start += size
    left -= size
  }
  return parts
}

/**
 * What stands beside a leaf's way to the root, the lowest first: each as the whole parts that it is made of. What a
 * proof needs of a tree whose whole parts are stored, without reading its leaves.
 */
export function partsBeside(at: number, size: number): readonly (readonly Part[])[] {
  const walk = (from: number, n: number): readonly (readonly Part[])[] => {
    if (n <= 1) return []
    const k = split(n)
    return at < from + k
      ? [...walk(from, k), partsFrom(from + k, n - k)]
      : [...walk(from + k, n - k), partsFrom(from, k)]
  }
  return at < 0 || at >= size ? [] : walk(0, size)
}

/** The root that a leaf's proof leads to; null where the proof is too long or too short for the place. */
export function rootByPath(
  leaf: Uint8Array,
  at: number,
  size: number,
  path: readonly Uint8Array[],
  digest: BytesDigest,
): Uint8Array | null {
  if (!Number.isInteger(at) || at < 0 || at >= size) return null
  let fn = at
  let sn = size - 1
  let hash = leaf
  for (const beside of path) {
    if (sn === 0) return null
    if (fn % 2 === 1 || fn === sn) {
      hash = nodeHash(beside, hash, digest)
      while (fn % 2 === 0 && fn !== 0) {
        fn /= 2
        sn = Math.floor(sn / 2)
      }
    } else hash = nodeHash(hash, beside, digest)
    fn = Math.floor(fn / 2)
    sn = Math.floor(sn / 2)
  }
  return sn === 0 ? hash : null
}

/**
 * Proof that a tree grew out of a smaller one and nothing in that one was changed.
 * @param from - leaves of the smaller tree, from 1. @throws RangeError where it was not smaller
 * @see RFC 9162, 2.1.4.1
 */
export function consistencyPath(
  leaves: readonly Uint8Array[],
  from: number,
  digest: BytesDigest,
): readonly Uint8Array[] {
  if (!Number.isInteger(from) || from < 1 || from > leaves.length)
    throw new RangeError(`a tree of ${leaves.length} leaves did not grow out of ${from}`)
  const part = (some: readonly Uint8Array[], m: number, whole: boolean): readonly Uint8Array[] => {
    if (m === some.length) return whole ? [] : [rootOf(some, digest)]
    const k = split(some.length)
    return m <= k
      ? [...part(some.slice(0, k), m, whole), rootOf(some.slice(k), digest)]
      : [...part(some.slice(k), m - k, false), rootOf(some.slice(0, k), digest)]
  }
  return part(leaves, from, true)
}

/** One tree with its size. */
interface Sized {
  readonly size: number
  readonly root: Uint8Array
}

const same = (a: Uint8Array, b: Uint8Array) => a.length === b.length && a.every((x, i) => x === b[i])

/** Whether a proof shows that the second tree grew out of the first. @see RFC 9162, 2.1.4.2 */
export function grewOutOf(
  first: Sized,
  second: Sized,
  path: readonly Uint8Array[],
  digest: BytesDigest,
): boolean {
  if (first.size < 1 || first.size > second.size) return false
  if (first.size === second.size) return path.length === 0 && same(first.root, second.root)
  const power = Number.isInteger(Math.log2(first.size))
  const [start, ...rest] = power ? [first.root, ...path] : path
  if (!start || (power && path.length === 0)) return false
  let fn = first.size - 1
  let sn = second.size - 1
  while (fn % 2 === 1) {
    fn = (fn - 1) / 2
    sn = Math.floor(sn / 2)
  }
  let was = start
  let is = start
  for (const node of rest) {
    if (sn === 0) return false
    if (fn % 2 === 1 || fn === sn) {
      was = nodeHash(node, was, digest)
      is = nodeHash(node, is, digest)
      while (fn % 2 === 0 && fn !== 0) {
        fn /= 2
        sn = Math.floor(sn / 2)
      }
    } else is = nodeHash(is, node, digest)
    fn = Math.floor(fn / 2)
    sn = Math.floor(sn / 2)
  }
  return sn === 0 && same(was, first.root) && same(is, second.root)
}
