import { sayNumber } from '../quantity/round.ts'

/** Velocities that pipes are built for, m/s. */
const BUILT_FOR = { liquid: [0.3, 5], gas: [2, 35] } as const
/** Beyond these a full flow is hardly what was meant, m/s. */
const HARDLY = { liquid: [0.05, 10], gas: [0.3, 40] } as const
/** What people type for m³/h, and how many m³/h one of it is. */
const UNITS = [
  ['l/s', 3.6],
  ['l/min', 0.06],
  ['l/h', 0.001],
  ['m³/d', 1 / 24],
  ['US gal/min', 0.2271247],
  ['m³/s', 3600],
  ['m³/min', 60],
] as const

/**
 * A full flow that moves too fast or too slowly for its pipe, with the units in which it would be usual.
 * @param v_m_s - velocity of the flow as entered
 * @param flow_m3h - as entered
 * @param perStandard - actual volume of one standard cubic metre, for a gas; null for a liquid
 * @returns null where it is usual enough
 */
export function flowSlip(
  v_m_s: number,
  flow_m3h: number,
  fluid: 'liquid' | 'gas',
  perStandard: number | null = null,
): {
  readonly says: string
  readonly likely: readonly { readonly unit: string; readonly flow_m3h: number }[]
} | null {
  const [slow, fast] = HARDLY[fluid]
  if (!(v_m_s > fast || v_m_s < slow)) return null
  const [least, most] = BUILT_FOR[fluid]
  const units = [...(perStandard === null ? [] : [['standard m³/h', perStandard] as const]), ...UNITS]
  const likely = units.flatMap(([unit, factor]) => {
    const v = v_m_s * factor
    return v >= least && v <= most ? [{ unit, flow_m3h: flow_m3h * factor, v }] : []
  })
  const other = likely.map((l) => `in ${l.unit} it is ${sayNumber(l.v, 2)} m/s`).join(', ')
  return {
    says: `Full flow would be ${sayNumber(v_m_s, 3)} m/s: ${other === '' ? 'a slip in flow, unit or diameter?' : `${other}.`}`,
    likely,
  }
}
