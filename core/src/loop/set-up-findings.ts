import { worstFirst, type Finding } from '../finding.ts'
import { NOT_LIVE, settingsOfFamily, type Live, type SetUpResult } from '../instrument/family.ts'
import { familyOf } from '../instrument/index.ts'
import { computeSetUp, type SetUp } from '../instrument/set-up.ts'
import { sayNumber } from '../quantity/round.ts'
import { settingsOf } from '../quantity/setting.ts'
import { convertRangeEnd, printedUnit } from '../quantity/units.ts'
import { stageOf, type Range, type Stage } from '../signal/stage.ts'

/** Ends closer than this share of span are the same range. */
const SAME = 1e-3

/** One range in the other's unit; null where they measure different things. */
function inUnitOf(range: Range, unit: string): Range | null {
  const low = convertRangeEnd(range.low, range.unit, unit)
  const high = convertRangeEnd(range.high, range.unit, unit)
  return low.kind === 'value' && high.kind === 'value' ? { low: low.value, high: high.value, unit } : null
}
const same = (a: Range, b: Range): boolean =>
  Math.max(Math.abs(a.low - b.low), Math.abs(a.high - b.high)) <= SAME * Math.abs(b.high - b.low)
const say = (r: Range) => `${sayNumber(r.low, 6)} to ${sayNumber(r.high, 6)} ${printedUnit(r.unit)}`

/** What the device is told against the range that the signal path has; nothing where they agree or do not compare. */
export function rangeFinding(setUp: SetUp, stages: readonly Stage[]): Finding | null {
  const family = familyOf(setUp.family)
  const transmitter = stageOf(stages, 'transmitter')
  if (!family?.ranges || !transmitter) return null
  const given = [transmitter.range, ...(transmitter.shows ? [transmitter.shows] : [])]
  const implied = family.ranges(settingsOf(settingsOfFamily(family), setUp.values))
  const pairs = given.flatMap((g) =>
    implied.flatMap((i) => {
      const converted = inUnitOf(i, g.unit)
      return converted ? [{ g, converted }] : []
    }),
  )
  const [first] = pairs
  if (!first || pairs.some(({ g, converted }) => same(converted, g))) return null
  const turned = pairs.some(({ g, converted }) =>
    same({ ...converted, low: converted.high, high: converted.low }, g),
  )
  return {
    code: turned ? 'SET_UP_REVERSED' : 'SET_UP_RANGE_DIFFERS',
    severity: turned ? 'stop' : 'warn',
    where: ['transmitter', 'setUp'],
    says: turned
      ? `The device is told ${say(first.converted)} and the signal path runs the other way, ${say(first.g)}: the 4 mA and the 20 mA point are exchanged.`
      : `The device is told ${say(first.converted)}; the signal path has ${say(first.g)}. One of the two is out of date.`,
    evidence: [
      { label: 'set-up', value: say(first.converted) },
      { label: 'signal path', value: say(first.g) },
    ],
    fix: {
      label: `Set the signal path to ${say(first.converted)}`,
      set: [
        { path: 'path.transmitter.range.low', value: first.converted.low },
        { path: 'path.transmitter.range.high', value: first.converted.high },
      ],
    },
  }
}

/** What follows from a loop's set-up, with what it says against the signal path; worst first. */
export function judgeSetUp(
  setUp: SetUp,
  stages: readonly Stage[],
  live: Live = NOT_LIVE,
): SetUpResult | null {
  const result = computeSetUp(setUp, live)
  if (!result) return null
  const range = result.rows.length > 0 ? rangeFinding(setUp, stages) : null
  return { ...result, findings: worstFirst(range ? [...result.findings, range] : result.findings) }
}
