import { materialOf } from '../../media/materials-table.ts'
import { PIPE_SIZES } from '../../media/pipe-sizes-table.ts'
import { TYPICAL_LIQUIDS } from '../../media/typical-liquids.ts'
import { crossings } from '../../numeric/crossings.ts'
import { sayNumber } from '../../quantity/round.ts'
import { isRefused } from '../../refused.ts'
import { measuredSoundSpeed_m_s } from './beam.ts'
import type { Entries } from './settings.ts'
import { fluidAt, isGas, siteOf, type Site } from './site.ts'
import { judgeSoundSpeed } from './sound-speed-verdict.ts'

/** One thing that people do wrong, tried: what it would be, how well it explains the reading, and the entry to change. */
export interface LikelyCause {
  readonly code: string
  readonly says: string
  /** What is left unexplained, % of the time in the fluid. */
  readonly misfit_pct: number
  readonly set: Partial<Entries> | null
  /** How likely, against the others. */
  readonly weight: number
}

/** How well a time is known, % of the time in the fluid: noise, temperature and the data of the wall. */
const SURE_PCT = 0.1
/** What is left unexplained by more is no explanation. */
const MOST_PCT = 0.45
const LINERS = ['cement_mortar', 'rubber_hard', 'rubber_soft', 'epoxy', 'ptfe', 'polyurethane'] as const
/** Thicknesses that liners come in, mm. */
const LINER_MM: Readonly<Record<(typeof LINERS)[number], readonly number[]>> = {
  cement_mortar: [3, 5, 6, 8, 9, 10, 12],
  rubber_hard: [3, 4, 5, 6, 8],
  rubber_soft: [3, 4, 5, 6, 8],
  epoxy: [0.5, 1],
  ptfe: [3, 4],
  polyurethane: [3, 5, 6],
}
const INCH_MM = 25.4
/** Nobody mounts sensors farther off than this. */
const MOST_SPACING_MM = 60
const MOST_KELVIN = 60
/** A bore that is off by more is another pipe. */
const MOST_BORE = 0.3

interface Trial {
  readonly code: string
  readonly says: string
  readonly set: Partial<Entries>
  /** How often people do it. */
  readonly prior: number
  /** How well the data of this trial are known, %. */
  readonly sure_pct?: number
}

/** What can have been entered wrongly, one at a time. */
function trials(s: Entries, site: Site): Trial[] {
  const out: Trial[] = []
  const add = (code: string, prior: number, says: string, set: Partial<Entries>, sure_pct?: number) =>
    out.push({ code, says, set, prior, ...(sure_pct === undefined ? {} : { sure_pct }) })
  if (s.by === 'table') {
    const size = PIPE_SIZES.find((p) => p.nps === s.nps)
    const seen = new Set([site.wall_mm])
    for (const [schedule, , wall] of size?.schedules ?? [])
      if (!seen.has(wall)) {
        seen.add(wall)
        add('SCHEDULE', 0.1, `schedule ${schedule}, a wall of ${wall} mm`, { schedule })
      }
  } else {
    if (s.wall_mm < 2.5)
      add('WALL_INCH', 0.3, `the wall typed in inches, ${sayNumber(s.wall_mm * INCH_MM, 4)} mm`, {
        wall_mm: s.wall_mm * INCH_MM,
      })
    add('WALL_CM', 0.1, `the wall typed in centimetres, ${sayNumber(s.wall_mm * 10, 4)} mm`, {
      wall_mm: s.wall_mm * 10,
    })
  }
  if (s.by === 'od')
    for (const [code, factor, says] of [
      ['CIRCUMFERENCE', 1 / Math.PI, 'the circumference typed for the diameter'],
      ['OD_INCH', INCH_MM, 'the diameter typed in inches'],
      ['OD_CM', 10, 'the diameter typed in centimetres'],
    ] as const)
      add(code, 0.3, `${says}, ${sayNumber(s.od_mm * factor, 5)} mm`, { od_mm: s.od_mm * factor })
  if (s.by === 'od' && s.od_mm < 100 && s.wall_mm < 2.5)
    add(
      'PIPE_INCH',
      0.3,
      `diameter and wall typed in inches, ${sayNumber(s.od_mm * INCH_MM, 5)} and ${sayNumber(s.wall_mm * INCH_MM, 4)} mm`,
      { od_mm: s.od_mm * INCH_MM, wall_mm: s.wall_mm * INCH_MM },
    )
  if (s.liner === 'none')
    for (const liner of LINERS)
      for (const liner_mm of LINER_MM[liner])
        add(
          'LINER_FORGOTTEN',
          liner === 'cement_mortar' || liner === 'rubber_hard' ? 0.08 : 0.03,
          `a liner that was not entered: ${materialOf(liner)?.title ?? liner}, ${liner_mm} mm`,
          { liner, liner_mm },
        )
  else add('LINER_NONE', 0.15, 'no liner in this pipe', { liner: 'none' })
  if (isGas(s) && !s.film)
    for (const film_mm of s.filmLayers > 0 ? [s.film_mm] : [0.5, 1, 2, 3])
      add('FILM_FORGOTTEN', 0.1, `a damping film of ${film_mm} mm under the sensors that was not entered`, {
        film: true,
        film_mm,
      })
  const fahrenheit = (s.t_C - 32) / 1.8
  add('FAHRENHEIT', 0.2, `the temperature typed in °F, ${sayNumber(fahrenheit, 3)} °C`, { t_C: fahrenheit })
  if (!isGas(s) && s.fluid !== 'own') {
    for (const fluid of ['water', 'seawater'] as const)
      if (fluid !== s.fluid)
        add('FLUID', 0.12, fluid === 'water' ? 'water in the pipe' : 'seawater in the pipe', { fluid })
    for (const [fluid, l] of Object.entries(TYPICAL_LIQUIDS))
      if (fluid !== s.fluid)
        add('FLUID', 0.03, `${l.title} in the pipe`, { fluid: fluid as Entries['fluid'] }, l.sure_pct / 2)
  }
  for (const traverses of ['1', '2', '4'] as const)
    if (Number(traverses) !== site.traverses)
      add(
        'TRAVERSES',
        0.2,
        `sensors mounted for ${traverses} ${traverses === '1' ? 'traverse' : 'traverses'}`,
        {
          traverses,
        },
      )
  return out
}

