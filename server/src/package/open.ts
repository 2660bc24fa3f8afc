import { tooDeep } from '../http/depth.ts'
import { refused, type Refused } from '@calm/core/refused'
import { strFromU8, Unzip, UnzipInflate, UnzipPassThrough } from 'fflate'

/** Larger than any loop with decades of history, smaller than what would choke the server. */
const LARGEST_BYTES = 200e6
const LARGEST_FILE_BYTES = 100e6
const MOST_FILES = 2_000
/** Bytes of the archive read at a time: what comes out is counted between. */
const STEP = 64 * 1024

const TOO_LARGE = 'This package is too large to be a loop.'
const NO_ARCHIVE = 'This file is not a ZIP archive, or it was cut off. Fetch it again.'

/** A name that a package may give a file: no way out of its own folder, nothing that is a property of everything. */
const NAME = /^(?!.*(?:^|\/)\.{1,2}(?:\/|$))(?!__proto__)[\w][\w./ -]{0,190}$/

/**
 * The files of an archive, read piece by piece: what comes out is counted as it comes, whatever the archive says of
 * itself, so that a small file cannot grow without end.
 * @returns the files, or why it is no package
 */
export function openArchive(bytes: Uint8Array): ReadonlyMap<string, Uint8Array> | Refused {
  const files = new Map<string, Uint8Array>()
  const open = new Set<string>()
  let total = 0
  /** The first thing that is wrong; from then on nothing is taken out any more. */
  let wrong: string | null = null
  const misfit = (name: string): string | null => {
    if (files.size + open.size >= MOST_FILES) return TOO_LARGE
    if (!NAME.test(name)) return 'A file in this package has a name that no package of ours gives.'
    return files.has(name) || open.has(name) ? `${name} is in this package twice.` : null
  }
  const unzip = new Unzip((file) => {
    wrong ??= misfit(file.name)
    if (wrong !== null) return
    open.add(file.name)
    const chunks: Uint8Array[] = []
    let size = 0
    file.ondata = (error, chunk, final) => {
      if (error) wrong ??= NO_ARCHIVE
      if (wrong !== null) return
      size += chunk.length
      total += chunk.length
      if (size > LARGEST_FILE_BYTES || total > LARGEST_BYTES) {
        wrong = TOO_LARGE
        file.terminate()
        return
      }
      chunks.push(chunk)
      if (!final) return
      open.delete(file.name)
      files.set(file.name, joined(chunks, size))
    }
    file.start()
  })
  unzip.register(UnzipInflate)
  unzip.register(UnzipPassThrough)
  const said = (): string | null => wrong
  try {
    for (let at = 0; at < bytes.length && said() === null; at += STEP)
      unzip.push(bytes.subarray(at, at + STEP), at + STEP >= bytes.length)
  } catch {
    // The reader throws at bytes that are no archive.
    wrong ??= NO_ARCHIVE
  }
  const says = said() ?? (files.size === 0 || open.size > 0 ? NO_ARCHIVE : null)
  return says === null ? files : refused(says)
}

function joined(chunks: readonly Uint8Array[], size: number): Uint8Array {
  const out = new Uint8Array(size)
  let at = 0
  for (const c of chunks) {
    out.set(c, at)
    at += c.length
  }
  return out
}

/** JSON of a file of the package, or why it is none. */
export function jsonOf(bytes: Uint8Array | undefined, name: string): { data: unknown } | Refused {
  if (!bytes) return refused(`The package holds no ${name}.`, name)
  const text = strFromU8(bytes)
  if (tooDeep(text)) return refused(`${name} nests deeper than any package of ours.`, name)
  try {
    return { data: JSON.parse(text) as unknown }
  } catch {
    return refused(`${name} is not JSON.`, name)
  }
}
