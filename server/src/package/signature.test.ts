import type { LoopPackage, PackageManifest, PackageProof } from '@calm/contract/loop-package'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { fingerprintOf, type PlantKey } from '../plant-log/plant-key.ts'
import { CHAIN_START, eventHash } from '@calm/core/record/hash-chain'
import { sha256, sha256Bytes } from '../record/digest.ts'
import { testApp, testKey, type TestApp } from '../test/app.ts'
import { provePackage } from './prove.ts'
import { manifestText } from './signature.ts'

const NOW = '2026-11-27T13:00:00.000Z'
let app: TestApp
let elsewhere: TestApp
let bytes: Uint8Array

const packageOf = async (agent: TestAgent): Promise<Uint8Array> => {
  const answer = await agent
    .get('/api/loops/PT-202/package.zip')
    .buffer()
    .parse((res, done) => {
      const chunks: Buffer[] = []
      const stream = res as unknown as NodeJS.ReadableStream
      stream.on('data', (c: Buffer) => chunks.push(c))
      stream.on('end', () => done(null, Buffer.concat(chunks)))
    })
    .expect(200)
  return answer.body as Buffer
}
beforeAll(async () => {
  app = await testApp()
  elsewhere = await testApp({ own: true })
  await elsewhere.tamper('truncate loops, loop_revisions, runs, events, stand_ins cascade')
  bytes = await packageOf(await app.as('wren'))
})
afterAll(async () => {
  await app.stop()
  await elsewhere.stop()
})

interface Opened {
  readonly loop: LoopPackage
  readonly proof: PackageProof
  readonly manifest: PackageManifest
  readonly files: Record<string, Uint8Array>
}
type Change = (o: Opened) => void

/** What somebody makes of a package who re-makes every hash in it, and signs it anew where a key is at hand. */
function forged(change: Change, { chain = false, key = null as PlantKey | null } = {}): Uint8Array {
  const files: Record<string, Uint8Array> = unzipSync(bytes)
  const open = (name: string): unknown => JSON.parse(strFromU8(files[name] ?? new Uint8Array()))
  const o: Opened = {
    loop: open('loop.json') as LoopPackage,
    proof: open('proof.json') as PackageProof,
    manifest: open('manifest.json') as PackageManifest,
    files,
  }
  change(o)
  if (chain) {
    let previous = CHAIN_START
    for (const [i, e] of o.loop.events.entries()) {
      Object.assign(e, { seq: i + 1, previous })
      e.hash = eventHash({ ...e, payload: e.payload ?? null, recordedAt: e.recordedAt ?? e.at }, sha256)
      previous = e.hash
    }
  }
  files['loop.json'] = strToU8(JSON.stringify(o.loop))
  files['proof.json'] = strToU8(JSON.stringify(o.proof))
  delete files['manifest.json']
  const last = o.loop.events.at(-1)
  const manifest: PackageManifest = {
    ...o.manifest,
    files: Object.fromEntries(Object.entries(files).map(([n, b]) => [n, sha256Bytes(b)])),
    ...(chain && last ? { last: { seq: last.seq, hash: last.hash } } : {}),
    ...(key ? { plant: { id: o.proof.head.plant, publicKey: key.publicKey } } : {}),
  }
  const signed = key ? { ...manifest, signature: key.sign(manifestText(manifest)) } : manifest
  return zipSync({ 'manifest.json': strToU8(JSON.stringify(signed)), ...files })
}
const signedEvent = (l: LoopPackage) => {
  const e = l.events.find((x) => x.type === 'signed')
  if (!e) throw new Error('nothing is signed')
  return e as typeof e & {
    payload: { statement: string; signature: { value: string; of: string; key: string } }
  }
}
const reading = (l: LoopPackage) => {
  const e = l.events.find((x) => x.type === 'reading.recorded')
  if (!e) throw new Error('nothing is read')
  return e as typeof e & { payload: { values: { pv: { value: number } } } }
}
/** Files changed as they are, nothing re-made. */
const file = (name: RegExp, change: (b: Uint8Array) => Uint8Array | null) => {
  const files: Record<string, Uint8Array> = unzipSync(bytes)
  const found = Object.keys(files).find((n) => name.test(n)) ?? ''
  const changed = change(files[found] ?? new Uint8Array())
  if (changed) files[found] = changed
  else Reflect.deleteProperty(files, found)
  return zipSync(files)
}
const grow = (b: Uint8Array) => Uint8Array.of(...b, 32)

