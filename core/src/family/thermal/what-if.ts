import type { UncertainInput, WhatIf } from '../family.ts'
import { meanFactor } from './insertion.ts'
import type { Entries } from './settings.ts'

/** Pipe, depth, profile and velocity, as well as they are usually known. */
function uncertain(s: Entries): UncertainInput[] {
  return [
    {
      name: 'od_mm',
      title: 'Outside diameter',
      unit: 'mm',
      value: s.od_mm,
      usual: s.od_mm * 0.005,
    },
    {
      name: 'wall_mm',
      title: 'Wall and liner',
      unit: 'mm',
      value: s.wall_mm,
      usual: s.wall_mm * 0.05,
    },
    { name: 'depth', title: 'Depth of the tip', unit: 'mm', value: 0, usual: 3 },
    { name: 'n', title: 'Profile exponent', unit: '', value: s.n, usual: 1 },
    { name: 'run', title: 'Profile after the straight run', unit: '%', value: 0, usual: 3 },
    { name: 'v_m_s', title: 'Velocity at the point', unit: '%', value: 0, usual: 1 },
  ]
}
/** Flow of a point velocity: its place in the profile, the profile’s mean, the stem’s blockage, the area. */
function flowModel(s: Entries): ((x: ArrayLike<number>) => number) | null {
  const { stem, tip } = { stem: s.stem_mm, tip: s.tip_mm }
  const flow = (x: ArrayLike<number>) => {
    const [od = 0, wall = 0, depth = 0, n = 7, run = 0, v = 0] = x as number[]
    const id = od - 2 * wall
    if (!(id > 0) || n <= 1) return NaN
    // The tip was set for the entered bore; its place in the true one follows.
    const set = s.wall_mm + (s.od_mm - 2 * s.wall_mm) / 2 + depth
    const y = Math.min(set - wall, id - (set - wall))
    if (!(y > 0)) return NaN
    const local = ((2 * y) / id) ** (1 / n)
    const area = (Math.PI * id * id) / 4
    const blockage = 1 - (stem * (id / 2 + tip)) / area
    return ((1 + v / 100) / local) * meanFactor(n).F * blockage * area * (1 + run / 100)
  }
  const entered = flow(uncertain(s).map((i) => i.value))
  if (!Number.isFinite(entered) || entered <= 0) return null
  return (x) => {
    const q = flow(x)
    return Number.isFinite(q) ? (q / entered - 1) * 100 : -100
  }
}

export const whatIf: WhatIf<Entries> = { title: 'Flow at full scale', inputs: uncertain, model: flowModel }
