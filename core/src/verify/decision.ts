import { sayNumber } from '../quantity/round.ts'
import { globalRisk, probabilityOut, spreadOfPopulation, type GlobalRisk } from './risk.ts'
import { atMost } from './tolerance.ts'

/** How an error is accepted: agreed before anything is read, and printed with the result. */
export const DECISION_RULES = ['simple', 'guarded'] as const
export type DecisionRule = (typeof DECISION_RULES)[number]
export const RULE_WORDS: Readonly<Record<DecisionRule, string>> = {
  simple: 'Simple acceptance: inside the tolerance is accepted',
  guarded: 'Guard band: accepted only inside the tolerance less the uncertainty',
}

export interface Decision {
  readonly rule: DecisionRule
  readonly accepted: boolean
  /** Acceptance limit, % of span. */
  readonly limit_pct: number
  /** Probability that the true error is outside the tolerance; null where the uncertainty was not stated. */
  readonly probabilityOut: number | null
}

/**
 * Whether an error is accepted by a rule.
 * @param U - expanded uncertainty, k = 2; 0 when not stated.
 * @see ILAC-G8; JCGM 106 for the probability
 */
export function decideBy(rule: DecisionRule, e: number, T: number, U: number): Decision {
  const limit_pct = rule === 'guarded' ? Math.max(0, T - U) : T
  return {
    rule,
    accepted: atMost(Math.abs(e), limit_pct),
    limit_pct,
    probabilityOut: U > 0 ? probabilityOut(e, T, U / 2) : null,
  }
}

/** Share of a plant's devices that is taken to be in tolerance where nobody knows better. */
const USUALLY_IN = 0.95

/**
 * Risks of a rule over many devices like this one: bad ones accepted and good ones rejected, as shares of all.
 * @see JCGM 106
 */
export function riskOf(rule: DecisionRule, T: number, U: number): GlobalRisk | null {
  if (!(T > 0) || !(U > 0)) return null
  const A = rule === 'guarded' ? Math.max(0, T - U) : T
  return globalRisk(T, A, U / 2, spreadOfPopulation(T, USUALLY_IN))
}
/** Both risks in a sentence, for loops of which 95 in 100 are in tolerance. */
export const sayRisk = (r: GlobalRisk): string =>
  `Risk of a wrong decision: ${sayProbability(r.falseAccept)} pass but are bad; ${sayProbability(r.falseReject)} fail but are good.`

/** A probability as people say it: never 0 or 100 where it is neither. */
export function sayProbability(p: number): string {
  if (p < 0.001) return 'below 0.1 %'
  if (p > 0.999) return 'above 99.9 %'
  return `${sayNumber(100 * p, 2)} %`
}
/** The decision in a sentence. */
export const sayDecision = (d: Decision): string =>
  `${d.accepted ? 'Accepted' : 'Not accepted'} by ${d.rule === 'simple' ? 'simple acceptance' : 'the guard band'} (limit ±${sayNumber(d.limit_pct, 3)} % of span)${
    d.probabilityOut === null
      ? '.'
      : `; the probability of being out of tolerance is ${sayProbability(d.probabilityOut)}.`
  }`
