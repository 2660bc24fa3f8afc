import { worstFirst, type Finding } from '../finding.ts'
import type { SetUpResult } from '../family/family.ts'
import { printedUnit } from '../quantity/units.ts'
import { judgeRelay, judgeRelaysTogether } from '../signal/relay-judgement.ts'
import { soundTrip } from '../signal/relay-plan.ts'
import { tripSheet } from '../signal/trip.ts'
import { inUnits, type Entered } from './sheet-units.ts'
import type { LoopFacts } from './facts.ts'
import { pulseFinding } from './pulse-finding.ts'
import { rangeFinding } from './range-finding.ts'

/** What the relays of a loop tell, each and together. */
export function relayFindings(facts: LoopFacts): Finding[] {
  const { relays, relayPlace } = facts
  return relays && relayPlace
    ? [
        ...relays.plans.flatMap((p) => judgeRelay(p, relayPlace)),
        ...judgeRelaysTogether(relays.plans, relays.unit),
      ]
    : []
}
const ON_INVALID = { off: 'relay off', on: 'relay on', hold: 'holds as it was' } as const
/** The relays as lines of the settings sheet, each in the form that its controller asks for. */
function relaySheet(facts: LoopFacts): SetUpResult['sheet'] {
  const { relays } = facts
  return (relays?.plans ?? []).flatMap((p) => [
    ...tripSheet(soundTrip(p.trip), p.form, printedUnit(relays?.unit ?? '')).map((l) => ({
      says: `${p.name}: ${l.says.toLowerCase()}`,
      value: l.value,
      part: 'Relays',
    })),
    { says: `${p.name}: on a lost signal`, value: ON_INVALID[p.onInvalid], part: 'Relays' },
  ])
}

/** Good is proved: usual values that fit each other tell nothing of the meter in the field. */
const proved = (findings: readonly Finding[], facts: LoopFacts): readonly Finding[] =>
  Object.values(facts.entries).includes('typed')
    ? findings
    : [
        ...findings.filter((f) => f.severity !== 'good'),
        {
          code: 'NOT_JUDGED',
          severity: 'note',
          where: ['setUp'],
          says: 'Nothing is entered yet. These are typical values; they are not judged.',
        },
      ]

/** Numbers of the set-up with their units. */
const enteredOf = ({ family, values }: LoopFacts): Entered[] =>
  (family?.settings ?? []).flatMap((s) => {
    const value = values[s.name]
    return s.kind === 'number' && typeof value === 'number' && s.unit !== '' ? [{ value, unit: s.unit }] : []
  })

/**
 * Everything a set-up tells, the signal path included; null for a loop of which nobody has told what it is.
 * @param current_mA - where the signal path stands while it is looked at
 */
export function judgeSetUp(facts: LoopFacts, current_mA: number | null = null): SetUpResult | null {
  if (!facts.family) return null
  const result = facts.family.compute(facts.values, { current_mA, root: facts.root })
  const range = result.rows.length > 0 ? rangeFinding(facts) : null
  const pulses = pulseFinding(facts)
  const told = [
    ...result.findings,
    ...relayFindings(facts),
    ...(range ? [range] : []),
    ...(pulses ? [pulses] : []),
  ]
  const findings = proved(told, facts)
  const sheet = inUnits([...result.sheet, ...relaySheet(facts)], facts.sheetUnits, enteredOf(facts))
  return { ...result, sheet, findings: worstFirst(findings) }
}
