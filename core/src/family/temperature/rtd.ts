const A = 3.9083e-3
const B = -5.775e-7
const C = -4.183e-12
export const RTD_FROM_C = -200
export const RTD_TO_C = 850

/** Resistance of a platinum thermometer, Ω; null outside −200 to 850 °C. @see IEC 60751 */
export function rtdResistance_ohm(t_C: number, r0_ohm = 100): number | null {
  if (!(t_C >= RTD_FROM_C && t_C <= RTD_TO_C)) return null
  const cold = t_C < 0 ? C * (t_C - 100) * t_C ** 3 : 0
  return r0_ohm * (1 + A * t_C + B * t_C * t_C + cold)
}

const LEAST_RATIO = 0.1852008
const MOST_RATIO = 3.9048113
/** Temperature of a resistance, °C; null for a resistance no thermometer of this R0 has. */
export function rtdTemperature_C(r_ohm: number, r0_ohm = 100): number | null {
  const w = r_ohm / r0_ohm
  if (!(w >= LEAST_RATIO - 1e-9 && w <= MOST_RATIO + 1e-9)) return null
  if (w >= 1) return (-A + Math.sqrt(A * A - 4 * B * (1 - w))) / (2 * B)
  let t = (w - 1) / A
  for (let i = 0; i < 30; i++) {
    const f = 1 + A * t + B * t * t + C * (t - 100) * t ** 3 - w
    const step = f / (A + 2 * B * t + C * (4 * t ** 3 - 300 * t * t))
    t -= step
    if (Math.abs(step) < 1e-12) break
  }
  return t
}

export const RTD_CLASSES = ['AA', 'A', 'B', 'C'] as const
export type RtdClass = (typeof RTD_CLASSES)[number]
const LIMITS: Readonly<Record<RtdClass, readonly [number, number]>> = {
  AA: [0.1, 0.0017],
  A: [0.15, 0.002],
  B: [0.3, 0.005],
  C: [0.6, 0.01],
}
/** Allowed error of a class, °C. */
export const rtdTolerance_C = (c: RtdClass, t_C: number): number =>
  LIMITS[c][0] + LIMITS[c][1] * Math.abs(t_C)
/** Range in which a class promises anything, °C: wire-wound and film. */
export const RTD_VALIDITY: Readonly<
  Record<RtdClass, Readonly<Record<'wire' | 'film', readonly [number, number]>>>
> = {
  AA: { wire: [-50, 250], film: [0, 150] },
  A: { wire: [-100, 450], film: [-30, 300] },
  B: { wire: [-196, 600], film: [-50, 500] },
  C: { wire: [-196, 600], film: [-50, 600] },
}

/** What the leads add to the reading, °C; null where the sum is outside the scale. */
export function leadError_C(
  t_C: number,
  wires: 2 | 3 | 4,
  lead1_ohm: number,
  lead2_ohm: number,
  r0_ohm = 100,
): number | null {
  const r = rtdResistance_ohm(t_C, r0_ohm)
  if (r === null) return null
  const extra = wires === 2 ? lead1_ohm + lead2_ohm : wires === 3 ? lead1_ohm - lead2_ohm : 0
  const read = rtdTemperature_C(r + extra, r0_ohm)
  return read === null ? null : read - t_C
}
