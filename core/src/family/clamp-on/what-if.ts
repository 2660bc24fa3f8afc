import { isRefused } from '../../refused.ts'
import type { UncertainInput, WhatIf } from '../family.ts'
import { DISTURBANCES, straightRun } from './advice.ts'
import { meanFromPath, pathFromMean } from './profile.ts'
import type { Entries } from './settings.ts'
import { isGas, siteOf } from './site.ts'

const ROUND_TUBE_PCT = 1 // outside diameter of pipe by the mill's tolerance, typical
const ROUND_WALL_PCT = 12.5 // wall likewise
const WHOLE_RUN_PCT = 0.5 // profile left uncertain by a run that is long enough, typical

/** The straight run as it was entered, and what it leaves uncertain. */
export function runOf(s: Entries) {
  const near = [s.disturbance, s.second].filter((d) => d !== 'none')
  const run = straightRun(near, s.upstream_D, s.downstream_D, isGas(s) ? 'gas' : 'liquid', s.paths === '2')
  return { ...run, nearest: DISTURBANCES[s.disturbance].title }
}

function inputs(s: Entries): UncertainInput[] {
  const site = siteOf(s)
  if (isRefused(site)) return []
  const listed = s.by === 'table'
  const liner = site.liner_mm > 0
  return [
    {
      name: 'od_mm',
      title: 'Outside diameter',
      unit: 'mm',
      value: site.od_mm,
      usual: listed ? (site.od_mm * ROUND_TUBE_PCT) / 100 : s.by === 'tape' ? 0.65 : 1,
    },
    {
      name: 'wall_mm',
      title: 'Wall',
      unit: 'mm',
      value: site.wall_mm,
      usual: listed ? (site.wall_mm * ROUND_WALL_PCT) / 100 : 0.2,
    },
    { name: 'liner_mm', title: 'Liner', unit: 'mm', value: site.liner_mm, usual: liner ? 0.5 : 0 },
    { name: 'wedge_m_s', title: 'Wedge sound speed', unit: 'm/s', value: s.wedge_m_s, usual: 10 },
    { name: 'wedge_deg', title: 'Wedge angle', unit: 'deg', value: s.wedge_deg, usual: 0.1 },
    { name: 'spacing', title: 'Spacing of the sensors', unit: 'mm', value: 0, usual: 1 },
    {
      name: 'speed',
      title: 'Sound speed of the fluid',
      unit: 'm/s',
      value: site.fluid.soundSpeed_m_s,
      usual: site.fluid.soundSpeed_m_s * (site.fluid.typical ? 0.02 : 0.003),
    },
    { name: 'viscosity', title: 'Viscosity', unit: '%', value: 0, usual: site.fluid.typical ? 20 : 5 },
    {
      name: 'profile',
      title: 'Flow profile after the straight run',
      unit: '%',
      value: 0,
      usual: Math.max(WHOLE_RUN_PCT, runOf(s).error_pct),
    },
    {
      name: 'zero_m_s',
      title: 'Zero',
      unit: 'm/s',
      value: 0,
      usual: isGas(s) ? 0.05 : 0.01,
    },
  ]
}

/**
 * Flow at full scale from the times as they were measured.
 *
 * The times stand; what was entered moves. With the sound speed taken from the meter's own times neither bore nor
 * fluid enter the velocity, only the area; typed by hand, both do.
 */
function model(s: Entries): ((x: ArrayLike<number>) => number) | null {
  const site = siteOf(s)
  if (isRefused(site)) return null
  const { beam, traverses, fluid, roughness_mm } = site
  const nu0 = fluid.viscosity_Pa_s / fluid.density_kg_m3
  const flow = s.flow_m3h / 3600
  const path = pathFromMean(flow / site.area_m2, site.id_mm / 1000, nu0, roughness_mm / 1000)
  const tMean = (beam.tFixed_us + beam.tFluid_us) / 1e6
  const dt = (2 * beam.K_us_m * path.vPath_m_s * beam.tFluid_us) / 1e12
  const height = s.wedge_mm / 1000
  const typed = s.speedBy === 'typed'
  // The film is not among the entries that move; wall and liner are, by their own thickness.
  const film = beam.layers.find((l) => l.name === 'film')
  const wall = beam.layers.find((l) => l.name === 'wall')
  const liner = beam.layers.find((l) => l.name === 'liner')
  const through = (thickness_mm: number, c: number, K: number) =>
    (2 * thickness_mm) / 1000 / (c * Math.sqrt(1 - (K * c) ** 2))
  return (x) => {
    const [od = 0, w = 0, li = 0, cWedge = 1, deg = 0, dS = 0, c = 1, dNu = 0, dProfile = 0, zero = 0] =
      x as number[]
    const id = (od - 2 * (w + li)) / 1000
    if (!(id > 0)) return -100
    const alpha = (deg * Math.PI) / 180
    const K = Math.sin(alpha) / cWedge
    let v: number
    if (typed) {
      const sine = K * c
      v = (dt * c * c * Math.sqrt(1 - sine * sine)) / (2 * traverses * id * sine)
    } else {
      let fixed = (2 * height) / (cWedge * Math.cos(alpha))
      if (film) fixed += through(film.thickness_mm, film.c_m_s, K)
      if (wall) fixed += through(w, wall.c_m_s, K)
      if (liner) fixed += through(li, liner.c_m_s, K)
      v = dt / (2 * K * (tMean - fixed - (K * dS) / 1000))
    }
    const nu = nu0 * (1 + dNu / 100)
    const mean = meanFromPath(v + zero, id, nu, roughness_mm / 1000).v_m_s
    const q = mean * (1 + dProfile / 100) * (Math.PI / 4) * id * id
    return (q / flow - 1) * 100
  }
}

export const whatIf: WhatIf<Entries> = { title: 'Flow at full scale', inputs, model }
