import { bisect } from '../../numeric/bisect.ts'

export type Taps = 'corner' | 'flange' | 'D-D/2'
export interface OrificeInput {
  /** Pipe and bore at working temperature, m. */
  readonly D: number
  readonly d: number
  readonly taps: Taps
  readonly density_kg_m3: number
  readonly viscosity_Pa_s: number
  readonly dp_Pa: number
  /** Gas only: absolute pressure upstream, Pa, and isentropic exponent. */
  readonly gas: { readonly p1_Pa: number; readonly kappa: number } | null
}
export interface OrificeFlow {
  readonly beta: number
  readonly C: number
  readonly epsilon: number
  readonly Re: number
  readonly massFlow_kg_s: number
  readonly permanentLoss_Pa: number
  /** Of the discharge coefficient, %. */
  readonly uncertainty_pct: number
  readonly outside: readonly string[]
  /** Of these, what no flow puts right: the plate or the pipe. */
  readonly plateOutside: readonly string[]
}

/** Discharge coefficient. @see ISO 5167-2, Reader-Harris/Gallagher */
export function dischargeCoefficient(beta: number, Re: number, D: number, taps: Taps): number {
  const L1 = taps === 'corner' ? 0 : taps === 'flange' ? 0.0254 / D : 1
  const L2 = taps === 'corner' ? 0 : taps === 'flange' ? 0.0254 / D : 0.47
  const A = ((19000 * beta) / Re) ** 0.8
  const M2 = (2 * L2) / (1 - beta)
  return (
    0.5961 +
    0.0261 * beta ** 2 -
    0.216 * beta ** 8 +
    0.000521 * ((1e6 * beta) / Re) ** 0.7 +
    (0.0188 + 0.0063 * A) * beta ** 3.5 * (1e6 / Re) ** 0.3 +
    ((0.043 + 0.08 * Math.exp(-10 * L1) - 0.123 * Math.exp(-7 * L1)) * (1 - 0.11 * A) * beta ** 4) /
      (1 - beta ** 4) -
    0.031 * (M2 - 0.8 * M2 ** 1.1) * beta ** 1.3 +
    (D < 0.07112 ? 0.011 * (0.75 - beta) * (2.8 - D / 0.0254) : 0)
  )
}

/** Flow through an orifice. Outside the standard's limits it is computed and the limits are named. SI units. */
export function orificeFlow(o: OrificeInput): OrificeFlow {
  const beta = o.d / o.D
  const ratio = o.gas ? (o.gas.p1_Pa - o.dp_Pa) / o.gas.p1_Pa : 1
  const epsilon = o.gas
    ? 1 - (0.351 + 0.256 * beta ** 4 + 0.93 * beta ** 8) * (1 - ratio ** (1 / o.gas.kappa))
    : 1
  const free =
    (epsilon * (Math.PI / 4) * o.d ** 2 * Math.sqrt(2 * o.dp_Pa * o.density_kg_m3)) / Math.sqrt(1 - beta ** 4)
  let C = 0.6
  let q = 0
  let Re = 0
  for (let i = 0; i < 100; i++) {
    q = C * free
    Re = (4 * q) / (Math.PI * o.viscosity_Pa_s * o.D)
    const next = dischargeCoefficient(beta, Re, o.D, o.taps)
    if (Math.abs(next - C) < 1e-13) break
    C = next
  }
  const r = Math.sqrt(1 - beta ** 4 * (1 - C * C))
  const plateOutside: string[] = []
  if (o.d < 0.0125) plateOutside.push('the bore is below 12.5 mm')
  if (o.D < 0.05 || o.D > 1) plateOutside.push('the pipe is not within 50 to 1000 mm')
  if (beta < 0.1 || beta > 0.75) plateOutside.push('β is not within 0.1 to 0.75')
  const outside = [...plateOutside]
  if (Re < 5000 || (o.taps === 'flange' && Re < 170 * beta ** 2 * o.D * 1000))
    outside.push('the Reynolds number is too low')
  if (o.gas && ratio < 0.75) outside.push('p₂/p₁ is below 0.75')
  return {
    beta,
    C,
    epsilon,
    Re,
    massFlow_kg_s: q,
    permanentLoss_Pa: ((r - C * beta ** 2) / (r + C * beta ** 2)) * o.dp_Pa,
    uncertainty_pct: beta < 0.2 ? 0.7 - beta : beta <= 0.6 ? 0.5 : 1.667 * beta - 0.5,
    outside,
    plateOutside,
  }
}

/** Differential above which nothing is looked for, Pa: of a liquid, and of a gas as a share of its pressure. */
const MOST_DP_PA = 1e7
const MOST_GAS_SHARE = 0.9
/**
 * Differential that a mass flow makes, Pa; the flow rises with it, so it is found by halving.
 * @returns null where no differential makes so much
 */
export function orificeDp_Pa(o: Omit<OrificeInput, 'dp_Pa'>, massFlow_kg_s: number): number | null {
  const flow = (dp_Pa: number) => orificeFlow({ ...o, dp_Pa }).massFlow_kg_s
  const most = o.gas ? MOST_GAS_SHARE * o.gas.p1_Pa : MOST_DP_PA
  if (!(massFlow_kg_s > 0) || flow(most) < massFlow_kg_s) return null
  return bisect((dp) => flow(dp) >= massFlow_kg_s, 0, most, 0)
}
