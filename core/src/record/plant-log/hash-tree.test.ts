import { createHash, createPrivateKey, createPublicKey, sign, verify } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import {
  consistencyPath,
  grewOutOf,
  grown,
  inclusionPath,
  leafHash,
  partsBeside,
  rootByPath,
  rootOf,
  rootOfEdge,
  type BytesDigest,
  type Edge,
} from './hash-tree.ts'
import { headText } from './head.ts'
import { fromHex, toHex } from './hex.ts'

const digest: BytesDigest = (bytes) => new Uint8Array(createHash('sha256').update(bytes).digest())
const DATA = [
  '',
  '00',
  '10',
  '2021',
  '3031',
  '40414243',
  '5051525354555657',
  '606162636465666768696a6b6c6d6e6f',
]
const leaves = DATA.map((d) => leafHash(fromHex(d), digest))
const leavesOf = (n: number) =>
  Array.from({ length: n }, (_, i) => leafHash(Uint8Array.of(i >> 8, i & 255), digest))

/** Roots of the first n leaves, as published for transparency logs. */
const ROOTS: readonly (readonly [n: number, root: string])[] = [
  [0, 'e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855'],
  [1, '6e340b9cffb37a989ca544e6bb780a2c78901d3fb33738768511a30617afa01d'],
  [2, 'fac54203e7cc696cf0dfcb42c92a1d9dbaf70ad9e621f4bd8d98662f00e3c125'],
  [3, 'aeb6bcfe274b70a14fb067a5e5578264db0fa9b51af5e0ba159158f329e06e77'],
  [4, 'd37ee418976dd95753c1c73862b9398fa2a2cf9b4ff0fdfe8b30cd95209614b7'],
  [5, '4e3bbb1f7b478dcfe71fb631631519a3bca12c9aefca1612bfce4c13a86264d4'],
  [6, '76e67dadbcdf1e10e1b74ddc608abd2f98dfb16fbce75277b5232a127f2087ef'],
  [7, 'ddb89be403809e325750d3d263cd78929c2942b7942a34b77e122c9594a74c8c'],
  [8, '5dc9da79a70659a9ad559cb701ded9a2ab9d823aad2f4960cfe370eff4604328'],
]
const rootOfFirst = (n: number) => fromHex(ROOTS.find(([size]) => size === n)?.[1] ?? '')

describe('roots', () => {
  test.each(ROOTS)('of the first %i leaves', (n, root) => {
    expect(toHex(rootOf(leaves.slice(0, n), digest))).toBe(root)
  })
  test('one leaf at a time gives what all at once give', () => {
    let edge: Edge = []
    for (const [i, leaf] of leavesOf(70).entries()) {
      edge = grown(edge, leaf, digest).edge
      expect(toHex(rootOfEdge(edge, digest))).toBe(toHex(rootOf(leavesOf(i + 1), digest)))
    }
    expect(edge.map((p) => p.size)).toEqual([64, 4, 2])
  })
  test('a leaf completes every whole part that ends with it', () => {
    const seven = leavesOf(7).reduce<Edge>((edge, leaf) => grown(edge, leaf, digest).edge, [])
    const { made } = grown(seven, leavesOf(8)[7] ?? new Uint8Array(), digest)
    expect(made.map((p) => p.size)).toEqual([2, 4, 8])
    expect(toHex(made[1]?.hash ?? new Uint8Array())).toBe(toHex(rootOf(leavesOf(8).slice(4), digest)))
  })
  test('a leaf never passes for a node', () => {
    const [a, b] = [leaves[0] ?? new Uint8Array(), leaves[1] ?? new Uint8Array()]
    expect(toHex(leafHash(Uint8Array.of(...a, ...b), digest))).not.toBe(toHex(rootOf([a, b], digest)))
  })
})

