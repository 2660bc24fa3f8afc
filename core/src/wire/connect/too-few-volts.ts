import { AT_REST, energise } from '../../part/energise.ts'
import { address, knownParts, type Wiring } from '../../part/wiring.ts'
import { sayNumber } from '../../quantity/round.ts'

/** What a failed transmitter sends at the most, mA. @see NAMUR NE 43 */
const MOST_mA = 21

/**
 * Whether a loop that is wired as it must be leaves its transmitter the volts that it needs at the highest current;
 * carried on from two currents at which it works, for beyond its end it holds none.
 * @returns what is missing and what would fit, in a sentence; null where there is enough, or no loop
 */
export function tooFewVolts(w: Wiring): string | null {
  const parts = knownParts(w)
  const tx = parts.find((p) => p.kind.loopDevice !== undefined)
  const needs = tx?.kind.loopDevice?.(tx.s, false)
  if (!tx || !needs) return null
  const left = (current_mA: number): number | null => {
    const e = energise(w, { ...AT_REST, current_mA })
    const [a, b] = [e.volts(address(tx.id, 'plus')), e.volts(address(tx.id, 'minus'))]
    return a === null || b === null ? null : a - b
  }
  const [v4, v6] = [left(4), left(6)]
  if (v4 === null || v6 === null || v4 < needs.lift_V) return null
  const at = (mA: number) => v4 + ((v6 - v4) / 2) * (mA - 4)
  const missing_V = needs.lift_V - at(MOST_mA)
  if (missing_V <= 0) return null
  const ohm = missing_V / (MOST_mA / 1000)
  const card = parts.find((p) => typeof p.s['shunt_ohm'] === 'number')
  const shunt = Number(card?.s['shunt_ohm'] ?? 0)
  const fits = [
    ...(card && shunt - ohm >= 10 ? [`${Math.floor(shunt - ohm)} Ω or less at ${card.id}`] : []),
    `${sayNumber(Math.ceil(missing_V * 10) / 10)} V more from what feeds it`,
    `a transmitter that needs ${sayNumber(Math.floor(at(MOST_mA) * 10) / 10)} V or less`,
  ]
  const works = (1000 * (v4 - needs.lift_V)) / ((v4 - v6) * 500) + 4
  return `${tx.id} would have ${sayNumber(at(MOST_mA), 3)} V left at ${MOST_mA} mA and needs ${sayNumber(needs.lift_V)} V: it works up to ${sayNumber(Math.floor(works * 10) / 10)} mA only. What fits: ${fits.join('; ')}.`
}
