import type { Family } from '../family/family.ts'
import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { rangeIn } from '../signal/range-in.ts'
import type { Range } from '../signal/stage.ts'
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
