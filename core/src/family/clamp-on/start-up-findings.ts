import { crossings } from '../../numeric/crossings.ts'
import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { ResultRow } from '../family.ts'
import { twoPaths } from './advice.ts'
import { measuredSoundSpeed_m_s } from './beam.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'
import { fluidAt, zeroLimits_m_s, type Site } from './site.ts'
import { judgeSoundSpeed } from './sound-speed-verdict.ts'

/** What was read after start-up against what was expected. */
export function startUpFindings(s: Entries, site: Site): { rows: ResultRow[]; findings: Finding[] } {
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const tMean_us = s.tMean_us
  if (tMean_us > 0) {
    const measured = measuredSoundSpeed_m_s(site.beam, site.traverses, site.id_mm, tMean_us)
    if (measured === null)
      findings.push(
        finding(
          'NO_SPEED',
          'stop',
          'tMean_us',
          `No sound speed gives ${sayNumber(tMean_us, 6)} µs here: about ${sayNumber(site.beam.tFixed_us + site.beam.tFluid_us, 5)} µs is expected.`,
        ),
      )
    else {
      const j = judgeSoundSpeed({
        beam: site.beam,
        id_mm: site.id_mm,
        theory_m_s: site.fluid.soundSpeed_m_s,
        measured_m_s: measured,
        tMeasured_us: tMean_us,
        temperatures_C: crossings(
          (t) => {
            const f = fluidAt(s, t)
            return f.kind === 'state' ? f.soundSpeed_m_s : null
          },
          measured,
          Math.max(-40, s.t_C - 60),
          s.t_C + 60,
        ),
      })
      rows.push({ label: 'Sound speed measured', value: measured, unit: 'm/s', decimals: 1 })
      rows.push({ label: 'against theory', value: j.deviation_pct, unit: '%', decimals: 2 })
      const nearest = [...j.temperatures_C].sort((p, q) => Math.abs(p - s.t_C) - Math.abs(q - s.t_C))[0]
      const why = [
        nearest === undefined || s.fluid === 'own' ? null : `the fluid at ${sayNumber(nearest, 3)} °C`,
        `a bore of ${sayNumber(j.id_mm, 5)} mm (wall or liner wrong by ${sayNumber((site.id_mm - j.id_mm) / 2, 2)} mm)`,
        `sensors ${sayNumber(Math.abs(j.spacingError_mm), 2)} mm too ${j.spacingError_mm > 0 ? 'far apart' : 'close'}`,
      ].filter((x) => x !== null)
      findings.push({
        code: `SOUND_SPEED_${j.verdict}`,
        severity: j.verdict === 'OK' ? 'good' : j.verdict === 'CHECK' ? 'warn' : 'stop',
        where: ['tMean_us'],
        says:
          j.verdict === 'OK'
            ? `The sound speed is believable: ${sayNumber(j.deviation_pct, 2)} % off.`
            : `The sound speed is ${sayNumber(Math.abs(j.deviation_pct), 3)} % too ${j.deviation_pct > 0 ? 'high' : 'low'}. One cause alone would be: ${why.join('; ')}.`,
        rule: 'within 0.5 % believable, to 2 % look, above that a fault',
      })
    }
  }
  const snr = s.snr_dB
  if (snr > 0)
    findings.push(
      finding(
        'SIGNAL',
        snr >= 20 ? 'good' : snr >= 12 ? 'warn' : 'stop',
        'snr_dB',
        `Signal to noise of ${sayNumber(snr)} dB is ${snr >= 20 ? 'good' : snr >= 12 ? 'fair: couplant, position, film' : 'poor: couplant, scale, gas in the liquid, or the wrong place'}.`,
        'typical; the supplier’s limits win',
      ),
    )
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
