import { createDecipheriv, createPrivateKey, type KeyObject } from 'node:crypto'
import type { WrappedKey } from '@calm/contract/people'
import { keyUnder } from '../people/make-key.ts'

const TAG = 16

/** Opens a wrapped key. @throws Error where the password or the person is another one */
export function openKey(key: WrappedKey, password: string, personId: string): KeyObject {
  const all = Buffer.from(key.wrapped, 'hex')
  const decipher = createDecipheriv(
    'aes-256-gcm',
    keyUnder(password, Buffer.from(key.salt, 'hex'), key.rounds),
    Buffer.from(key.iv, 'hex'),
  )
  decipher.setAAD(Buffer.from(personId, 'utf8'))
  decipher.setAuthTag(all.subarray(-TAG))
  const pkcs8 = Buffer.concat([decipher.update(all.subarray(0, -TAG)), decipher.final()])
  return createPrivateKey({ key: pkcs8, format: 'der', type: 'pkcs8' })
}
