const MOST_BYTES = 4_000_000

/**
 * The text of a file as people have it: UTF-8 with or without a byte-order mark, UTF-16 from a
 * spreadsheet, or the old Western code page.
 * @throws Error with a sentence when the file is too large.
 */
export async function readTextFile(file: File): Promise<string> {
  if (file.size > MOST_BYTES)
    throw new Error(`The file has ${Math.round(file.size / 1e6)} MB. At most 4 MB; split the list.`)
  const bytes = new Uint8Array(await file.arrayBuffer())
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return new TextDecoder('utf-16le').decode(bytes)
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes)
  } catch {
    return new TextDecoder('windows-1252').decode(bytes)
  }
}
