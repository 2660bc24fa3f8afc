import { randomUUID } from 'node:crypto'
import { CertificateFile } from '@calm/contract/certificate-file'
import { headText } from '@calm/core/record/plant-log/head'
import { leafHash, rootByPath } from '@calm/core/record/plant-log/hash-tree'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { digestBytes } from '../record/digest.ts'
import { certificateData } from '../reports/certificate-data.ts'
import { certificateFile } from '../reports/certificate-file.ts'
import { testApp, testClock, testKey, type TestApp } from '../test/app.ts'
import { asLeft, close, events, read, send, sign, starter } from '../test/verification.ts'
import { fingerprintOf, signedBy } from './plant-key.ts'
import { seal } from './sealer.ts'

let app: TestApp
beforeAll(async () => {
  app = await testApp()
})
afterAll(() => app.stop())

/** By what stands in the file alone: nothing is asked of the plant. */
function proves({ record }: CertificateFile): boolean {
  const { proof, sha256 } = record
  if (!proof) return false
  const { head, at, path, publicKey } = proof
  const leaf = leafHash(fromHex(sha256), digestBytes)
  const root = rootByPath(leaf, at, head.size, path.map(fromHex), digestBytes)
  return (
    root !== null &&
    toHex(root) === head.root &&
    fingerprintOf(publicKey) === head.key &&
    signedBy(publicKey, headText(head), head.signature)
  )
}

test('a certificate proves that it stands in the plant’s record, and nothing that was changed in it does', async () => {
  const { db } = app.connection
  const wren = await app.as('wren')
  const { begin } = await starter(wren)
  const run = randomUUID()
  await send(wren, events(run, begin(), read(0, 0), close, asLeft, sign('technician'))).expect(200)
  const fresh = certificateFile(await certificateData(db, run))
  expect(fresh.record.proof).toBeNull()
  const key = testKey()
  for (let more = true; more;) more = (await seal(db, key, testClock())) !== null
  const file = CertificateFile.parse(certificateFile(await certificateData(db, run)))
  expect(proves(file)).toBe(true)
  const { proof } = file.record
  if (!proof) throw new Error('no proof')
  const other = 'ab'.repeat(32)
  for (const record of [
    { ...file.record, sha256: other },
    { ...file.record, proof: { ...proof, at: proof.at - 1 } },
    { ...file.record, proof: { ...proof, path: [other, ...proof.path.slice(1)] } },
    { ...file.record, proof: { ...proof, head: { ...proof.head, root: other } } },
    { ...file.record, proof: { ...proof, head: { ...proof.head, at: '2026-01-01T00:00:00.000Z' } } },
    { ...file.record, proof: { ...proof, publicKey: other } },
  ])
    expect(proves({ ...file, record })).toBe(false)
})
