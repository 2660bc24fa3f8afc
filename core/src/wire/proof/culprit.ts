import type { Wiring } from '../../part/wiring.ts'
import { singleChanges, type Change } from './changes.ts'
import { works } from './judge.ts'
import type { Senses } from './rule.ts'

/** More would keep a page waiting. */
const MOST_TRIED = 3_000

/**
 * The single things that, put right, make everything hold; the most telling first. Searched, not guessed: each is
 * solved in every state.
 * @param most - how many are wanted
 */
export function culprits(w: Wiring, senses: Senses | null = null, most = 1): Change[] {
  const out: Change[] = []
  for (const change of singleChanges(w).slice(0, MOST_TRIED)) {
    if (out.length >= most) break
    if (works(change.wiring, senses)) out.push(change)
  }
  return out
}
