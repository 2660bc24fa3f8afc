import { currentOfFraction } from '../../signal/current-range.ts'

/** A probe and its points, distances downwards from the reference plane, m. */
export interface ProbeSetUp {
  readonly probe_m: number
  readonly topDead_m: number
  /** Above the probe's end. */
  readonly bottomDead_m: number
  readonly at4_m: number
  readonly at20_m: number
}
export type ProbeFlag =
  'POINTS_REVERSED_OR_EQUAL' | 'FULL_IN_TOP_DEAD_ZONE' | 'ZERO_IN_BOTTOM_DEAD_ZONE' | 'ZERO_BEYOND_PROBE'
export interface ProbeCheck {
  readonly nearest_m: number
  readonly farthest_m: number
  readonly maxSpan_m: number
  readonly span_m: number
  readonly flags: readonly ProbeFlag[]
  /** Highest and lowest percent that can be measured; null when the points are reversed. */
  readonly reachHigh_pct: number | null
  readonly reachLow_pct: number | null
}

export function checkProbe(p: ProbeSetUp): ProbeCheck {
  const nearest_m = p.topDead_m
  const farthest_m = p.probe_m - p.bottomDead_m
  const span_m = p.at4_m - p.at20_m
  const base = { nearest_m, farthest_m, maxSpan_m: farthest_m - nearest_m, span_m }
  if (p.at4_m <= p.at20_m)
    return { ...base, flags: ['POINTS_REVERSED_OR_EQUAL'], reachHigh_pct: null, reachLow_pct: null }
  const flags: ProbeFlag[] = []
  if (p.at20_m < nearest_m) flags.push('FULL_IN_TOP_DEAD_ZONE')
  if (p.at4_m > farthest_m) flags.push('ZERO_IN_BOTTOM_DEAD_ZONE')
  if (p.at4_m > p.probe_m) flags.push('ZERO_BEYOND_PROBE')
  return {
    ...base,
    flags,
    reachHigh_pct: (100 * (p.at4_m - Math.max(p.at20_m, nearest_m))) / span_m,
    reachLow_pct: (100 * (p.at4_m - Math.min(p.at4_m, farthest_m))) / span_m,
  }
}

export function readProbe(p: ProbeSetUp, distance_m: number) {
  const percent = (100 * (p.at4_m - distance_m)) / (p.at4_m - p.at20_m)
  return { percent, current_mA: currentOfFraction(percent / 100) }
}

/** Level above the probe's end from where the end appears, for liquids that hardly reflect. */
export function levelFromProbeEnd(probe_m: number, apparentEnd_m: number, eps: number) {
  const height_m = (apparentEnd_m - probe_m) / (Math.sqrt(eps) - 1)
  return { height_m, surface_m: probe_m - height_m }
}
/** Thickness of an upper layer from the two echoes. */
export const layerThickness_m = (interfaceApparent_m: number, surface_m: number, epsUpper: number): number =>
  (interfaceApparent_m - surface_m) / Math.sqrt(epsUpper)

/** Probes, what they are for, and the least permittivity they see; typical. */
export const PROBES = {
  rod: { title: 'single rod', use: 'liquids to 4 or 6 m, build-up, crystals', leastEps: 1.8 },
  cable: { title: 'single cable', use: 'long ranges and solids; check the pull', leastEps: 1.8 },
  twin: { title: 'twin rod or cable', use: 'near fittings; nothing that bridges', leastEps: 1.6 },
  coax: { title: 'coax', use: 'poor reflectors, turbulence; clean liquids only', leastEps: 1.4 },
} as const