/** What can have any value explains everything, and so explains little: it stands behind what fits by itself. */
function ofAnyValue(s: Entries, site: Site, tMean_us: number, speed_m_s: number): LikelyCause[] {
  const j = judgeSoundSpeed({
    beam: site.beam,
    id_mm: site.id_mm,
    theory_m_s: site.fluid.soundSpeed_m_s,
    measured_m_s: speed_m_s,
    tMeasured_us: tMean_us,
    temperatures_C: crossings(
      (t) => {
        const f = fluidAt(s, t)
        return f.kind === 'state' ? f.soundSpeed_m_s : null
      },
      speed_m_s,
      Math.max(-40, s.t_C - MOST_KELVIN),
      s.t_C + MOST_KELVIN,
    ),
  })
  const out: LikelyCause[] = []
  const add = (code: string, says: string, set: Partial<Entries> | null, weight: number) =>
    out.push({ code, says, misfit_pct: 0, set, weight })
  const [t_C] = [...j.temperatures_C].sort((p, q) => Math.abs(p - s.t_C) - Math.abs(q - s.t_C))
  if (t_C !== undefined && s.fluid !== 'own')
    add(
      'TEMPERATURE',
      `the fluid at ${sayNumber(t_C, 3)} °C`,
      { t_C: Number(t_C.toFixed(1)) },
      0.03 * Math.exp(-Math.abs(t_C - s.t_C) / 6),
    )
  if (Math.abs(j.spacingError_mm) <= MOST_SPACING_MM)
    add(
      'SPACING',
      `sensors ${sayNumber(Math.abs(j.spacingError_mm), 2)} mm too ${j.spacingError_mm > 0 ? 'far apart' : 'close'}`,
      null,
      0.02 * Math.exp(-Math.abs(j.spacingError_mm) / 4),
    )
  if (Math.abs(j.id_mm / site.id_mm - 1) <= MOST_BORE)
    add(
      'BORE',
      `a bore of ${sayNumber(j.id_mm, 5)} mm: wall and liner together ${sayNumber(Math.abs(site.id_mm - j.id_mm) / 2, 2)} mm ${j.id_mm < site.id_mm ? 'thicker' : 'thinner'} than entered`,
      null,
      0.01 * Math.exp(-Math.abs(j.id_mm / site.id_mm - 1) / 0.03),
    )
  return out
}

/**
 * What people do wrong, tried one by one against a measured transit time: the likeliest first. The sensors stand where
 * the wrong entries put them, or where they were moved to; both are tried.
 * @param tMean_us - mean transit time that was read, µs
 */
export function likelyCauses(s: Entries, site: Site, tMean_us: number): LikelyCause[] {
  const out: LikelyCause[] = []
  const percent = (us: number) => (100 * us) / Math.max(1, tMean_us - site.beam.tFixed_us)
  const K = site.beam.K_us_m / 1000
  /** What a set-up would read, with the sensors at its own spacing and at the one that was set. */
  const times = (set: Partial<Entries>): number[] => {
    const here = siteOf({ ...s, traverses: String(site.traverses) as Entries['traverses'], ...set })
    if (isRefused(here)) return []
    const own = here.beam.tFixed_us + here.beam.tFluid_us
    return set.traverses === undefined
      ? [own, own + K * (site.beam.spacing_mm - here.beam.spacing_mm)]
      : [own]
  }
  for (const t of trials(s, site)) {
    const misfit = Math.min(...times(t.set).map((us) => Math.abs(percent(us - tMean_us))), Infinity)
    const sure = t.sure_pct ?? SURE_PCT
    if (misfit <= Math.max(MOST_PCT, t.sure_pct ?? 0))
      out.push({
        code: t.code,
        says: t.says,
        misfit_pct: misfit,
        set: t.set,
        weight: (t.prior * Math.exp(-0.5 * (misfit / sure) ** 2) * SURE_PCT) / sure,
      })
  }
  const speed_m_s = measuredSoundSpeed_m_s(site.beam, site.traverses, site.id_mm, tMean_us)
  if (speed_m_s !== null) out.push(...ofAnyValue(s, site, tMean_us, speed_m_s))
  return out.sort((a, b) => b.weight - a.weight)
}
