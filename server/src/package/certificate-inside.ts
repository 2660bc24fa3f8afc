import { inflateSync } from 'node:zlib'

const STREAM = /stream\r?\n/g
const LARGEST_BYTES = 5e6

/**
 * The data that a certificate carries, out of its file.
 * @returns every one of its kind in it, as parsed; none in papers from before they carried any
 */
export function certificatesInside(pdf: Uint8Array): Record<string, unknown>[] {
  const bytes = Buffer.from(pdf)
  const text = bytes.toString('latin1')
  return [...text.matchAll(STREAM)].flatMap((m) => {
    const from = m.index + m[0].length
    const to = text.indexOf('endstream', from)
    if (to < 0) return []
    try {
      const inside = inflateSync(bytes.subarray(from, to), { maxOutputLength: LARGEST_BYTES })
      if (inside[0] !== 0x7b) return []
      const told = JSON.parse(inside.toString('utf8')) as Record<string, unknown>
      return told['format'] === 'calm-loop-certificate' ? [told] : []
    } catch {
      // A font, a page, or nothing that is packed.
      return []
    }
  })
}
