import { rowsGuessed } from '@calm/core/logs/sniff/how-many'

/** As much of a file as is sent at once, in characters. */
const PIECE = 1_500_000
/** As much of a file as tells what it is. */
const HEAD_BYTES = 400_000
const HEAD_LINES = 2000
const LONGEST_LINE = 4_000_000

/** How the letters of a file are written, by its first bytes: devices write UTF-8, UTF-16 or the old Western code page. */
export function encodingOf(first: Uint8Array): 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252' {
  if (first[0] === 0xff && first[1] === 0xfe) return 'utf-16le'
  if (first[0] === 0xfe && first[1] === 0xff) return 'utf-16be'
  try {
    // A letter may be cut in two at the end.
    new TextDecoder('utf-8', { fatal: true }).decode(first, { stream: true })
    return 'utf-8'
  } catch {
    return 'windows-1252'
  }
}

const firstBytes = async (file: Blob) => new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer())
/** Line ends of any machine as one sign. */
const oneEnd = (text: string) => text.replace(/\r\n?/g, '\n')

/** The first lines of a file, whole ones. */
export async function headOf(file: Blob): Promise<string[]> {
  const bytes = await firstBytes(file)
  const lines = oneEnd(new TextDecoder(encodingOf(bytes)).decode(bytes)).split('\n')
  return (file.size > bytes.length ? lines.slice(0, -1) : lines).slice(0, HEAD_LINES)
}

const PARTS = 8
const PART_BYTES = 50_000
/** How many rows a file has, guessed by parts from all over it. */
export async function rowsIn(file: Blob): Promise<number> {
  const letters = new TextDecoder(encodingOf(await firstBytes(file)))
  const step = Math.max(PART_BYTES, Math.floor(file.size / PARTS))
  const parts: { bytes: number; text: string }[] = []
  for (let from = 0; from < file.size; from += step) {
    // Signs of two bytes stay whole.
    const even = from - (from % 2)
    const bytes = await file.slice(even, even + PART_BYTES).arrayBuffer()
    parts.push({ bytes: bytes.byteLength, text: letters.decode(bytes) })
  }
  return rowsGuessed(file.size, parts)
}

/**
 * A file in pieces of whole lines, as it is read: a file of gigabytes is never here whole.
 * @throws Error with a sentence where a line does not end
 */
export async function* piecesOf(file: Blob, most = PIECE): AsyncGenerator<string> {
  const letters = new TextDecoder(encodingOf(await firstBytes(file)))
  const reader = file.stream().getReader()
  let held = ''
  let isCutEnd = false
  for (;;) {
    const { done, value } = await reader.read()
    let text = done ? letters.decode() : letters.decode(value, { stream: true })
    // A line end of two signs may be cut between them.
    if (isCutEnd && text.startsWith('\n')) text = text.slice(1)
    isCutEnd = text.endsWith('\r')
    held += oneEnd(text)
    while (held.length >= most) {
      const end = held.lastIndexOf('\n', most)
      if (end < 0) break
      yield held.slice(0, end + 1)
      held = held.slice(end + 1)
    }
    if (held.length > LONGEST_LINE)
      throw new Error('A line of this file does not end: it is no table of measurements.')
    if (done) break
  }
  if (held !== '') yield held
}
