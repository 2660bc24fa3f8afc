import { deflateSync, inflateSync } from 'node:zlib'
import type { CertificateFile } from '@calm/contract/certificate-file'
import type { LoopPackage, PackageManifest, PackageProof } from '@calm/contract/loop-package'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { fingerprintOf, type PlantKey } from '../plant-log/plant-key.ts'
import { CHAIN_START, eventHash } from '@calm/core/record/hash-chain'
import { sha256, sha256Bytes } from '../record/digest.ts'
import { testApp, testKey, type TestApp } from '../test/app.ts'
import type { PrintedWith } from './printed-with.ts'
import { provePackage, withPapers } from './prove.ts'
import { manifestText } from './signature.ts'

const NOW = '2026-11-27T13:00:00.000Z'
let app: TestApp
let elsewhere: TestApp
let bytes: Uint8Array

const packageOf = async (agent: TestAgent, tag = 'PT-202'): Promise<Uint8Array> => {
  const answer = await agent
    .get(`/api/loops/${tag}/package.zip`)
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

/** A file of the package changed by somebody who signs for the plant: only the record itself can tell. */
const derived = (name: RegExp, change: (text: string) => string | null) => () =>
  forged(
    (o) => {
      const at = Object.keys(o.files).find((n) => name.test(n)) ?? ''
      const text = change(Buffer.from(o.files[at] ?? []).toString('latin1'))
      if (text === null) Reflect.deleteProperty(o.files, at)
      else o.files[at] = Buffer.from(text, 'latin1')
    },
    { key: app.parts.plantKey },
  )
/** The data inside a certificate, changed and packed again. */
const inside = (change: (told: CertificateFile) => void) =>
  derived(/^certificates\//, (pdf) => {
    const bytesOf = Buffer.from(pdf, 'latin1')
    for (const m of pdf.matchAll(/stream\r?\n/g)) {
      const from = m.index + m[0].length
      const to = pdf.indexOf('endstream', from)
      try {
        const told = JSON.parse(inflateSync(bytesOf.subarray(from, to)).toString()) as CertificateFile
        change(told)
        return `${pdf.slice(0, from)}${deflateSync(JSON.stringify(told)).toString('latin1')}\n${pdf.slice(to)}`
      } catch {
        // Not the one.
      }
    }
    throw new Error('it carries no data')
  })

