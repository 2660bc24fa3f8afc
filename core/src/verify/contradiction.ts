import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { pointErrors, type LoopScale, type PointErrors, type Reading } from './reading-errors.ts'
import { plausibility } from './plausible.ts'
import { atMost, type Tolerance } from './tolerance.ts'

/** A part that is off by this many tolerances, and by this much of span, is no scatter. */
const FAR_TOLERANCES = 4
const FAR_PCT = 2
/** A series has to be read at so many other points before one of them is called the odd one. */
const LEAST_OTHERS = 3

const far = (error_pct: number | null, allowed_pct: number): boolean =>
  error_pct !== null && Math.abs(error_pct) > Math.max(FAR_TOLERANCES * allowed_pct, FAR_PCT)

const ask = (where: string, says: string): Finding => ({
  code: 'CONTRADICTION',
  severity: 'warn',
  where: [where],
  says,
})

/** A reading that lies far off while what stands before and behind it on the line agrees: both cannot be. */
function between(scale: LoopScale, r: Reading, p: PointErrors): Finding[] {
  const { allowed_pct: T } = p
  const unit = printedUnit(scale.input.unit)
  const applied = `${sayNumber(p.applied)} ${unit}`
  if (r.loopCurrent_mA === null || p.saturated) return []
  const mA = `${sayNumber(r.loopCurrent_mA)} mA`
  const ofCurrent = p.current_pct
  if (r.controller !== null && far(ofCurrent, T) && far(p.receiver_pct, T) && within(p.loop_pct, T))
    return [
      ask(
        'loopCurrent_mA',
        `${mA} does not belong to ${applied}, and the controller shows what is applied. The controller knows the loop only by its current: read the current again, or confirm it.`,
      ),
    ]
  if (r.pv !== null && far(p.sensor_pct, T) && far(p.output_pct, T) && within(ofCurrent, T))
    return [
      ask(
        'pv',
        `The transmitter’s ${sayNumber(r.pv)} ${unit} does not belong to ${mA}, and the current does belong to ${applied}. Read the transmitter again, or confirm it.`,
      ),
    ]
  return []
}

const within = (error_pct: number | null, T: number): boolean =>
  error_pct !== null && atMost(Math.abs(error_pct), Math.max(T, FAR_PCT / 2))

type Part = readonly [column: string, of: (p: PointErrors) => number | null, name: string]
const PARTS: readonly Part[] = [
  ['pv', (p) => p.sensor_pct, 'The transmitter’s reading'],
  // Where the transmitter was not read the current answers to what is applied.
  ['loopCurrent_mA', (p) => p.output_pct ?? p.current_pct, 'The current'],
  ['controller', (p) => p.receiver_pct, 'The controller’s value'],
]

/** Residual of a point about the straight line through the others, and the largest of theirs. */
function oddness(
  all: readonly { readonly x: number; readonly y: number }[],
  i: number,
): { readonly own: number; readonly others: number } | null {
  const others = all.filter((_, k) => k !== i)
  const it = all[i]
  if (!it || others.length < LEAST_OTHERS) return null
  const n = others.length
  const mx = others.reduce((s, o) => s + o.x, 0) / n
  const my = others.reduce((s, o) => s + o.y, 0) / n
  const sxx = others.reduce((s, o) => s + (o.x - mx) ** 2, 0)
  if (sxx === 0) return null
  const k = others.reduce((s, o) => s + (o.x - mx) * (o.y - my), 0) / sxx
  const left = (o: { x: number; y: number }) => Math.abs(o.y - (my + k * (o.x - mx)))
  return { own: left(it), others: Math.max(...others.map(left)) }
}

/** One point of a series that lies off where all the others make a line: a slip of the pen more often than a fault. */
function oddOnes(points: readonly PointErrors[]): ReadonlyMap<number, Finding> {
  const out = new Map<number, Finding>()
  for (const [column, of, name] of PARTS) {
    const series = points.flatMap((p) => {
      const y = of(p)
      return y === null || p.withinTolerance === null ? [] : [{ x: p.level_pct, y, p }]
    })
    // A limit or a cutoff bends the ends: only a point in between is odd by itself.
    const [lowest, highest] = [Math.min(...series.map((s) => s.x)), Math.max(...series.map((s) => s.x))]
    const odd = series.flatMap((s, i) => {
      const o = s.x > lowest && s.x < highest ? oddness(series, i) : null
      return o && far(o.own, s.p.allowed_pct) && atMost(o.others, s.p.allowed_pct) ? [s.p] : []
    })
    const [only] = odd
    if (only && odd.length === 1 && !out.has(only.index))
      out.set(
        only.index,
        ask(
          column,
          `${name} is off here by ${sayNumber(Math.abs(of(only) ?? 0), 2)} % of span, and at no other point: no device does that by itself. Read it again, or confirm it.`,
        ),
      )
  }
  return out
}

/**
 * Everything about a set of readings that a person has to look at again before they are judged: values that look like
 * a slip, and readings that cannot all be true.
 * @returns by the reading's place in the plan; nothing for a reading that raises no question
 */
export function questions(
  scale: LoopScale,
  tolerance: Tolerance,
  readings: readonly Reading[],
): ReadonlyMap<number, readonly Finding[]> {
  const points = readings.flatMap((r) => pointErrors(scale, tolerance, r) ?? [])
  const odd = oddOnes(points)
  return new Map(
    readings.flatMap((r) => {
      const slips = plausibility(scale, r)
      const p = points.find((x) => x.index === r.index)
      const said = p ? between(scale, r, p) : []
      const one = odd.get(r.index)
      // What stands against its neighbours is told once: as odd among the others only where nothing else is.
      const asked = [...slips, ...said, ...(one && slips.length + said.length === 0 ? [one] : [])]
      const once = asked.filter((f, i) => asked.findIndex((g) => g.where[0] === f.where[0]) === i)
      return once.length > 0 ? [[r.index, once] as const] : []
    }),
  )
}
