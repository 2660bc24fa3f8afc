/** Numbers as they stand in the database: eight bytes each, the lowest first. */
export const floatsOf = (bytes: Buffer): Float64Array =>
  new Float64Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))

export const bytesOf = (floats: Float64Array): Buffer =>
  Buffer.from(floats.buffer, floats.byteOffset, floats.byteLength)

/** Numbers of several rows as one, copied once. */
export function floatsOfAll(rows: readonly Buffer[]): Float64Array {
  const bytes = new Uint8Array(rows.reduce((n, r) => n + r.byteLength, 0))
  let at = 0
  for (const r of rows) {
    bytes.set(r, at)
    at += r.byteLength
  }
  return new Float64Array(bytes.buffer)
}

/** Pieces of numbers as one. */
export function joined(parts: readonly Float64Array[]): Float64Array {
  const all = new Float64Array(parts.reduce((n, p) => n + p.length, 0))
  let at = 0
  for (const p of parts) {
    all.set(p, at)
    at += p.length
  }
  return all
}
