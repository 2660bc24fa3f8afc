/** E12 series within a decade. */
const E12 = [1, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2]
/** Room for the resistor's own tolerance. */
const TOLERANCE = 1.1

/** What a pull-up or pull-down is sized for. */
export interface PullInput {
  readonly vMin: number
  readonly vMax: number
  /** The input: resistance, ceiling, and what a valid 1 needs. */
  readonly rIn: number
  readonly iMax: number
  readonly UH: number
  readonly IH: number
  readonly vDrop: number
  readonly rOn: number
  readonly iLeak: number
  readonly iOutMax: number
  readonly derate: number
}

export interface PullSizing {
  readonly rMax: number
  readonly rMin: number
  /** The resistor to fit, Ω; null when none can serve. */
  readonly r: number | null
  readonly iOn: number | null
  readonly pR: number | null
  readonly vInReleased: number | null
  readonly iInReleased: number | null
}

/** Largest E12 value that is not above a resistance. */
export function e12AtMost(r_ohm: number): number {
  const decade = 10 ** Math.floor(Math.log10(r_ohm))
  const within = E12.filter((e) => e * decade <= r_ohm * (1 + 1e-12)).at(-1) ?? 1
  return Number((within * decade).toPrecision(6))
}

/**
 * Sizes a pull-up for an open-collector sensor on an input of the other kind. It inverts: the conducting
 * transistor pulls the input to 0. Not for protective signals: a broken wire gives a 1.
 */
export function pullSizing(p: PullInput): PullSizing {
  const iIn = (u: number) => Math.min(u / p.rIn, p.iMax)
  const U = Math.max(p.UH, p.IH * p.rIn)
  const rMax = (p.vMin - U) / (iIn(U) + p.iLeak)
  const rMin = (p.vMax - p.vDrop) / (p.derate * p.iOutMax) - p.rOn
  const r = rMax > 0 ? e12AtMost(rMax / TOLERANCE) : 0
  if (rMax <= 0 || r < rMin)
    return { rMax, rMin, r: null, iOn: null, pR: null, vInReleased: null, iInReleased: null }
  const iOn = (p.vMax - p.vDrop) / (r + p.rOn)
  const linear = (p.vMin / r - p.iLeak) / (1 / r + 1 / p.rIn)
  const vInReleased = linear / p.rIn <= p.iMax ? linear : p.vMin - r * (p.iMax + p.iLeak)
  return { rMax, rMin, r, iOn, pR: iOn * iOn * r, vInReleased, iInReleased: iIn(vInReleased) }
}
