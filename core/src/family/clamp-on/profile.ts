const LAMINAR_RE = 2300
const TURBULENT_RE = 4000

/** Darcy friction factor by Colebrook. @param relativeRoughness - ε/D */
export function frictionFactor(Re: number, relativeRoughness: number): number {
  let x = 8
  for (let i = 0; i < 200; i++) {
    const next = -2 * Math.log10(relativeRoughness / 3.7 + (2.51 * x) / Re)
    if (Math.abs(next - x) < 1e-14) return 1 / next ** 2
    x = next
  }
  return 1 / x ** 2
}
const turbulent = (Re: number, rough: number): number => {
  const N = 1 / Math.sqrt(frictionFactor(Re, rough))
  return (2 * N) / (2 * N + 1)
}

/** Between laminar and turbulent the real factor wanders: the result carries ±10 %. */
export const isTransitional = (Re: number): boolean => Re > LAMINAR_RE && Re < TURBULENT_RE

/** Mean over path velocity on a diameter, by Reynolds number and relative roughness. */
export function profileFactor(Re: number, relativeRoughness: number): number {
  if (Re <= LAMINAR_RE) return 0.75
  if (Re >= TURBULENT_RE) return turbulent(Re, relativeRoughness)
  const top = turbulent(TURBULENT_RE, relativeRoughness)
  return 0.75 + ((top - 0.75) * (Re - LAMINAR_RE)) / (TURBULENT_RE - LAMINAR_RE)
}

export interface MeanVelocity {
  readonly k_h: number
  readonly Re: number
  readonly v_m_s: number
}
/** Mean velocity from the path's, iterated with its own Reynolds number. @param nu - m²/s */
export function meanFromPath(vPath_m_s: number, id_m: number, nu: number, roughness_m: number): MeanVelocity {
  let k = 0.93
  for (let i = 0; i < 100; i++) {
    const next = profileFactor((Math.abs(k * vPath_m_s) * id_m) / nu, roughness_m / id_m)
    if (Math.abs(next - k) < 1e-12) {
      k = next
      break
    }
    k = next
  }
  const v_m_s = k * vPath_m_s
  return { k_h: k, v_m_s, Re: (Math.abs(v_m_s) * id_m) / nu }
}
/** Path velocity that a mean velocity makes. */
export function pathFromMean(v_m_s: number, id_m: number, nu: number, roughness_m: number) {
  const Re = (Math.abs(v_m_s) * id_m) / nu
  const k_h = profileFactor(Re, roughness_m / id_m)
  return { k_h, Re, vPath_m_s: v_m_s / k_h }
}
