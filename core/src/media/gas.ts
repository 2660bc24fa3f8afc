import {
  GAS_COMPONENTS,
  GAS_R,
  GAS_TERMS,
  PAIRS_E,
  PAIRS_G,
  PAIRS_K,
  PAIRS_U,
  type GasComponent,
  type GasKey,
  type GasPair,
} from './gas-table.ts'

/** Mole fractions; components left out are 0. */
export type Composition = Readonly<Partial<Record<GasKey, number>>>

export interface GasState {
  readonly molarMass_g_mol: number
  readonly molarDensity_mol_L: number
  readonly Z: number
  readonly density_kg_m3: number
  readonly soundSpeed_m_s: number
  /** Real isentropic exponent. */
  readonly kappa: number
  readonly cv_J_molK: number
  readonly cp_J_molK: number
  readonly cp0_over_R: number
}

const N = GAS_COMPONENTS.length
const indexOf = new Map(GAS_COMPONENTS.map((c, i) => [c.key, i]))
function matrix(pairs: readonly GasPair[]): Float64Array {
  const m = new Float64Array(N * N).fill(1)
  for (const [a, b, v] of pairs) {
    const i = indexOf.get(a) ?? 0
    const j = indexOf.get(b) ?? 0
    m[i * N + j] = v
    m[j * N + i] = v
  }
  return m
}
const [E, U, K, G] = [matrix(PAIRS_E), matrix(PAIRS_U), matrix(PAIRS_K), matrix(PAIRS_G)]

interface Term {
  readonly a: number
  readonly b: number
  readonly k: number
  readonly u: number
  readonly g: number
  readonly q: number
  readonly f: number
  readonly s: number
  readonly w: number
}
const TERMS: readonly Term[] = GAS_TERMS.map(
  ([, a = 0, b = 0, k = 0, u = 0, g = 0, q = 0, f = 0, s = 0, w = 0]) => ({ a, b, k, u, g, q, f, s, w }),
)

/** A mixture prepared for many states. */
export class Gas {
  readonly molarMass_g_mol: number
  private readonly x: Float64Array
  private readonly K3: number
  private readonly B: Float64Array
  private readonly C: Float64Array

  /** @param composition - mole fractions; they are normalised to a sum of 1. */
  constructor(composition: Composition) {
    const raw = GAS_COMPONENTS.map((c) => composition[c.key] ?? 0)
    const sum = raw.reduce((a, b) => a + b, 0)
    const x = Float64Array.from(raw, (v) => v / sum)
    this.x = x
    const c = GAS_COMPONENTS
    const over = (f: (i: number) => number) => x.reduce((s, xi, i) => s + xi * f(i), 0)
    const at = (i: number): GasComponent => {
      const component = c[i]
      if (!component) throw new Error(`no gas component ${i}`)
      return component
    }
    this.molarMass_g_mol = over((i) => at(i).M)
    let k5 = over((i) => at(i).K ** 2.5) ** 2
    let u5 = over((i) => at(i).E ** 2.5) ** 2
    let g = over((i) => at(i).G)
    for (let i = 0; i < N; i++)
      for (let j = i + 1; j < N; j++) {
        const xx = (x[i] ?? 0) * (x[j] ?? 0)
        if (xx === 0) continue
        const at_ = i * N + j
        k5 += 2 * xx * ((K[at_] ?? 1) ** 5 - 1) * (at(i).K * at(j).K) ** 2.5
        u5 += 2 * xx * ((U[at_] ?? 1) ** 5 - 1) * (at(i).E * at(j).E) ** 2.5
        g += xx * ((G[at_] ?? 1) - 1) * (at(i).G + at(j).G)
      }
    this.K3 = k5 ** 0.6
    const Um = u5 ** 0.2
    const Q = over((i) => at(i).Q)
    const F = x.reduce((s, xi, i) => s + xi * xi * at(i).F, 0)
    const pow = (base: number, flag: number) => (flag === 0 ? 1 : base ** flag)
    this.B = Float64Array.from(TERMS.slice(0, 18), (t) => {
      let sum = 0
      for (let i = 0; i < N; i++) {
        if (x[i] === 0) continue
        for (let j = 0; j < N; j++) {
          if (x[j] === 0) continue
          const [a, b, at_] = [at(i), at(j), i * N + j]
          sum +=
            (x[i] ?? 0) *
            (x[j] ?? 0) *
            ((E[at_] ?? 1) * Math.sqrt(a.E * b.E)) ** t.u *
            (a.K * b.K) ** 1.5 *
            pow(((G[at_] ?? 1) * (a.G + b.G)) / 2, t.g) *
            pow(a.Q * b.Q, t.q) *
            pow(Math.sqrt(a.F * b.F), t.f) *
            pow(a.S * b.S, t.s) *
            pow(a.W * b.W, t.w)
        }
      }
      return sum
    })
    this.C = Float64Array.from(TERMS, (t, n) =>
      n < 12 ? 0 : t.a * Um ** t.u * pow(g, t.g) * pow(Q, 2 * t.q) * pow(F, t.f),
    )
  }

