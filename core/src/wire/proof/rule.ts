import type { KnownPart, Wiring } from '../../part/wiring.ts'
import type { Meant, SolvedState } from './states.ts'

/** What a rule is made from. */
export interface Proving {
  readonly w: Wiring
  readonly parts: readonly KnownPart[]
  readonly meant: Meant
  /** Terminals that wires, cables and strips make one. */
  readonly nets: (without?: string) => (at: string) => string
}

/**
 * What must hold for a part to do its work. `look` is for what does not change what the circuit does today: a missing
 * suppressor, a meter left in.
 */
export interface Rule {
  readonly part: string
  readonly code: string
  /** What must hold, in a sentence. */
  readonly says: string
  readonly weight: 'stop' | 'look'
  /** Terminals that it is about; where the culprit is looked for first. */
  readonly at?: readonly string[]
  /** In one state; null where it says nothing about that state. */
  readonly holds?: (s: SolvedState) => boolean | null
  /** Over all states together. */
  readonly holdsAcross?: (all: readonly SolvedState[]) => boolean
  /** What is there instead, in words. */
  readonly instead?: (s: SolvedState) => string
}
