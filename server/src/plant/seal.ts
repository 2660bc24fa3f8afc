import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { Readable } from 'node:stream'
import { finished } from 'node:stream/promises'

/** First bytes of a sealed backup; what follows is salt, nonce, the file under AES-256-GCM, and its tag. */
const MAGIC = Buffer.from('CALM-BACKUP-2\n', 'ascii')
const SALT = 16
const NONCE = 12
const TAG = 16
const HEAD = MAGIC.length + SALT + NONCE
/** About a tenth of a second and 32 MiB for each guess. */
const COST = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 2 ** 20 }

const keyOf = (passphrase: string, salt: Uint8Array) =>
  scryptSync(passphrase.normalize('NFKC'), salt, 32, COST)

/** Seals bytes as they come, with a passphrase. */
export async function* sealed(source: AsyncIterable<Buffer>, passphrase: string): AsyncGenerator<Buffer> {
  const salt = randomBytes(SALT)
  const nonce = randomBytes(NONCE)
  const cipher = createCipheriv('aes-256-gcm', keyOf(passphrase, salt), nonce)
  cipher.setAAD(MAGIC)
  yield Buffer.concat([MAGIC, salt, nonce])
  for await (const chunk of source) yield cipher.update(chunk)
  yield Buffer.concat([cipher.final(), cipher.getAuthTag()])
}

/** The first letters of a file, by which its form is known. */
export async function beginningOf(file: string): Promise<string> {
  const handle = await open(file)
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(MAGIC.length), 0, MAGIC.length, 0)
    return buffer.toString('latin1', 0, bytesRead)
  } finally {
    await handle.close()
  }
}

/** Where a sealed file's parts are; null where the file is not sealed. */
async function partsOf(file: string) {
  const handle = await open(file)
  try {
    const { size } = await handle.stat()
    const read = async (at: number, length: number) => {
      const { buffer, bytesRead } = await handle.read(Buffer.alloc(length), 0, length, at)
      return buffer.subarray(0, bytesRead)
    }
    const head = await read(0, HEAD)
    if (!head.subarray(0, MAGIC.length).equals(MAGIC) || size < HEAD + TAG) return null
    const salt = head.subarray(MAGIC.length, MAGIC.length + SALT)
    return { salt, nonce: head.subarray(MAGIC.length + SALT), tag: await read(size - TAG, TAG), size }
  } finally {
    await handle.close()
  }
}

/**
 * The bytes of a file as they come, opened where it is sealed. A sealed file is read twice: not one byte of it is
 * used before the whole is known to be what was sealed.
 * @throws Error with a sentence when the passphrase is another one or a byte was changed
 */
export async function* opened(file: string, passphrase: string | null): AsyncGenerator<Buffer> {
  const parts = await partsOf(file)
  if (parts === null) {
    yield* createReadStream(file) as AsyncIterable<Buffer>
    return
  }
  if (passphrase === null)
    throw new Error('This backup is sealed. Give its passphrase in CALM_BACKUP_PASSPHRASE.')
  const key = keyOf(passphrase, parts.salt)
  async function* decrypted(): AsyncGenerator<Buffer> {
    const decipher = createDecipheriv('aes-256-gcm', key, parts?.nonce ?? Buffer.alloc(0))
    decipher.setAAD(MAGIC)
    decipher.setAuthTag(parts?.tag ?? Buffer.alloc(0))
    const body = createReadStream(file, { start: HEAD, end: (parts?.size ?? 0) - TAG - 1 })
    for await (const chunk of body as AsyncIterable<Buffer>) yield decipher.update(chunk)
    yield decipher.final()
  }
  try {
    // Looked through to its tag; only then it is worth reading.
    const through = Readable.from(decrypted())
    through.resume()
    await finished(through)
  } catch {
    throw new Error('This backup cannot be opened: the passphrase is another one, or the file was changed.')
  }
  yield* decrypted()
}
