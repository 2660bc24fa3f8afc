import { SignedHead } from '@calm/contract/plant-log'
import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs'
import { dirname } from 'node:path'

/** Adds a head to a file that only grows, one line a head. */
export function keepHead(file: string, head: SignedHead): void {
  if (!existsSync(file)) mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
  appendFileSync(file, `${JSON.stringify(head)}\n`, { mode: 0o600 })
}

/** Heads of a file, with the numbers of the lines that hold none: a line that a crash cut, or that somebody wrote. */
export function readHeads(file: string): {
  readonly heads: readonly SignedHead[]
  readonly unreadable: readonly number[]
} {
  const heads: SignedHead[] = []
  const unreadable: number[] = []
  for (const [i, line] of readFileSync(file, 'utf8').split('\n').entries()) {
    if (line.trim() === '') continue
    try {
      heads.push(SignedHead.parse(JSON.parse(line)))
    } catch {
      unreadable.push(i + 1)
    }
  }
  return { heads, unreadable }
}

/** Heads that were kept in a file; none where there is none. */
export const keptHeads = (file: string | null): readonly SignedHead[] =>
  file !== null && existsSync(file) ? readHeads(file).heads : []
