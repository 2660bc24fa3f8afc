import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'
import { isGas, type Site } from './site.ts'

/** The lower the frequency, the longer the wave that runs round the wall and the more film it takes; mm, typical. */
export const filmWanted_mm = (frequency_MHz: number): number =>
  Math.min(5, Math.max(0.5, Math.round((0.5 / frequency_MHz) * 2) / 2))

/** Less than this share of what is wanted lets the sound round the wall through. */
export const LEAST_FILM_SHARE = 0.6
/** What the pair works at: as its plate says, else as is advised for the pipe, MHz. */
export const frequencyOf = (s: Entries, site: Site): number =>
  s.frequency_MHz > 0 ? s.frequency_MHz : (site.advice?.frequency_MHz ?? 0.2)

/** Damping film for gas: whether there is any, and enough of it for the sensors. */
export function filmFindings(s: Entries, site: Site): Finding[] {
  if (!isGas(s)) return []
  const frequency = frequencyOf(s, site)
  const wanted = filmWanted_mm(frequency)
  const where = s.paths === '2' ? 'on both sides and at both paths' : 'on both sides'
  // Film that lies under the sensors is there, whether or not its layers were counted.
  if (s.filmLayers === 0 && !s.film)
    return [
      finding(
        'FILM_MISSING',
        'stop',
        'filmLayers',
        `Gas needs damping film wound on the wall ${where}, about ${sayNumber(wanted)} mm for ${sayNumber(frequency)} MHz: without it the sound that runs round the wall covers the signal.`,
        'typical; the supplier’s layers win',
      ),
    ]
  const each = s.film_mm / Math.max(1, s.filmLayers)
  if (each < 0.05 || each > 3)
    return [
      finding(
        'FILM_LAYERS',
        'warn',
        'film_mm',
        `${sayNumber(s.film_mm)} mm in ${sayNumber(s.filmLayers)} layers is ${sayNumber(each, 2)} mm each: is it the thickness of all layers together?`,
      ),
    ]
  return s.film_mm < wanted * LEAST_FILM_SHARE
    ? [
        finding(
          'FILM_THIN',
          'warn',
          'film_mm',
          `${sayNumber(s.film_mm)} mm of film is little for ${sayNumber(frequency)} MHz: about ${sayNumber(wanted)} mm ${where}, no bubbles under it.`,
          'typical; the supplier’s layers win',
        ),
      ]
    : [
        finding(
          'FILM_ENOUGH',
          'good',
          'film_mm',
          `${s.filmLayers > 0 ? `${sayNumber(s.filmLayers)} layers, ` : ''}${sayNumber(s.film_mm)} mm of film ${where}: enough for ${sayNumber(frequency)} MHz.`,
          'typical; the supplier’s layers win',
        ),
      ]
}
