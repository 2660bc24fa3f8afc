import type { TreeHead } from '@calm/core/record/plant-log/head'
import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs'
import { dirname } from 'node:path'
import { z } from 'zod'

/** A head as it leaves the house: whoever has an old one can tell whether the record was rolled back or made anew. */
export interface SignedHead extends TreeHead {
  readonly key: string
  readonly signature: string
}

export const SignedHead = z.strictObject({
  v: z.literal(1),
  plant: z.uuid(),
  size: z.int().min(0),
  root: z.string().regex(/^[0-9a-f]{64}$/),
  at: z.iso.datetime(),
  key: z.string().regex(/^[0-9a-f]{64}$/),
  signature: z.string().regex(/^[0-9a-f]{128}$/),
})

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