  /** α₁, α₂, α_t, α_tt and α₁t of the residual Helmholtz energy. */
  private residual(T: number, D: number): [number, number, number, number, number] {
    const d = this.K3 * D
    let [a1, a2, at, att, a1t] = [0, 0, 0, 0, 0]
    TERMS.forEach((t, n) => {
      const Tu = T ** -t.u
      const linear =
        (n < 18 ? t.a * (this.B[n] ?? 0) * D * Tu : 0) - (n >= 12 && n < 18 ? d * (this.C[n] ?? 0) * Tu : 0)
      if (linear !== 0) {
        a1 += linear
        at -= t.u * linear
        att += t.u * (t.u + 1) * linear
        a1t -= t.u * linear
      }
      if (n < 12) return
      const h = t.k > 0 ? t.k * d ** t.k : 0
      const s = (this.C[n] ?? 0) * Tu * d ** t.b * (t.k > 0 ? Math.exp(-(d ** t.k)) : 1)
      const first = s * (t.b - h)
      a1 += first
      a2 += s * ((t.b - h) * (t.b - h - 1) - t.k * h)
      at -= t.u * s
      att += t.u * (t.u + 1) * s
      a1t -= t.u * first
    })
    return [a1, a2, at, att, a1t]
  }

  /**
   * State at a temperature and an absolute pressure; null where there is no gas: liquid or two-phase.
   * @see ISO 20765-1
   */
  state(T: number, p_kPa: number): GasState | null {
    let D = p_kPa / (GAS_R * T)
    for (let i = 0; ; i++) {
      const [a1, a2] = this.residual(T, D)
      const p = D * GAS_R * T * (1 + a1)
      const slope = GAS_R * T * (1 + 2 * a1 + a2)
      if (!(slope > 0) || i > 100) return null
      const step = (p_kPa - p) / slope
      D += step
      if (!(D > 0)) return null
      if (Math.abs(step) <= 1e-13 * D) break
    }
    const [a1, a2, at, att, a1t] = this.residual(T, D)
    const cp0 = this.x.reduce((sum, xi, i) => {
      const c = GAS_COMPONENTS[i]
      return c && xi > 0 ? sum + xi * idealHeat(c.n0, c.theta0, T) : sum
    }, 0)
    const dpdD = GAS_R * T * (1 + 2 * a1 + a2)
    if (!(dpdD > 0)) return null
    const cv = GAS_R * (cp0 - 1 - 2 * at - att)
    const dpdT = D * GAS_R * (1 + a1 + a1t)
    const cp = cv + (T * dpdT * dpdT) / (D * D * dpdD)
    const M = this.molarMass_g_mol
    const c = Math.sqrt((1000 * (cp / cv) * dpdD) / M)
    const Z = 1 + a1
    return {
      molarMass_g_mol: M,
      molarDensity_mol_L: D,
      Z,
      density_kg_m3: D * M,
      soundSpeed_m_s: c,
      kappa: (c * c * M) / (1000 * Z * GAS_R * T),
      cv_J_molK: cv,
      cp_J_molK: cp,
      cp0_over_R: cp0,
    }
  }
}

function idealHeat(n: readonly number[], theta: readonly number[], T: number): number {
  let sum = n[0] ?? 0
  theta.forEach((th, k) => {
    if (th === 0) return
    const z = th / T
    sum += (n[k + 1] ?? 0) * (z / (k % 2 === 0 ? Math.sinh(z) : Math.cosh(z))) ** 2
  })
  return sum
}

/** Viscosity of a gas at low pressure by Sutherland: µ0 1e-5 Pa·s at 0 °C, and B in K. */
const SUTHERLAND: Readonly<Record<string, readonly [number, number]>> = {
  nitrogen: [1.663, 112.4],
  air: [1.722, 116.5],
  carbon_dioxide: [1.3714, 251.2],
  methane: [1.039, 158.1],
  argon: [2.1019, 149.8],
  helium: [1.8701, 67.7],
  oxygen: [1.9145, 129.5],
  hydrogen: [0.83793, 71.3],
}
/** Viscosity, Pa·s; of a gas without constants of its own methane's are taken. */
export function gasViscosity_Pa_s(kind: string, T: number): number {
  const [mu0, B] = SUTHERLAND[kind] ?? [1.039, 158.1]
  return (mu0 * 1e-5 * (T / 273.15) ** 1.5 * (273.15 + B)) / (T + B)
}

/** Dry air as a mixture. */
export const AIR: Composition = { nitrogen: 0.7812, oxygen: 0.2096, argon: 0.0092 }

/** Conditions that a volume is told at; “normal” and “standard” alone say too little. */
export const VOLUME_BASES = {
  normal: { title: '0 °C, 101.325 kPa', T: 273.15, p_kPa: 101.325 },
  standard15: { title: '15 °C, 101.325 kPa', T: 288.15, p_kPa: 101.325 },
  standard20: { title: '20 °C, 101.325 kPa', T: 293.15, p_kPa: 101.325 },
  standard60F: { title: '60 °F, 14.696 psi', T: (60 + 459.67) / 1.8, p_kPa: 101.325 },
} as const
