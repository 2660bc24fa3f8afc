import type { Finding } from '../../finding.ts'
import { pairProblem } from '../../sensor/pair-serials.ts'
import { sayNumber } from '../../quantity/round.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'

/** What the device would cut off or take for another: the name of the site, the second path's own pair. */
export function siteFindings(s: Entries): Finding[] {
  const name = s.site.trim()
  const kept = name.slice(0, s.siteMost).trimEnd()
  const second = s.paths === '2' ? pairProblem(s.serialA2, s.serialB2) : null
  const [a, a2] = [s.serialA.trim(), s.serialA2.trim()]
  return [
    ...(name.length > s.siteMost
      ? [
          finding(
            'SITE_NAME_LONG',
            'warn',
            'site',
            `The device takes ${sayNumber(s.siteMost)} characters and “${name}” has ${name.length}: it would be kept as “${kept}”.`,
          ),
        ]
      : []),
    ...(second ? [finding(second.code, 'stop', 'serialB2', second.says)] : []),
    ...(s.paths === '2' && a !== '' && a.toUpperCase() === a2.toUpperCase()
      ? [
          finding(
            'PATHS_SHARE_PAIR',
            'stop',
            'serialA2',
            `Both paths have ${a}: each path has a pair of its own.`,
          ),
        ]
      : []),
  ]
}

/** Largest share of full flow that a cutoff may hide. */
const MOST_HIDDEN = 0.05
/** How the reading is calmed: a cutoff that is never 0 and hides little. */
export function readingFindings(s: Entries, area_m2: number): Finding[] {
  const cut_m3h = s.cutoff_m_s * area_m2 * 3600
  if (s.cutoff_m_s === 0)
    return [
      finding(
        'CUTOFF',
        'warn',
        'cutoff_m_s',
        'A cutoff of 0 lets the total walk with the noise of the zero. Never 0.',
      ),
    ]
  return cut_m3h > MOST_HIDDEN * s.flow_m3h
    ? [
        finding(
          'CUTOFF_HIDES',
          'warn',
          'cutoff_m_s',
          `Below ${sayNumber(s.cutoff_m_s)} m/s nothing is counted: that is ${sayNumber(cut_m3h, 3)} m³/h, ${sayNumber((100 * cut_m3h) / s.flow_m3h, 2)} % of full flow.`,
        ),
      ]
    : []
}
