import { describe, expect, test } from 'vitest'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { makeKey, openKey, sha256, signText, wrapAnew } from './signing-key.ts'

const WREN = '018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0001'
/** The worked example: the key of seed 31 zero bytes and 2a, wrapped under a password. */
const EXAMPLE = {
  publicKey: 'c561fa9f643fe5c60113cce9db282fde2b9e5ca5fc6b6fc0d1679bb339c9f72f',
  salt: '000102030405060708090a0b0c0d0e0f',
  iv: '101112131415161718191a1b',
  wrapped:
    'a7b5d2f2001313d72510b1d55836d7e9b1afe3e036dce8bba8199ede5522a80730705ae4453772c478c2fa45b8e169f976297d2239e7bb6a0e7cd3c4f473cd7e',
  rounds: 600_000,
}
const STATEMENT =
  'calm-loop signature v1\n{"at":"2026-11-27T14:05:00.000Z","by":"018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0001","event":"0193a0f2-5a10-7b00-8000-0000000000aa","loop":"0193a0f2-0000-7b00-8000-000000000001","meaning":"performed","of":"9f86d081884c7d659a2feaa0c55ad015a3bf4f1b2b0b822cd15d6c15b0f00a08","v":1}'

async function holds(publicKey: string, text: string, signature: string): Promise<boolean> {
  const key = await crypto.subtle.importKey('raw', new Uint8Array(fromHex(publicKey)), 'Ed25519', false, [
    'verify',
  ])
  return crypto.subtle.verify(
    'Ed25519',
    key,
    new Uint8Array(fromHex(signature)),
    new TextEncoder().encode(text),
  )
}

describe('a wrapped key', () => {
  test('of the worked example opens by its password and signs as the example does', async () => {
    const priv = await openKey(EXAMPLE, 'salt-and-water', WREN)
    expect(priv?.extractable).toBe(false)
    expect(priv && (await signText(priv, STATEMENT))).toBe(
      'd79364d9593fd7041db58621b0308e0b8b89c22db85ac84ffb5d45f2140439092a6851a5a0e1c986ba31113bcdc9c55247be1175b3ddf10897943c45c1d7140a',
    )
    expect(await sha256(STATEMENT)).toBe('7ed4dd3ca7bbb0f7f36fc91ff0dd8b4a4204a75aa1f927709aaefa1d5dbd58f5')
  })
  test.each([
    ['another password', 'salt-and-watar', WREN],
    ['another person', 'salt-and-water', WREN.replace('1', '2')],
    ['no password', '', WREN],
  ])('%s does not open it', async (_, password, person) => {
    expect(await openKey(EXAMPLE, password, person)).toBeNull()
  })
  test('a byte changed in it does not open', async () => {
    const changed = { ...EXAMPLE, wrapped: EXAMPLE.wrapped.replace('a7', 'a8') }
    expect(await openKey(changed, 'salt-and-water', WREN)).toBeNull()
  })
})

describe('a key made here', () => {
  test('signs, and goes under another password as the same key', async () => {
    const key = await makeKey('a long enough sentence', WREN)
    const anew = await wrapAnew(key, 'a long enough sentence', 'another sentence', WREN)
    expect(anew?.publicKey).toBe(key.publicKey)
    expect(anew?.wrapped).not.toBe(key.wrapped)
    expect(anew && (await openKey(anew, 'a long enough sentence', WREN))).toBeNull()
    const priv = anew && (await openKey(anew, 'another sentence', WREN))
    const signature = priv ? await signText(priv, 'done') : ''
    expect(await holds(key.publicKey, 'done', signature)).toBe(true)
    expect(await holds(key.publicKey, 'not done', signature)).toBe(false)
    expect(await wrapAnew(key, 'wrong', 'another sentence', WREN)).toBeNull()
  })
  test('is another each time', async () => {
    const [a, b] = [
      await makeKey('a long enough sentence', WREN),
      await makeKey('a long enough sentence', WREN),
    ]
    expect(a.publicKey).not.toBe(b.publicKey)
    expect(toHex(fromHex(a.salt))).not.toBe(b.salt)
  })
})
