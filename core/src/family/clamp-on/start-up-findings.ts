import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { ResultRow } from '../family.ts'
import { twoPaths } from './advice.ts'
import { entryFix } from '../entry-fix.ts'
import { measuredSoundSpeed_m_s, timeOfSoundSpeed_us } from './beam.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'
import { signalFindings } from './signal-findings.ts'
import { likelyCauses } from './likely-causes.ts'
import { zeroLimits_m_s, type Site } from './site.ts'
import { speedVerdict } from './sound-speed-verdict.ts'

/** More causes than these help nobody. */
const MOST_CAUSES = 4
/** What people do wrong, tried against the reading: the likeliest first, each with the entry to change. */
function causes(s: Entries, site: Site, t_us: number): Finding[] {
  return likelyCauses(s, site, t_us)
    .slice(0, MOST_CAUSES)
    .map((c, i) => ({
      code: 'LIKELY_CAUSE',
      severity: 'note' as const,
      where: Object.keys(c.set ?? {}),
      says: `${i === 0 ? 'Likeliest' : 'Or'}: ${c.says}.`,
      evidence: [{ label: 'it leaves unexplained', value: `${sayNumber(c.misfit_pct, 2)} %` }],
      ...(c.set ? { fix: entryFix('Enter it so', c.set) } : {}),
    }))
}
/** What the meter tells: a transit time, or the sound speed that it makes of it with the bore it was told. */
function measuredOf(s: Entries, site: Site) {
  if (s.tMean_us > 0)
    return {
      entry: 'tMean_us',
      t_us: s.tMean_us,
      speed_m_s: measuredSoundSpeed_m_s(site.beam, site.traverses, site.id_mm, s.tMean_us),
    }
  if (s.speedRead_m_s > 0) {
    const t_us = timeOfSoundSpeed_us(site.beam, site.traverses, site.id_mm, s.speedRead_m_s)
    return t_us === null ? null : { entry: 'speedRead_m_s', t_us, speed_m_s: s.speedRead_m_s }
  }
  return null
}

/** What was read after start-up against what was expected. */
export function startUpFindings(s: Entries, site: Site): { rows: ResultRow[]; findings: Finding[] } {
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const measured = measuredOf(s, site)
  if (measured !== null) {
    if (measured.speed_m_s === null)
      findings.push(
        finding(
          'NO_SPEED',
          'stop',
          'tMean_us',
          `No sound speed gives ${sayNumber(measured.t_us, 6)} µs here: about ${sayNumber(site.beam.tFixed_us + site.beam.tFluid_us, 5)} µs is expected.`,
        ),
        ...causes(s, site, measured.t_us),
      )
    else {
      const theory = site.fluid.soundSpeed_m_s
      const deviation_pct = ((measured.speed_m_s - theory) / theory) * 100
      const verdict = speedVerdict(deviation_pct)
      rows.push({ label: 'Sound speed measured', value: measured.speed_m_s, unit: 'm/s', decimals: 1 })
      rows.push({ label: 'against theory', value: deviation_pct, unit: '%', decimals: 2 })
      findings.push({
        code: `SOUND_SPEED_${verdict}`,
        severity: verdict === 'OK' ? 'good' : verdict === 'CHECK' ? 'warn' : 'stop',
        where: [measured.entry],
        says:
          verdict === 'OK'
            ? `The sound speed is believable: ${sayNumber(deviation_pct, 2)} % off.`
            : `The sound speed is ${sayNumber(Math.abs(deviation_pct), 3)} % too ${deviation_pct > 0 ? 'high' : 'low'}: something is not as it was entered.`,
        rule: 'within 0.5 % believable, to 2 % look, above that a fault',
      })
      if (verdict !== 'OK') findings.push(...causes(s, site, measured.t_us))
    }
  }
  findings.push(...signalFindings(s))
  const zero = Math.abs(s.zero_m_s)
  const { least: enough, most } = zeroLimits_m_s(s)
  if (zero > most)
    findings.push(
      finding(
        'ZERO_IN_FLOW',
        'stop',
        'zero_m_s',
        `${sayNumber(zero, 3)} m/s is not a zero: the flow has not stopped or the pipe is not full. Do not set a zero here.`,
      ),
    )
  else if (zero > enough)
    findings.push(
      finding(
        'ZERO_WORTH_IT',
        'warn',
        'zero_m_s',
        `${sayNumber(zero, 3)} m/s with the flow stopped is above ${enough} m/s: setting the zero is worth doing, with both valves shut and five minutes of settling.`,
      ),
    )
  else if (zero > 0)
    findings.push(finding('ZERO_FINE', 'good', 'zero_m_s', 'The zero is fine as it is; leave it alone.'))
  if (s.paths === '2' && s.v1_m_s !== 0 && s.v2_m_s !== 0) {
    const p = twoPaths(s.v1_m_s, s.v2_m_s)
    rows.push({ label: 'Mean of both paths', value: p.mean_m_s, unit: 'm/s', decimals: 3 })
    findings.push(
      finding(
        'ASYMMETRY',
        p.verdict === 'OK' ? 'good' : p.verdict === 'WARN' ? 'warn' : 'stop',
        'v1_m_s',
        `The paths differ by ${sayNumber(Math.abs(p.asymmetry_pct), 3)} %${p.verdict === 'OK' ? '' : p.verdict === 'WARN' ? ': the profile is disturbed' : ': treat the flow as uncertain'}.`,
      ),
    )
  }
  return { rows, findings }
}
