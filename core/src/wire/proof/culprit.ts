import { knownParts, type Wiring } from '../../part/wiring.ts'
import { connect } from '../connect/index.ts'
import { isUsual, singleChanges, type Change } from './changes.ts'
import { NOTHING_MEANT, type Meant } from './states.ts'
import { judgeWiring, unheldIn, works } from './judge.ts'

/** More would keep a page waiting. */
const MOST_TRIED = 3_000
/** Of two mistakes one is looked for among those that lead towards the usual wiring. */
const MOST_WEIGHED = 60

/** What is to be put right, and whether everything holds then. */
export interface Culprit extends Change {
  readonly mendsAll: boolean
}

/**
 * The single things that, put right, make everything hold; the most telling first. Searched, not guessed: each is
 * solved in every state. Where two things are wrong, the one after which the fewest statements fail.
 * @param most - how many are wanted
 * @returns none where the parts themselves do not go together, or what their labels say: no wire is to blame for that
 */
export function culprits(w: Wiring, meant: Meant = NOTHING_MEANT, most = 1): Culprit[] {
  const inField = knownParts(w).filter((p) => ['transmitter', 'sensor'].includes(p.kind.duty)).length
  if (inField === 1 && connect(w, meant.relays).kind === 'cannot') return []
  const changes = singleChanges(w, meant.relays).slice(0, MOST_TRIED)
  const out: Culprit[] = []
  for (const change of changes) {
    if (out.length >= most) break
    if (works(change.wiring, meant) && judgeWiring(change.wiring, meant).verdict !== 'wrong')
      out.push({ ...change, mendsAll: true })
  }
  // Wired as these parts usually are, and still wrong: it is a label, and no wire is to blame.
  if (out.length > 0 || isUsual(w, meant.relays)) return out
  const now = unheldIn(w, meant)
  const weighed = changes
    .slice(0, MOST_WEIGHED)
    .map((change, i) => ({ change, left: unheldIn(change.wiring, meant), i }))
    .sort((a, b) => a.left - b.left || a.i - b.i)
  return weighed
    .filter((x) => x.left <= now)
    .slice(0, most)
    .map((x) => ({ ...x.change, mendsAll: false }))
}
