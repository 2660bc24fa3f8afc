import { describe, expect, test } from 'vitest'
import { PIPE_SIZES } from '../../media/pipe-sizes-table.ts'
import { valuesOf, type Setting, type Typed } from '../../quantity/setting.ts'
import { isRefused } from '../../refused.ts'
import { Generator } from '../../statistics/generator.ts'
import { measuredSoundSpeed_m_s } from './beam.ts'
import { likelyCauses } from './likely-causes.ts'
import { GROUPS, type Entries } from './settings.ts'
import { siteOf } from './site.ts'
import { startUpFindings } from './start-up-findings.ts'

const SETTINGS = GROUPS.flatMap((g): readonly Setting[] => g.settings)
/** The family’s own reader, as `defineFamily` types it. */
const entries = (typed: Partial<Entries>): Entries => valuesOf(SETTINGS, typed as Typed) as unknown as Entries

/** Plants that somebody could really have; the meter reads their own transit time, with the noise of a meter. */
function plant(seed: number) {
  const g = new Generator(seed)
  const random = () => g.uniform()
  const pick = <T>(all: readonly T[]): T => all[Math.floor(random() * all.length)] as T
  const size = pick(PIPE_SIZES.filter((p) => p.dn >= 80 && p.dn <= 600))
  const schedule = pick(size.schedules.filter(([name]) => ['STD', '40', 'XS', '80'].includes(name)))
  const lined = random() < 0.3
  return {
    random,
    pick,
    truth: entries({
      nps: size.nps as Entries['nps'],
      schedule: schedule[0] as Entries['schedule'],
      fluid: pick(['water', 'seawater'] as const),
      t_C: 6 + 30 * random(),
      gauge_kPa: 300,
      ...(lined ? { liner: 'cement_mortar' as const, liner_mm: pick([5, 6, 8, 9]) } : {}),
    }),
    od_mm: schedule[1],
    wall_mm: schedule[2],
  }
}
const timeOf = (s: Entries): number => {
  const site = siteOf(s)
  return isRefused(site) ? NaN : site.beam.tFixed_us + site.beam.tFluid_us
}
type Mistake = (p: ReturnType<typeof plant>) => { typed: Partial<Entries>; truth?: Partial<Entries> } | null
const MISTAKES: Readonly<Record<string, Mistake>> = {
  SCHEDULE: (p) => {
    const others = PIPE_SIZES.find((x) => x.nps === p.truth.nps)?.schedules.filter(
      ([, , wall]) => Math.abs(wall - p.wall_mm) > 1.2,
    )
    return others?.length ? { typed: { schedule: p.pick(others)[0] as Entries['schedule'] } } : null
  },
  CIRCUMFERENCE: (p) => ({
    typed: { by: 'od', od_mm: p.od_mm * Math.PI, wall_mm: p.wall_mm },
    truth: { by: 'od', od_mm: p.od_mm, wall_mm: p.wall_mm },
  }),
  PIPE_INCH: (p) => ({
    typed: {
      by: 'od',
      od_mm: Number((p.od_mm / 25.4).toFixed(3)),
      wall_mm: Number((p.wall_mm / 25.4).toFixed(3)),
    },
    truth: { by: 'od', od_mm: p.od_mm, wall_mm: p.wall_mm },
  }),
  OD_INCH: (p) => ({
    typed: { by: 'od', od_mm: Number((p.od_mm / 25.4).toFixed(3)), wall_mm: 2.6 },
    truth: { by: 'od', od_mm: p.od_mm, wall_mm: 2.6 },
  }),
  WALL_INCH: (p) => ({
    typed: { by: 'od', od_mm: p.od_mm, wall_mm: Number((p.wall_mm / 25.4).toFixed(3)) },
    truth: { by: 'od', od_mm: p.od_mm, wall_mm: p.wall_mm },
  }),
  LINER_FORGOTTEN: (p) => (p.truth.liner === 'none' ? null : { typed: { liner: 'none' } }),
  LINER_NONE: (p) =>
    p.truth.liner === 'none' ? { typed: { liner: 'cement_mortar', liner_mm: p.pick([5, 6, 8]) } } : null,
  FLUID: (p) => ({ typed: { fluid: p.truth.fluid === 'water' ? 'seawater' : 'water' } }),
  FAHRENHEIT: (p) => ({
    typed: { t_C: Math.round(p.truth.t_C * 1.8 + 32) },
    truth: { t_C: Math.round(p.truth.t_C) },
  }),
  TRAVERSES: (p) => {
    const site = siteOf(p.truth)
    return isRefused(site) ? null : { typed: { traverses: site.traverses === 2 ? '1' : '2' } }
  },
}