describe('a package of this plant', () => {
  test('is whole, signed, each event in the plant’s tree, each signature by its person’s key', () => {
    const proof = provePackage(bytes, NOW)
    if (proof.kind !== 'whole') throw new Error(`${proof.where}: ${proof.says}`)
    expect(fingerprintOf(proof.manifest.plant?.publicKey ?? '')).toBe(app.parts.plantKey.fingerprint)
    expect(proof.contents.keys.length).toBeGreaterThan(1)
    expect(proof.manifest.last?.seq).toBe(proof.contents.events.length)
  })
  test('taken in elsewhere, the record tells which plant signed it', async () => {
    const dunlin = await elsewhere.as('dunlin')
    const taken = await dunlin
      .post('/api/packages')
      .set('Content-Type', 'application/zip')
      .send(Buffer.from(bytes))
      .expect(200)
    expect(taken.body.plantKey).toBe(app.parts.plantKey.fingerprint)
    const { body } = await dunlin.get('/api/loops/PT-202/events').expect(200)
    expect((body as { payload: { plantKey?: string } }[]).at(-1)?.payload.plantKey).toBe(
      app.parts.plantKey.fingerprint,
    )
  })
})

const OTHER = testKey()
const cases: readonly (readonly [what: string, make: () => Uint8Array, where: RegExp])[] = [
  [
    'a reading, hashes made again, signed by nobody',
    () => forged((o) => (reading(o.loop).payload.values.pv.value = 1), { chain: true }),
    /^manifest\.json\.signature$/,
  ],
  [
    'a reading, hashes made again, signed with a key of one’s own',
    () => forged((o) => (reading(o.loop).payload.values.pv.value = 1), { chain: true, key: OTHER }),
    /^(proof\.json\.head|loop\.json)/,
  ],
  [
    'an event cut off the end, hashes made again',
    () => forged((o) => void o.loop.events.pop(), { chain: true }),
    /^(manifest\.json\.signature|loop\.json)/,
  ],
  [
    'an event cut off the end, the manifest as it was',
    () => forged((o) => void o.loop.events.pop()),
    /^(manifest\.json|loop\.json)/,
  ],
  [
    'the day on the manifest',
    () => forged((o) => Object.assign(o.manifest, { madeAt: '2020-01-01T00:00:00.000Z' })),
    /^manifest\.json\.signature$/,
  ],
  [
    'another plant on the manifest',
    () =>
      forged((o) => Object.assign(o.manifest.plant ?? {}, { id: '018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0009' })),
    /^manifest\.json\.signature$/,
  ],
  [
    'another public key on the manifest',
    () => forged((o) => Object.assign(o.manifest.plant ?? {}, { publicKey: OTHER.publicKey })),
    /^manifest\.json\.signature$/,
  ],
  [
    'where the record ends',
    () => forged((o) => Object.assign(o.manifest.last ?? {}, { seq: 3 })),
    /^manifest\.json\.signature$/,
  ],
  [
    'no signature at all',
    () => forged((o) => void Reflect.deleteProperty(o.manifest, 'signature')),
    /^manifest\.json$/,
  ],
  [
    'a signature’s value',
    () =>
      forged((o) => (signedEvent(o.loop).payload.signature.value = '0'.repeat(128)), {
        chain: true,
        key: OTHER,
      }),
    /signature$/,
  ],
  [
    'what was signed',
    () =>
      forged((o) => (signedEvent(o.loop).payload.signature.of = '0'.repeat(64)), { chain: true, key: OTHER }),
    /signature$/,
  ],
  [
    'who is said to have signed',
    () =>
      forged(
        (o) =>
          (signedEvent(o.loop).by = o.loop.people.find((p) => p.id !== signedEvent(o.loop).by)?.id ?? ''),
        { chain: true, key: OTHER },
      ),
    /./,
  ],
  [
    'when it was signed',
    () =>
      forged(
        (o) => {
          const e = signedEvent(o.loop)
          e.at = new Date(Date.parse(e.at) - 1000).toISOString()
        },
        { chain: true, key: OTHER },
      ),
    /signature$/,
  ],
  [
    'a person’s key for another',
    () => forged((o) => Object.assign(o.loop.keys[0] ?? {}, { publicKey: OTHER.publicKey }), { key: OTHER }),
    /signature$/,
  ],
  [
    'keys swapped between people',
    () =>
      forged(
        (o) => {
          const [a, b] = o.loop.keys
          if (a && b) [a.personId, b.personId] = [b.personId, a.personId]
        },
        { key: OTHER },
      ),
    /signature$/,
  ],
  ['a key taken out', () => forged((o) => void (o.loop.keys = []), { key: OTHER }), /signature$/],
  [
    'a key that had ended',
    () =>
      forged(
        (o) => {
          for (const k of o.loop.keys) k.until = '2020-01-01T00:00:00.000Z'
        },
        { key: OTHER },
      ),
    /signature$/,
  ],
  [
    'a key that began later',
    () =>
      forged(
        (o) => {
          for (const k of o.loop.keys) k.from = '2026-11-20T00:00:00.000Z'
        },
        { key: OTHER },
      ),
    /signature$/,
  ],
  [
    'the place of an event',
    () => forged((o) => Object.assign(o.proof.leaves[2] ?? {}, { at: 1 })),
    /^(manifest\.json\.signature|proof\.json)/,
  ],
  [
    'a node beside its way',
    () => forged((o) => o.proof.leaves[2]?.path.splice(0, 1, '0'.repeat(64))),
    /^(manifest\.json\.signature|proof\.json)/,
  ],
  [
    'the size of the head',
    () => forged((o) => Object.assign(o.proof.head, { size: o.proof.head.size + 1 })),
    /^(manifest\.json\.signature|proof\.json)/,
  ],
  [
    'the root of the head',
    () => forged((o) => Object.assign(o.proof.head, { root: '0'.repeat(64) })),
    /^(manifest\.json\.signature|proof\.json)/,
  ],
  ['the proof left out', () => file(/^proof\.json$/, () => null), /^proof\.json$/],
  ['a certificate', () => file(/^certificates\//, grow), /^certificates\//],
  ['a table of readings', () => file(/^readings\//, grow), /^readings\//],
  ['a plot', () => file(/^plots\//, grow), /^plots\//],
  ['the list of events', () => file(/^events\.csv$/, grow), /^events\.csv$/],
  ['a certificate left out', () => file(/^certificates\//, () => null), /^certificates\//],
  ['a file put in', () => zipSync({ ...unzipSync(bytes), 'note.txt': strToU8('approved') }), /^note\.txt$/],
  [
    'a reading, nothing made again',
    () => file(/^loop\.json$/, (b) => strToU8(strFromU8(b).replace(/"typed": "[^"]+"/, '"typed": "7"'))),
    /^loop\.json/,
  ],
]
describe('every change of a package is found and named', () => {
  test.each(cases)('%s', (_, make, where) => {
    const proof = provePackage(make(), NOW)
    expect(proof.kind === 'refused' ? proof.where : 'whole').toMatch(where)
  })
  test('without its signature it passes only for an older one, which no plant vouches for', () => {
    const proof = provePackage(
      forged((o) => {
        Object.assign(o.manifest, { version: 2 })
        for (const m of ['signature', 'plant', 'last']) Reflect.deleteProperty(o.manifest, m)
      }),
      NOW,
    )
    expect(proof.kind === 'whole' && proof.manifest.plant).toBe(undefined)
  })
})
