import { shownAt, type StandIn } from './stand-in.ts'

const SECONDS = { s: 1, min: 60, h: 3600, d: 86_400 } as const
/** A rate as what is counted and in how many seconds; null for a unit that counts nothing. `kg/h` is kg in 3600 s. */
export function countedUnit(unit: string): { readonly unit: string; readonly per_s: number } | null {
  const [, what, per] = /^(.+)\/(s|min|h|d)$/.exec(unit) ?? []
  return what === undefined || per === undefined || what === 'm' || what === 'mm'
    ? null
    : { unit: what, per_s: SECONDS[per as keyof typeof SECONDS] }
}

/** Pieces that the time since the last count is cut into: the input moves in the first of them and rests after. */
const PIECES = 40
/** What went through from one moment to another, in the counted unit; a zero that is off counts too. */
function passed(d: StandIn, from_s: number, to_s: number, per_s: number): readonly [number, number] {
  if (!d.powered || to_s <= from_s) return [0, 0]
  const turn = Math.min(to_s, Math.max(from_s, d.motion.at_s + 60))
  const pieces = [
    ...Array.from({ length: PIECES }, (_, i) => [
      from_s + ((turn - from_s) * i) / PIECES,
      (turn - from_s) / PIECES,
    ]),
    [turn, to_s - turn],
  ] as const
  return pieces.reduce<readonly [number, number]>(
    ([forward, net], [at = 0, long = 0]) => {
      const amount = long <= 0 ? 0 : (shownAt(d, at + long / 2) * long) / per_s
      return [forward + Math.max(0, amount), net + amount]
    },
    [0, 0],
  )
}

/** What both totalizers stand at: the first counts forward only, the second forward less backward. Null without a rate. */
export function totalsAt(
  d: StandIn,
  t_s: number,
): readonly { readonly value: number; readonly unit: string }[] {
  const counted = countedUnit(d.unit)
  if (!counted) return []
  const [forward, net] = passed(d, d.totals.at_s, t_s, counted.per_s)
  const [first, second] = d.totals.counted
  return [
    { value: first + forward, unit: counted.unit },
    { value: second + net, unit: counted.unit },
  ]
}
/** The count written down, so that what is changed now counts from now. */
export const countedUp = (d: StandIn, t_s: number): StandIn['totals'] => {
  const [first, second] = totalsAt(d, t_s)
  return { at_s: t_s, counted: first && second ? [first.value, second.value] : d.totals.counted }
}
