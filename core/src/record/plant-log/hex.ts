/** Bytes in hexadecimal, small letters. */
export const toHex = (bytes: Uint8Array): string =>
  [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('')

/** Bytes from hexadecimal. @throws RangeError where it is none */
export function fromHex(text: string): Uint8Array {
  if (!/^([0-9a-f]{2})*$/i.test(text)) throw new RangeError('not hexadecimal')
  return Uint8Array.from(text.match(/../g) ?? [], (two) => parseInt(two, 16))
}
