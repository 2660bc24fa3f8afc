import { worstFirst, type Finding } from '../../finding.ts'
import { knownParts, type Wiring } from '../../part/wiring.ts'
import { explain } from '../explain.ts'
import { withLight } from '../lit-display.ts'
import { netsOf } from './nets.ts'
import type { Proving, Rule } from './rule.ts'
import { discreteRules } from './rules-discrete.ts'
import { lineRules, loopRules } from './rules-loop.ts'
import { relayRules } from './rules-relays.ts'
import { powerRules, ratingRules } from './rules-power.ts'
import { judgedStates, NOTHING_MEANT, solveState, type Meant, type SolvedState } from './states.ts'

/** A statement of a part, held against every state. */
export interface Statement {
  readonly part: string
  readonly code: string
  readonly says: string
  readonly weight: Rule['weight']
  readonly at: readonly string[]
  readonly held: boolean
  /** The state in which it first did not hold, and what was there instead. */
  readonly failed: { readonly state: string; readonly instead: string | null } | null
}
export type WiringVerdict = 'proved' | 'not proved' | 'wrong'
export interface WiringJudgement {
  readonly verdict: WiringVerdict
  readonly states: readonly SolvedState[]
  readonly statements: readonly Statement[]
  /** What the solved circuit complains of in any of its states, the worst first. */
  readonly complaints: readonly Finding[]
}

/** Without one of these nothing has arrived anywhere: there is nothing to prove. */
const ARRIVALS = ['READS', 'SHOWS', 'BIT_FOLLOWS', 'DRIVEN', 'LINE_RESTS', 'MOVES_BACK']

/** What has to hold in this wiring, part by part. */
export function rulesOf(w: Wiring, meant: Meant): Rule[] {
  const parts = knownParts(w)
  const proving: Proving = { w, parts, meant, nets: (without) => netsOf(w, parts, without) }
  return [powerRules, loopRules, lineRules, discreteRules, relayRules, ratingRules].flatMap((rules) =>
    rules(proving),
  )
}

/** As it is once the set-up is in the device. */
const asMeant = (w: Wiring, meant: Meant): Wiring => (meant.lit ? withLight(w) : w)

function statementOf(r: Rule, all: readonly SolvedState[]): Statement {
  const { part, code, says, weight, at = [] } = r
  const common = { part, code, says, weight, at }
  const failing =
    r.holds !== undefined
      ? all.find((s) => r.holds?.(s) === false)
      : r.holdsAcross?.(all) === false
        ? all.at(-1)
        : undefined
  return failing
    ? {
        ...common,
        held: false,
        failed: { state: failing.title, instead: r.instead?.(failing) ?? null },
      }
    : { ...common, held: true, failed: null }
}

/**
 * Whether a wiring does its work, proved in every state: each current, failure currents, each sensor at rest and
 * actuated, and from nothing as when power comes back. Right is what every statement of every part says, never what
 * nobody complained of.
 * @param meant - what the loop’s own signal means, and what acts on its value
 */
export function judgeWiring(drawn: Wiring, meant: Meant = NOTHING_MEANT): WiringJudgement {
  const w = asMeant(drawn, meant)
  const parts = knownParts(w)
  const states = judgedStates(parts, meant.relays).map((s) => solveState(w, s))
  const statements = rulesOf(w, meant).map((r) => statementOf(r, states))
  const seen = new Set<string>()
  const complaints = worstFirst(
    states.flatMap((s) =>
      explain(w, s.bench, s.e)
        .filter((f) => f.severity === 'stop' || f.severity === 'warn')
        .flatMap((f) => {
          const key = `${f.code} ${f.where.join(' ')}`
          if (seen.has(key)) return []
          seen.add(key)
          return [{ ...f, says: states.length > 1 && s !== states[0] ? `At ${s.title}: ${f.says}` : f.says }]
        }),
    ),
  )
  const fails = (weight: Rule['weight']) => statements.some((s) => !s.held && s.weight === weight)
  const arrived = statements.some((s) => s.held && ARRIVALS.includes(s.code))
  const verdict: WiringVerdict =
    fails('stop') || complaints.some((f) => f.severity === 'stop')
      ? 'wrong'
      : fails('look') || complaints.length > 0 || !arrived
        ? 'not proved'
        : 'proved'
  return { verdict, states, statements, complaints }
}

/** Whether everything that would stop the work holds; ends at the first thing that does not. */
export function works(drawn: Wiring, meant: Meant): boolean {
  const w = asMeant(drawn, meant)
  const rules = rulesOf(w, meant).filter((r) => r.weight === 'stop')
  if (!rules.some((r) => ARRIVALS.includes(r.code))) return false
  const states: SolvedState[] = []
  for (const s of judgedStates(knownParts(w), meant.relays)) {
    const solved = solveState(w, s)
    if (rules.some((r) => r.holds?.(solved) === false)) return false
    states.push(solved)
  }
  return rules.every((r) => r.holdsAcross?.(states) !== false)
}

/** How many statements do not hold: the fewer, the nearer to right. */
export function unheldIn(drawn: Wiring, meant: Meant): number {
  const w = asMeant(drawn, meant)
  const states = judgedStates(knownParts(w), meant.relays).map((s) => solveState(w, s))
  return rulesOf(w, meant).filter((r) => !statementOf(r, states).held).length
}
