import { worstFirst, type Finding } from '../finding.ts'
import type { Family, SetUpResult } from '../family/family.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { rangeIn } from '../signal/range-in.ts'
import { judgeRelay, judgeRelaysTogether } from '../signal/relay-judgement.ts'
import { soundTrip } from '../signal/relay-plan.ts'
import { tripSheet } from '../signal/trip.ts'
import type { Range } from '../signal/stage.ts'
import { inUnits } from './sheet-units.ts'
import { entryPath, type LoopFacts } from './facts.ts'

/** Ends closer than this share of span are the same range. */
const SAME = 1e-3
const same = (a: Range, b: Range): boolean =>
  Math.max(Math.abs(a.low - b.low), Math.abs(a.high - b.high)) <= SAME * Math.abs(b.high - b.low)
const say = (r: Range) => `${sayNumber(r.low, 6)} to ${sayNumber(r.high, 6)} ${printedUnit(r.unit)}`

/** The change that takes the loop's range over into the set-up, where the family knows how. */
function takeFromPath(family: Family, facts: LoopFacts): Finding['fix'] {
  const values = Object.entries(family.start?.({ range: facts.range, shows: facts.shows }) ?? {})
  const set = values.flatMap(([name, value]) =>
    typeof value === 'number' || typeof value === 'string' ? [{ path: entryPath(name), value }] : [],
  )
  return set.length > 0 ? { label: 'Take the range of the signal path into the set-up', set } : undefined
}

/**
 * What the device is told against the range that the signal path has; nothing where they agree or do not
 * compare. A range that nobody typed is never offered to the path.
 */
export function rangeFinding(facts: LoopFacts): Finding | null {
  const { family, range, shows } = facts
  if (!family?.ranges || !range) return null
  const given = [range, ...(shows && shows !== range ? [shows] : [])]
  const pairs = given.flatMap((g) =>
    (family.ranges?.(facts.values) ?? []).flatMap((i) => {
      const converted = rangeIn(i, g.unit)
      return converted ? [{ g, converted }] : []
    }),
  )
  const [first] = pairs
  if (!first || pairs.some(({ g, converted }) => same(converted, g))) return null
  const untyped = (family.rangeEntries?.(facts.values) ?? []).filter((n) => facts.entries[n] !== 'typed')
  if (untyped.length > 0) {
    const fix = takeFromPath(family, facts)
    return {
      code: 'SET_UP_RANGE_ASSUMED',
      severity: 'warn',
      where: untyped,
      says: `The range of this set-up is not entered: ${say(first.converted)} is only a default, and the signal path has ${say(first.g)}.`,
      ...(fix ? { fix } : {}),
    }
  }
  const turned = pairs.some(({ g, converted }) =>
    same({ ...converted, low: converted.high, high: converted.low }, g),
  )
  return {
    code: turned ? 'SET_UP_REVERSED' : 'SET_UP_RANGE_DIFFERS',
    severity: turned ? 'stop' : 'warn',
    where: ['transmitter', 'setUp'],
    says: turned
      ? `The device is told ${say(first.converted)} and the signal path runs the other way, ${say(first.g)}: the 4 mA and the 20 mA point are exchanged.`
      : `The device is told ${say(first.converted)}; the signal path has ${say(first.g)}.`,
    evidence: [
      { label: 'set-up', value: say(first.converted) },
      { label: 'signal path', value: say(first.g) },
    ],
    fix: {
      label: `Set the signal path to ${say(first.converted)}`,
      set: (['low', 'high'] as const).map((end) => ({
        path: `path.transmitter.${first.g === range ? 'range' : 'shows'}.${end}`,
        value: first.converted[end],
      })),
    },
  }
}

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

/**
 * Everything a set-up tells, the signal path included; null for a loop of which nobody has told what it is.
 * @param current_mA - where the signal path stands while it is looked at
 */
export function judgeSetUp(facts: LoopFacts, current_mA: number | null = null): SetUpResult | null {
  if (!facts.family) return null
  const result = facts.family.compute(facts.values, { current_mA, root: facts.root })
  const range = result.rows.length > 0 ? rangeFinding(facts) : null
  const told = [...result.findings, ...relayFindings(facts)]
  const findings = proved(range ? [...told, range] : told, facts)
  const sheet = inUnits([...result.sheet, ...relaySheet(facts)], facts.sheetUnits)
  return { ...result, sheet, findings: worstFirst(findings) }
}
