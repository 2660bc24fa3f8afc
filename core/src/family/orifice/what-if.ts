import type { UncertainInput, WhatIf } from '../family.ts'
import type { Entries } from './settings.ts'
import { streamOf } from './stream.ts'

/** Plate, pipe, density, coefficient and differential, as well as they are usually known. */
function uncertain(s: Entries): UncertainInput[] {
  const full = streamOf(s)
  if (typeof full === 'string') return []
  const at = full.flow(s.D_mm, s.d_mm, s.span_kPa, 0)
  return [
    { name: 'D_mm', title: 'Pipe bore', unit: 'mm', value: s.D_mm, usual: s.D_mm * 0.004 },
    { name: 'd_mm', title: 'Orifice bore', unit: 'mm', value: s.d_mm, usual: s.d_mm * 0.0007 },
    {
      name: 'span_kPa',
      title: 'Differential',
      unit: 'kPa',
      value: s.span_kPa,
      usual: s.span_kPa * 0.001,
    },
    { name: 'density', title: 'Density', unit: '%', value: 0, usual: full.fluid.kappa === null ? 0.2 : 1 },
    { name: 'coefficient', title: 'Discharge coefficient', unit: '%', value: 0, usual: at.uncertainty_pct },
  ]
}
function flowModel(s: Entries): ((x: ArrayLike<number>) => number) | null {
  const full = streamOf(s)
  if (typeof full === 'string' || s.d_mm >= s.D_mm) return null
  const entered = full.flow(s.D_mm, s.d_mm, s.span_kPa, 0).massFlow_kg_s
  return (x) => {
    const [D = 1, d = 0, dp = 0, density = 0, coefficient = 0] = x as number[]
    if (d >= D || d <= 0) return -100
    const q = full.flow(D, d, dp, density).massFlow_kg_s * (1 + coefficient / 100)
    return (q / entered - 1) * 100
  }
}

export const whatIf: WhatIf<Entries> = { title: 'Flow at the span', inputs: uncertain, model: flowModel }