describe('what a package derives from its record is made again', () => {
  test('and is the same; of drawn pages nothing is said', () => {
    expect(
      provePackage(
        forged(() => undefined, { key: app.parts.plantKey }),
        NOW,
      ),
    ).toMatchObject({
      kind: 'whole',
      compared: true,
      notPrinted: 5,
    })
  })
  test.each<readonly [what: string, make: () => Uint8Array, says: RegExp]>([
    [
      'who did an event',
      derived(/^events\.csv$/, (t) => t.replace('Wren', 'Heron')),
      /“Heron.*” for by in row/,
    ],
    [
      'an event left out of the list',
      derived(/^events\.csv$/, (t) => t.replace(/\r\n[^\r]*\r\n$/, '\r\n')),
      /rows, the record/,
    ],
    [
      'why a revision was saved',
      derived(/^revisions\.csv$/, (t) => t.replace(/,[^,\r]*\r\n$/, ',for fun\r\n')),
      /“for fun” for reason/,
    ],
    [
      'the newest document',
      derived(/^document\.json$/, (t) => t.replace(/"service": "[^"]*"/, '"service": "x"')),
      /not the newest document/,
    ],
    ['no document at all', derived(/^document\.json$/, () => '{'), /no document of a loop/],
    [
      'a reading in a list',
      derived(/^readings\//, (t) => t.replace(/(as found,1,up,)[^,]*/, '$19.9')),
      /“9.9” for applied in row 1/,
    ],
    [
      'an error in a list',
      derived(/^readings\//, (t) => t.replace(/([^,]*),([^,]*),([^,]*)\r\n$/, '0,$2,$3\r\n')),
      /“0” for error_pct_span/,
    ],
    [
      'a column left out',
      derived(/^readings\//, (t) => t.replace('loop_mA', 'other')),
      /no column “loop_mA”/,
    ],
    ['readings taken away', derived(/^readings\//, () => null), /holds no readings/],
    ['a certificate taken away', derived(/^certificates\//, () => null), /holds no certificates/],
    [
      'a mark moved in a drawing',
      derived(/^plots\/.*errors/, (t) => t.replace(/cy="[\d.]+"/, 'cy="20.00"')),
      /not what the record draws/,
    ],
    [
      'another line',
      derived(/^plots\/.*line/, (t) => t.replace('</svg>', ' </svg>')),
      /not what the record draws/,
    ],
    ['a certificate without data', derived(/^certificates\//, () => '%PDF-1.7'), /carries no data/],
    [
      'a reading in the data of a certificate',
      inside((c) => {
        const v = c.asFound?.points[0]?.transmitter
        if (v) v.value += 1
      }),
      /its data: asFound/,
    ],
    [
      'the verdict in the data of a certificate',
      inside((c) => void (c.overall.verdict = 'FAIL')),
      /its data: overall/,
    ],
    [
      'the words of a signature in it',
      inside((c) => {
        const [s] = c.signatures
        if (s) s.statement = 'Looked at.'
      }),
      /its data: signatures/,
    ],
    ['whose certificate it is', inside((c) => void (c.loop.tag = 'PT-103')), /its data: loop/],
  ])('%s', (_, make, says) => {
    const proof = provePackage(make(), NOW)
    expect(proof).toMatchObject({ kind: 'refused' })
    expect(proof.kind === 'refused' && proof.says).toMatch(says)
  })
  test.each(['FT-203', 'AT-204', 'FT-101'])('of %s too, with what was adjusted there', async (tag) => {
    const of = await packageOf(await app.as('wren'), tag)
    expect(provePackage(of, NOW)).toMatchObject({ kind: 'whole', compared: true })
  })
  test('a certificate of another loop is of nothing in this record', () => {
    const foreign = forged((o) => void (o.files['certificates/2026-01-01-0a0a0a0a.pdf'] = strToU8('%PDF')), {
      key: app.parts.plantKey,
    })
    expect(provePackage(foreign, NOW)).toMatchObject({
      kind: 'refused',
      says: 'certificates/2026-01-01-0a0a0a0a.pdf belongs to no verification of this record.',
    })
  })
  test('another version of the program may draw and say it otherwise, but not with other numbers', () => {
    const older = (change: Change) =>
      provePackage(
        forged(
          (o) => {
            Object.assign(o.manifest, { program: '0.0.1' })
            change(o)
          },
          { key: app.parts.plantKey },
        ),
        NOW,
      )
    const redrawn: Change = (o) => {
      const at = Object.keys(o.files).find((n) => n.includes('errors')) ?? ''
      o.files[at] = Uint8Array.of(...(o.files[at] ?? []), 10)
    }
    expect(older(redrawn)).toMatchObject({ kind: 'whole' })
    const reread: Change = (o) => {
      const at = Object.keys(o.files).find((n) => n.startsWith('readings/')) ?? ''
      o.files[at] = strToU8(strFromU8(o.files[at] ?? new Uint8Array()).replace('as found,1,', 'as found,2,'))
    }
    expect(older(reread)).toMatchObject({ kind: 'refused' })
  })
})

describe('certificates of a package are printed again', () => {
  const papers = (change: Change) =>
    withPapers(provePackage(forged(change, { key: app.parts.plantKey }), NOW))
  const nameOf = (o: Opened, end: string) =>
    Object.keys(o.files).find((n) => n.startsWith('certificates/') && n.endsWith(end)) ?? ''
  /** A certificate with its pages drawn anew, everything else as it was. */
  const drawn =
    (change: (page: string) => string): Change =>
    (o) => {
      const at = nameOf(o, '.pdf')
      const bytesOf = Buffer.from(o.files[at] ?? [])
      const pdf = bytesOf.toString('latin1')
      let isDone = false
      const out = pdf.replaceAll(/stream\r?\n([^]*?)\nendstream/g, (whole, packed: string) => {
        if (isDone) return whole
        try {
          const page = inflateSync(Buffer.from(packed, 'latin1')).toString('latin1')
          const changed = page.includes('BT') ? change(page) : page
          if (changed === page) return whole
          isDone = true
          return `stream\n${deflateSync(Buffer.from(changed, 'latin1')).toString('latin1')}\nendstream`
        } catch {
          return whole
        }
      })
      o.files[at] = Buffer.from(out, 'latin1')
    }
  const edited =
    (change: (pdf: string) => string): Change =>
    (o) => {
      const at = nameOf(o, '.pdf')
      const before = Buffer.from(o.files[at] ?? []).toString('latin1')
      const after = change(before)
      if (after === before) throw new Error('nothing was changed')
      o.files[at] = Buffer.from(after, 'latin1')
    }
  const told =
    (change: (told: PrintedWith) => void): Change =>
    (o) => {
      const at = nameOf(o, '.json')
      const with_ = JSON.parse(strFromU8(o.files[at] ?? new Uint8Array())) as PrintedWith
      change(with_)
      o.files[at] = strToU8(JSON.stringify(with_))
    }

  test.each(['PT-202', 'FT-203', 'AT-204'])('those of %s are the same', async (tag) => {
    const of = await packageOf(await app.as('wren'), tag)
    expect(await withPapers(provePackage(of, NOW))).toMatchObject({ kind: 'whole', notPrinted: 0 })
  })
  test.each<[string, Change, RegExp]>([
    [
      'a page drawn otherwise',
      drawn((page) => page.replace(/Tm\b/, 'Tm 1 0 0 1 0 9 cm')),
      /is not what the record prints/,
    ],
    [
      'a text left out',
      drawn((page) => page.replace(/\[<[0-9a-f]+>[^\]]*\] TJ/, '')),
      /is not what the record prints/,
    ],
    [
      'an object more',
      edited((t) => t.replace('\nxref\n', '\n99 0 obj\n<</Type /Annot>>\nendobj\nxref\n')),
      /is not what the record prints/,
    ],
    [
      'an object among the places',
      edited((t) => t.replace('trailer', '99 0 obj\n<</Type /Annot>>\nendobj\ntrailer')),
      /is not what the record prints/,
    ],
    [
      'a place that leads elsewhere',
      edited((t) => t.replace(/(\n\d{10} 65535 f \n)\d{10}/, '$10000000017')),
      /is not what the record prints/,
    ],
    [
      'a table that is elsewhere',
      edited((t) => t.replace(/startxref\n\d+/, 'startxref\n17')),
      /is not what the record prints/,
    ],
    [
      'a stream cut short',
      edited((t) => t.replace(/\/Length \d+/, '/Length 5')),
      /is not what the record prints/,
    ],
    ['more behind its end', edited((t) => `${t}\n1 0 obj\n<<>>\nendobj\n`), /is not what the record prints/],
    [
      'with what it was printed left out',
      (o) => void Reflect.deleteProperty(o.files, nameOf(o, '.json')),
      /holds no certificates/,
    ],
    [
      'with what it was printed, no data',
      (o) => void (o.files[nameOf(o, '.json')] = strToU8('[]')),
      /does not tell with what/,
    ],
    [
      'another paper',
      told((t) => void Object.assign(t.stationery, { paper: 'letter' })),
      /is not what the record prints/,
    ],
    [
      'decimals otherwise',
      told((t) => void Object.assign(t.stationery, { sign: 'comma' })),
      /is not what the record prints/,
    ],
    [
      'fewer signatures asked for',
      told((t) => void (t.signaturesAsked = 9)),
      /is not what the record prints/,
    ],
    [
      'an instrument’s uncertainty',
      told((t) => {
        for (const e of t.equipment) e.uncertainty = '0.001 %'
      }),
      /is not what the record prints/,
    ],
    [
      'an instrument that is nowhere',
      told((t) => {
        for (const e of t.equipment) e.id = '018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0009'
      }),
      /which the package does not hold/,
    ],
    [
      'another day of printing',
      told((t) => void (t.printedAt = '2020-01-01T00:00:00.000Z')),
      /is not what the record prints/,
    ],
  ])('%s', async (_, change, says) => {
    const proof = await papers(change)
    expect(proof).toMatchObject({ kind: 'refused' })
    expect(proof.kind === 'refused' && proof.says).toMatch(says)
  })
  test('one from before packages told their version is read, and that nothing was compared is told', async () => {
    const before = await papers((o) => {
      Reflect.deleteProperty(o.manifest, 'program')
      Reflect.deleteProperty(o.files, nameOf(o, '.json'))
    })
    expect(before).toMatchObject({ kind: 'whole', compared: false, notPrinted: 5 })
  })
  test('of another version they are not printed, and that is told', async () => {
    const older = await papers((o) => void Object.assign(o.manifest, { program: '0.0.1' }))
    expect(older).toMatchObject({ kind: 'whole', compared: true, notPrinted: 5 })
  })
})
