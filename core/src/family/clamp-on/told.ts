import { isRefused } from '../../refused.ts'
import { filmWanted_mm, frequencyOf, LEAST_FILM_SHARE } from './film.ts'
import type { Entries } from './settings.ts'
import { isGas, siteOf, type Site } from './site.ts'

/** Speed of sound is known so well before it is read, %: water by its tables, others by what is typical. */
const SOUND_WITHIN_PCT = { water: 1, gas: 0.5, other: 2 } as const
/** Signal above which a path counts as good, % of full quality; gas never gets as far as a liquid. */
const LEAST_SIGNAL_PCT = { liquid: 60, gas: 50 } as const

/** Film by the size of the sensors: the longer their wave, the more of it. */
function filmTold(s: Entries, site: Site, isTyped: (name: keyof Entries) => boolean) {
  const frequency_MHz = frequencyOf(s, site)
  const wanted = filmWanted_mm(frequency_MHz)
  return {
    frequency_MHz,
    filmWanted_mm: wanted,
    filmLeast_mm: LEAST_FILM_SHARE * wanted,
    ...(isTyped('film_mm') && s.film_mm > 0 ? { film_mm: s.film_mm } : {}),
    ...(isTyped('filmLayers') && s.filmLayers > 0 ? { filmLayers: s.filmLayers } : {}),
  }
}

/** What the start-up is held against, from the set-up; nothing where it gives no beam. */
export function told(
  s: Entries,
  isTyped: (name: keyof Entries) => boolean,
): Readonly<Record<string, number | string>> {
  const site = siteOf(s)
  if (isRefused(site)) return {}
  const gas = isGas(s)
  const pipe: readonly (keyof Entries)[] = {
    table: ['nps', 'schedule'] as const,
    od: ['od_mm', 'wall_mm'] as const,
    tape: ['circumference_mm', 'wall_mm'] as const,
  }[s.by]
  // What a default made up is no expectation: then it is typed at the start-up.
  const isFluid = (['fluid', 't_C'] as const).every(isTyped)
  const isPipe = isFluid && [...pipe, 'material' as const, 'liner' as const].every(isTyped)
  return {
    medium: gas ? 'gas' : 'liquid',
    paths: s.paths,
    ...(isFluid ? { soundSpeed_m_s: site.fluid.soundSpeed_m_s } : {}),
    soundWithin_pct: gas
      ? SOUND_WITHIN_PCT.gas
      : s.fluid === 'water'
        ? SOUND_WITHIN_PCT.water
        : SOUND_WITHIN_PCT.other,
    ...(isPipe ? { transit_us: site.beam.tFixed_us + site.beam.tFluid_us } : {}),
    ...(gas ? filmTold(s, site, isTyped) : {}),
    leastSignal_pct: gas ? LEAST_SIGNAL_PCT.gas : LEAST_SIGNAL_PCT.liquid,
  }
}