describe('that a leaf is in a tree', () => {
  test('leaf 5 in 8, by the worked example', () => {
    expect(inclusionPath(leaves, 5, digest).map(toHex)).toEqual([
      'bc1a0643b12e4d2d7c77918f44e0f4f79a838b6cf9ec5b5c283e1f4d88599e6b',
      'ca854ea128ed050b41b35ffc1b87b8eb2bde461e9e3b5596ece6b9d5975a0ae0',
      ROOTS[4]?.[1],
    ])
  })
  test('every leaf of every size leads to its root, and at no other place', () => {
    for (let n = 1; n <= 20; n++)
      for (let at = 0; at < n; at++) {
        const all = leavesOf(n)
        const path = inclusionPath(all, at, digest)
        const leaf = all[at] ?? new Uint8Array()
        expect(toHex(rootByPath(leaf, at, n, path, digest) ?? new Uint8Array())).toBe(
          toHex(rootOf(all, digest)),
        )
        const elsewhere = rootByPath(leaf, (at + 1) % n, n, path, digest)
        expect(n > 1 && elsewhere !== null && toHex(elsewhere) === toHex(rootOf(all, digest))).toBe(false)
      }
  })
  test('and so does a proof out of whole parts alone', () => {
    for (let n = 1; n <= 33; n++) {
      const all = leavesOf(n)
      const rootOfPart = ({ level, at }: { level: number; at: number }) =>
        rootOf(all.slice(at * 2 ** level, (at + 1) * 2 ** level), digest)
      for (let at = 0; at < n; at++) {
        const path = partsBeside(at, n).map((parts) =>
          rootOfEdge(
            parts.map((p) => ({ size: 2 ** p.level, hash: rootOfPart(p) })),
            digest,
          ),
        )
        expect(path.map(toHex)).toEqual(inclusionPath(all, at, digest).map(toHex))
      }
    }
    expect(partsBeside(3, 3)).toEqual([])
  })
  test('a proof that is cut, too long, or of no place leads nowhere', () => {
    const path = inclusionPath(leaves, 5, digest)
    const leaf = leaves[5] ?? new Uint8Array()
    expect(rootByPath(leaf, 5, 8, path.slice(0, 2), digest)).toBeNull()
    expect(rootByPath(leaf, 5, 8, [...path, leaf], digest)).toBeNull()
    expect(rootByPath(leaf, 8, 8, path, digest)).toBeNull()
    expect(() => inclusionPath(leaves, 8, digest)).toThrow('8 leaves has no leaf 8')
  })
})

describe('that a tree grew out of a smaller one', () => {
  test('6 to 8 and 2 to 5, by the worked examples', () => {
    expect(consistencyPath(leaves, 6, digest).map(toHex)).toEqual([
      '0ebc5d3437fbe2db158b9f126a1d118e308181031d0a949f8dededebc558ef6a',
      'ca854ea128ed050b41b35ffc1b87b8eb2bde461e9e3b5596ece6b9d5975a0ae0',
      ROOTS[4]?.[1],
    ])
    expect(consistencyPath(leaves.slice(0, 5), 2, digest).map(toHex)).toEqual([
      '5f083f0a1a33ca076a95279832580db3e0ef4584bdff1f54c8a360f50de3031e',
      'bc1a0643b12e4d2d7c77918f44e0f4f79a838b6cf9ec5b5c283e1f4d88599e6b',
    ])
  })
  test('every size out of every smaller one; a changed leaf of the smaller one shows', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 0, max: 40 }),
        fc.nat(),
        (m, more, which) => {
          const all = leavesOf(m + more)
          const path = consistencyPath(all, m, digest)
          const first = { size: m, root: rootOf(all.slice(0, m), digest) }
          const second = { size: m + more, root: rootOf(all, digest) }
          const changed = all.with(which % m, leafHash(Uint8Array.of(9, 9, 9), digest))
          const other = { size: m + more, root: rootOf(changed, digest) }
          return (
            grewOutOf(first, second, path, digest) &&
            !grewOutOf(first, other, consistencyPath(changed, m, digest), digest)
          )
        },
      ),
    )
  })
  test('sizes that cannot be are no proof', () => {
    const root = rootOfFirst(8)
    expect(grewOutOf({ size: 0, root }, { size: 8, root }, [], digest)).toBe(false)
    expect(grewOutOf({ size: 9, root }, { size: 8, root }, [], digest)).toBe(false)
    expect(grewOutOf({ size: 8, root }, { size: 8, root }, [root], digest)).toBe(false)
    expect(grewOutOf({ size: 8, root: rootOfFirst(8) }, { size: 16, root }, [], digest)).toBe(false)
    expect(() => consistencyPath(leaves, 0, digest)).toThrow('did not grow out of 0')
  })
})

describe('a head', () => {
  // PKCS#8 of the seed 31 zero bytes and 2a.
  const key = createPrivateKey({
    key: Buffer.concat([
      Buffer.from('302e020100300506032b657004220420', 'hex'),
      Buffer.from(`${'00'.repeat(31)}2a`, 'hex'),
    ]),
    format: 'der',
    type: 'pkcs8',
  })
  const text = headText({
    v: 1,
    plant: '0193a0f2-ffff-7b00-8000-000000000001',
    size: 8,
    root: ROOTS[8]?.[1] ?? '',
    at: '2026-11-27T23:59:59.000Z',
  })
  test('signed by the key of the worked example', () => {
    expect(sign(null, Buffer.from(text), key).toString('hex')).toBe(
      'a1dc3b2be803711900753dc048176d2b791c8a21819ff4c3acf87455980f1a3ca79564b85f9a447456017370bbc4341d4e4d7fef41a8b8ddf4394348e01c1b0a',
    )
  })
  test('another size is another text', () => {
    const signature = sign(null, Buffer.from(text), key)
    expect(
      verify(null, Buffer.from(text.replace('"size":8', '"size":9')), createPublicKey(key), signature),
    ).toBe(false)
  })
})

test('hexadecimal there and back; anything else is refused', () => {
  expect(toHex(fromHex('00ff7a'))).toBe('00ff7a')
  expect(() => fromHex('0g')).toThrow('not hexadecimal')
})