/** How often each mistake, made on plants of chance, is named first. */
function named(code: string, mistake: Mistake): { first: number; all: number; others: string[] } {
  let [first, all] = [0, 0]
  const others: string[] = []
  for (let seed = 1; seed <= 60; seed++) {
    const p = plant(seed * 7919)
    const made = mistake(p)
    if (!made) continue
    const truth = { ...p.truth, ...made.truth }
    const typed = { ...truth, ...made.typed }
    const site = siteOf(typed)
    // The sensors are mounted as the set-up says, also where it is wrong.
    const mounted = isRefused(site) ? '1' : String(site.traverses)
    const real = timeOf(
      code === 'TRAVERSES' ? truth : { ...truth, traverses: mounted as Entries['traverses'] },
    )
    if (isRefused(site) || !Number.isFinite(real)) continue
    const off = (100 * (real - timeOf(typed))) / real
    // What moves the time by less than anybody would ask about is no fault to name.
    if (Math.abs(off) < 0.5) continue
    all++
    const read = real * (1 + 0.0003 * (p.random() - 0.5))
    const [best] = likelyCauses(typed, site, read)
    if (best?.code === code) first++
    else others.push(`${best?.code ?? 'nothing'} (${best?.says ?? ''})`)
  }
  return { first, all, others }
}

describe('what people enter wrongly is found by trying it', () => {
  test.each(Object.entries(MISTAKES))('%s is named first in nineteen of twenty', (code, mistake) => {
    const told = named(code, mistake)
    expect(told.all).toBeGreaterThan(10)
    expect(told.first / told.all, told.others.join('\n')).toBeGreaterThanOrEqual(0.95)
  })
})

describe('what the reference explains', () => {
  test('W11: a time that is 1.9 µs long, and what alone would explain it', () => {
    const s = entries({
      nps: '1-1/2' as Entries['nps'],
      schedule: '10S' as Entries['schedule'],
      material: 'stainless_316',
      t_C: 24,
      gauge_kPa: 498.675,
      traverses: '4',
      wedge_m_s: 2500,
      wedge_deg: 40,
      wedge_mm: 10,
    })
    const site = siteOf(s)
    if (isRefused(site)) throw new Error(site.says)
    const says = likelyCauses(s, site, 139.2352).map((c) => c.says)
    expect(says).toContain('the fluid at 15.3 °C')
    expect(says).toContain('sensors 7.4 mm too far apart')
    expect(says.find((x) => x.startsWith('a bore of'))).toMatch(/43\.41[56] mm/)
  })
})
describe('nothing is blamed that is right', () => {
  test('200 plants as they are: the sound speed is believable and no cause is told', () => {
    for (let seed = 1; seed <= 200; seed++) {
      const p = plant(seed)
      const read = timeOf(p.truth) * (1 + 0.0006 * (p.random() - 0.5))
      const site = siteOf(p.truth)
      if (isRefused(site)) throw new Error(site.says)
      const told = startUpFindings({ ...p.truth, tMean_us: read }, site).findings.map((f) => f.code)
      expect(told, `plant ${seed}`).toEqual(['SOUND_SPEED_OK'])
    }
  })
  test('the sound speed that a meter shows tells the same as its time', () => {
    const s = entries({ nps: '12', liner: 'none' })
    const lined = siteOf({ ...s, liner: 'cement_mortar', liner_mm: 6 })
    const site = siteOf(s)
    if (isRefused(site) || isRefused(lined)) throw new Error('no site')
    const t = lined.beam.tFixed_us + lined.beam.tFluid_us
    const speed = measuredSoundSpeed_m_s(site.beam, site.traverses, site.id_mm, t)
    const by = (change: Partial<Entries>) =>
      startUpFindings({ ...s, ...change }, site).findings.map((f) => f.says)
    expect(by({ speedRead_m_s: speed ?? 0 })).toEqual(by({ tMean_us: t }))
    expect(by({ tMean_us: t })[1]).toBe(
      'Likeliest: a liner that was not entered: cement mortar (liner), 6 mm.',
    )
  })
})
