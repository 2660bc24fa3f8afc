import { knee, kneeSlope } from './knee.ts'

/** Thermal voltage kT/q at 25 °C; nothing heats itself here. */
export const THERMAL_VOLTAGE = 0.0256926

/** A two-terminal law between two terminals of an element; the current i flows from `a` to `b`. */
export type Law =
  | { readonly kind: 'G'; readonly g: number }
  | { readonly kind: 'I'; readonly i: number }
  | {
      readonly kind: 'K'
      readonly g0: number
      readonly v0: number
      readonly lo: number
      readonly hi: number
      readonly k: number
    }
  | { readonly kind: 'D'; readonly saturation: number; readonly nVt: number }
  | { readonly kind: 'V'; readonly e: number }

export interface Branch {
  readonly a: string
  readonly b: string
  readonly law: Law
  /** What the branch is in its element: the transmitter's own law, a feed, an auxiliary supply. */
  readonly role?: 'main' | 'feed' | 'aux' | 'clamp' | 'output'
}

/** Above this current a diode goes on along its tangent. */
const DIODE_TANGENT_A = 1000

/** Current of a law at the voltage u = v(a) - v(b), A. An ideal source has none of its own. */
export function flow(law: Law, u: number): number {
  switch (law.kind) {
    case 'G':
      return law.g * u
    case 'I':
      return law.i
    case 'K':
      return knee(law.g0 * (u - law.v0), law.lo, law.hi, law.k)
    case 'D': {
      const { saturation, nVt } = law
      const uc = nVt * Math.log(DIODE_TANGENT_A / saturation)
      return u <= uc
        ? saturation * Math.expm1(u / nVt)
        : DIODE_TANGENT_A - saturation + (DIODE_TANGENT_A / nVt) * (u - uc)
    }
    case 'V':
      return 0
  }
}

/** Slope of a law at that voltage, S; never negative. */
export function slope(law: Law, u: number): number {
  switch (law.kind) {
    case 'G':
      return law.g
    case 'K':
      return law.g0 * kneeSlope(law.g0 * (u - law.v0), law.lo, law.hi, law.k)
    case 'D': {
      const { saturation, nVt } = law
      const uc = nVt * Math.log(DIODE_TANGENT_A / saturation)
      return (u <= uc ? saturation * Math.exp(u / nVt) : DIODE_TANGENT_A) / nVt
    }
    case 'I':
    case 'V':
      return 0
  }
}

const LIFT_WIDTH_V = 0.05

/** Laws by the names technicians give them; each is a knee. */
export const conductance = (a: string, b: string, r_ohm: number): Branch => ({
  a,
  b,
  law: { kind: 'G', g: 1 / Math.max(1e-6, r_ohm) },
})

/** A transmitter: nothing below its lift-off voltage, exactly its current above. */
export const transmitterLaw = (
  a: string,
  b: string,
  i_A: number,
  lift_V: number,
  width_V = LIFT_WIDTH_V,
): Branch[] =>
  i_A <= 1e-12
    ? []
    : [
        {
          a,
          b,
          role: 'main',
          law: { kind: 'K', g0: (1.01 * i_A) / width_V, v0: lift_V - width_V, lo: 0, hi: i_A, k: i_A / 1000 },
        },
      ]

/** An active output: delivers its current out of p up to the compliance voltage, collapses above. */
export const sourceLaw = (
  p: string,
  n: string,
  i_A: number,
  compliance_V: number,
  role: Branch['role'] = 'main',
): Branch[] =>
  i_A <= 1e-9
    ? []
    : [
        {
          a: n,
          b: p,
          role,
          law: {
            kind: 'K',
            g0: (1.01 * i_A) / LIFT_WIDTH_V,
            v0: -(compliance_V + LIFT_WIDTH_V),
            lo: 0,
            hi: i_A,
            k: i_A / 1000,
          },
        },
      ]

/** A supply: voltage behind a resistance up to its current limit; it cannot sink. */
export const supplyLaw = (
  p: string,
  n: string,
  v: number,
  rs_ohm: number,
  limit_A: number,
  role: Branch['role'] = 'feed',
): Branch => ({
  a: n,
  b: p,
  role,
  law: { kind: 'K', g0: 1 / rs_ohm, v0: -v, lo: 0, hi: limit_A, k: limit_A / 10_000 },
})

/** A drop in one direction: nothing below it, a small resistance above. */
export const dropLaw = (a: string, b: string, r_ohm: number, drop_V: number): Branch => ({
  a,
  b,
  law: { kind: 'K', g0: 1 / Math.max(1e-6, r_ohm), v0: drop_V, lo: 0, hi: 10, k: 1e-6 },
})

/** A leak or an input with a ceiling, the same in both directions. */
export const symmetricLaw = (a: string, b: string, g0: number, ceiling_A: number): Branch[] =>
  ceiling_A <= 0
    ? []
    : [{ a, b, law: { kind: 'K', g0, v0: 0, lo: -ceiling_A, hi: ceiling_A, k: ceiling_A / 1000 } }]

/** A switch with a drop and a short-circuit limit. */
export const outputSwitch = (
  a: string,
  b: string,
  r_ohm: number,
  drop_V: number,
  limit_A: number,
): Branch => ({
  a,
  b,
  role: 'output',
  law: { kind: 'K', g0: 1 / Math.max(1e-6, r_ohm), v0: drop_V, lo: 0, hi: limit_A, k: limit_A / 1000 },
})

/** A diode by one point of its data sheet: forward voltage at a current. */
export const diodeLaw = (
  a: string,
  b: string,
  vf = 0.7,
  iF = 0.02,
  n = 1.8,
  role?: Branch['role'],
): Branch => ({
  a,
  b,
  ...(role ? { role } : {}),
  law: { kind: 'D', saturation: iF / Math.exp(vf / (n * THERMAL_VOLTAGE)), nVt: n * THERMAL_VOLTAGE },
})
