import { ATMOSPHERE_KPA, fluidState, NAMED_GASES, type FluidState } from '../../media/fluid.ts'
import { orificeDp_Pa, orificeFlow } from './orifice.ts'
import type { Entries } from './settings.ts'

/** What flows at the plate, at working conditions. */
export function fluidOf(s: Entries): FluidState {
  const gas = NAMED_GASES[s.fluid]
  return fluidState(
    gas ? { kind: 'gas', composition: gas.composition, viscosityAs: gas.viscosityAs } : { kind: 'water' },
    s.t_C,
    s.gauge_kPa + ATMOSPHERE_KPA,
  )
}

/** The fluid at the plate and the flow by bore, differential and a change of density; or why there is none. */
export function streamOf(s: Entries) {
  const gas = NAMED_GASES[s.fluid]
  const p_kPa = s.gauge_kPa + ATMOSPHERE_KPA
  const fluid = fluidOf(s)
  if (fluid.kind === 'refused') return fluid.says
  const flow = (D_mm: number, d_mm: number, dp_kPa: number, density_pct: number) =>
    orificeFlow({
      D: D_mm / 1000,
      d: d_mm / 1000,
      taps: s.taps,
      density_kg_m3: fluid.density_kg_m3 * (1 + density_pct / 100),
      viscosity_Pa_s: fluid.viscosity_Pa_s,
      dp_Pa: dp_kPa * 1000,
      gas: gas ? { p1_Pa: p_kPa * 1000, kappa: fluid.kappa ?? 1.4 } : null,
    })
  /** Differential that a flow makes, kPa; null where none makes so much. */
  const differential_kPa = (D_mm: number, d_mm: number, flow_m3h: number): number | null => {
    const dp_Pa = orificeDp_Pa(
      {
        D: D_mm / 1000,
        d: d_mm / 1000,
        taps: s.taps,
        density_kg_m3: fluid.density_kg_m3,
        viscosity_Pa_s: fluid.viscosity_Pa_s,
        gas: gas ? { p1_Pa: p_kPa * 1000, kappa: fluid.kappa ?? 1.4 } : null,
      },
      (flow_m3h / 3600) * fluid.density_kg_m3,
    )
    return dp_Pa === null ? null : dp_Pa / 1000
  }
  return { fluid, p_kPa, flow, differential_kPa }
}
