import { sayNumber } from '../../quantity/round.ts'
import { address, sayTerminal, type KnownPart } from '../../part/wiring.ts'
import type { Proving, Rule } from './rule.ts'
import type { SolvedState } from './states.ts'

/** An electronic sensor without a label of its own: typical. */
const TYPICAL_SENSOR = { min_V: 10, max_V: 30 }

const across = (s: SolvedState, p: KnownPart, plus: string, minus: string): number | null => {
  const [a, b] = [s.e.volts(address(p.id, plus)), s.e.volts(address(p.id, minus))]
  return a === null || b === null ? null : a - b
}
const sayVolts = (v: number | null) => (v === null ? 'no reading' : `${sayNumber(v, 3)} V`)

/** Where a part gets its power, plus first, and what its label asks for; null where it lives on its signal. */
function supplyOf(p: KnownPart): {
  readonly plus: string
  readonly minus: string
  readonly min_V: number
  readonly max_V: number | null
} | null {
  const has = (t: string) => p.terminals.some((x) => x.id === t)
  const label = p.kind.supplyLabel?.(p.s)
  const least = typeof p.s['min_V'] === 'number' ? p.s['min_V'] : null
  if (has('V+') && has('V-'))
    // The label of a passive output tells what its loop needs, not what the device lives on.
    return {
      plus: 'V+',
      minus: 'V-',
      ...((p.kind.wiredAs === 'passive' ? null : label) ?? { min_V: least ?? 10, max_V: null }),
    }
  if (has('bn') && has('bu')) return { plus: 'bn', minus: 'bu', ...(label ?? TYPICAL_SENSOR) }
  if (p.kind.wiredAs === 'threeWire')
    return { plus: 'plus', minus: 'minus', ...(label ?? { min_V: least ?? 10, max_V: null }) }
  return null
}

/** Power where it is needed: volts with their sign, mains with its earth. */
export function powerRules({ w, parts }: Proving): Rule[] {
  return parts.flatMap((p): Rule[] => {
    const out: Rule[] = []
    const supply = supplyOf(p)
    if (supply) {
      const { plus, minus, min_V, max_V } = supply
      out.push({
        part: p.id,
        code: 'SUPPLIED',
        weight: 'stop',
        at: [address(p.id, plus), address(p.id, minus)],
        says: `${p.id} gets ${max_V === null ? `${min_V} V or more` : `${min_V} to ${max_V} V`}, plus at ${sayTerminal(w, address(p.id, plus))}`,
        holds: (s) => {
          const v = across(s, p, plus, minus)
          return v !== null && v >= min_V && (max_V === null || v <= max_V)
        },
        instead: (s) => sayVolts(across(s, p, plus, minus)),
      })
    }
    const lives = p.kind.loopDevice?.(p.s, false)
    const isLeftFree =
      p.kind.duty === 'controller' &&
      !Object.values(w.wires).some((x) =>
        ['plus', 'minus'].some((t) => [x.from, x.to].includes(address(p.id, t))),
      )
    if (lives && !isLeftFree)
      out.push({
        part: p.id,
        code: 'LIFTED',
        weight: 'stop',
        at: [address(p.id, 'plus'), address(p.id, 'minus')],
        says: `${p.id} keeps ${lives.lift_V} to ${lives.max_V} V at its output, plus at +`,
        holds: (s) => {
          const v = across(s, p, 'plus', 'minus')
          return v !== null && v >= lives.lift_V - 1e-6 && v <= lives.max_V
        },
        instead: (s) => sayVolts(across(s, p, 'plus', 'minus')),
      })
    if (p.kind.duty !== 'mains' && p.terminals.some((t) => t.role === 'L'))
      out.push({
        part: p.id,
        code: 'MAINS',
        weight: 'stop',
        at: ['L', 'N', 'PE'].map((t) => address(p.id, t)),
        says: `${p.id} gets mains at L and N, and its earth`,
        holds: (s) => {
          const m = s.e.mains.get(p.id)
          return m !== undefined && m.fed && !m.swapped && m.earthed
        },
      })
    if (p.kind.duty === 'source')
      out.push({
        part: p.id,
        code: 'SUPPLY_HOLDS',
        weight: 'stop',
        at: [address(p.id, 'plus'), address(p.id, 'minus')],
        says: `${p.id} holds its voltage and feeds something`,
        holds: (s) => {
          const v = across(s, p, 'plus', 'minus')
          const feeds = Number(s.e.values[`I(${p.id}.n)`] ?? 0) > 1e-4
          return (
            v !== null &&
            Math.abs(v - Number(p.s['voltage_V'])) < 0.02 * Number(p.s['voltage_V']) &&
            (feeds || s.asked_mA === null)
          )
        },
        instead: (s) => sayVolts(across(s, p, 'plus', 'minus')),
      })
    return out
  })
}

/** Ratings: a resistor's watts, a fuse's amperes. */
export function ratingRules({ parts }: Proving): Rule[] {
  return parts.flatMap((p): Rule[] => {
    const watts = p.s['power_W']
    if (p.kind.looseUse === 'pulls' && typeof watts === 'number')
      return [
        {
          part: p.id,
          code: 'WATTS',
          weight: 'stop',
          says: `${p.id} turns no more than its ${watts} W into heat`,
          holds: (s) => Math.abs(Number(s.e.values[`P(${p.id})`] ?? 0)) <= watts,
          instead: (s) =>
            `it gets ${sayNumber(Number(s.e.values[`P(${p.id})`] ?? 0), 2)} W and is made for ${watts} W`,
        },
      ]
    const rating = p.s['rating_mA']
    if (p.kind.duty === 'feed' && typeof rating === 'number')
      return [
        {
          part: p.id,
          code: 'FUSE_RATING',
          weight: 'stop',
          says: `${p.id} carries no more than its ${rating} mA and is whole`,
          holds: (s) =>
            s.e.values[`state(${p.id})`] !== 'blown' &&
            Math.abs(Number(s.e.values[`I(${p.id}.a)`] ?? 0)) * 1000 <= rating,
          instead: (s) => `${sayNumber(Math.abs(Number(s.e.values[`I(${p.id}.a)`] ?? 0)) * 1000, 3)} mA`,
        },
      ]
    return []
  })
}
