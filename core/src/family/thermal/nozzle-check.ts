import type { Chart, Table } from '../../chart.ts'
import type { Finding } from '../../finding.ts'
import { keysOf } from '../../quantity/setting.ts'
import { CERTIFICATE_PRESSURES } from '../../sensor/kinds/insertion-probe.ts'
import { entryFix } from '../entry-fix.ts'
import { numbersOf } from '../../quantity/number-list.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { absolute_kPa, asCertified, type NozzleEntries } from './nozzle-settings.ts'
import {
  driftOf,
  minutesToLeave,
  nozzleFlow,
  nozzleVerdict,
  OXYGEN_LEAVE_PCT,
  oxygenAfter_pct,
  type NozzleFlow,
} from './nozzle.ts'

export interface NozzleCheck {
  readonly findings: readonly Finding[]
  readonly charts: readonly Chart[]
  readonly tables: readonly Table[]
}

interface Point {
  readonly p0_kPa: number
  readonly flow: NozzleFlow
  readonly reference_kgh: number
}

function suffocation(s: NozzleEntries): Finding {
  const [room, release] = [s.room_m3, s.release_m3h]
  const minutes = minutesToLeave(room, release) ?? Infinity
  return {
    code: 'OXYGEN',
    severity: minutes < 60 ? 'warn' : 'note',
    where: ['room_m3'],
    says: `Nitrogen suffocates without warning: in ${sayNumber(room)} m³ without ventilation oxygen falls below ${OXYGEN_LEAVE_PCT} % after ${sayNumber(minutes, 3)} minutes, and to ${sayNumber(oxygenAfter_pct(room, release, 15), 3)} % after 15. Vent outdoors, wear an oxygen meter.`,
  }
}

/** The trend of yearly checks and the year in which the limit of reading is crossed. */
function trend(s: NozzleEntries): Finding[] {
  const yearly = numbersOf(s.yearly_list)
  const limit = s.ofReading_pct
  const drift = driftOf(
    yearly.map((_, i) => i),
    yearly,
    limit,
  )
  if (!drift)
    return yearly.length > 0
      ? [
          {
            code: 'NO_TREND',
            severity: 'note',
            where: ['yearly_list'],
            says: 'A trend needs three yearly checks or more.',
          },
        ]
      : []
  const last = yearly.length - 1
  const ahead = drift.slope > 0 ? drift.crossesAt : null
  return [
    {
      code: 'TREND',
      severity: ahead !== null && ahead - last < 1 ? 'warn' : 'note',
      where: ['yearly_list'],
      says:
        ahead === null
          ? `The yearly checks move by ${sayNumber(drift.slope, 3)} % a year, away from +${sayNumber(limit)} %.`
          : `The yearly checks move by ${sayNumber(drift.slope, 3)} % a year; ${sayNumber(limit)} % is reached ${sayNumber(ahead, 4)} years after the first.`,
      rule: 'least squares of the mean deviations',
    },
  ]
}

/** A certificate farther than this from the nozzle's flow is read in another unit, %. */
const CERTIFICATE_FAR_PCT = 8
/** A certificate that contradicts its own nozzle: gauge for absolute, or another unit, tried. */
function certificateFindings(
  s: NozzleEntries,
  points: readonly Point[],
  baseline: readonly number[],
  told: boolean,
): Finding[] {
  const worst = Math.max(0, ...baseline.map(Math.abs))
  if (!told || points.length === 0 || worst <= CERTIFICATE_FAR_PCT) return []
  const readings = numbersOf(s.certified_list)
  const typed = numbersOf(s.p0_list)
  const units = keysOf(CERTIFICATE_PRESSURES)
  const fits = units
    .filter((unit) => unit !== s.p0_unit)
    .map((unit) => {
      const off = typed.map((p, i) => {
        const flow = nozzleFlow(
          s.throat_mm,
          absolute_kPa({ ...s, p0_unit: unit }, p),
          s.t0_C,
          0,
          s.Cd > 0 ? s.Cd : null,
        )?.massFlow_g_s
        return flow == null ? Infinity : Math.abs((readings[i] ?? NaN) / (flow * 3.6) - 1) * 100
      })
      return { unit, worst: Math.max(...off) }
    })
    .filter((f) => f.worst < CERTIFICATE_FAR_PCT)
    .sort((a, b) => a.worst - b.worst)
  const [best] = fits
  return [
    {
      code: 'CERTIFICATE_FAR',
      severity: 'warn',
      where: ['certified_list'],
      says: `The certificate’s own readings are up to ${sayNumber(worst, 3)} % off what this nozzle passes at its pressures.${best ? ` Read in ${CERTIFICATE_PRESSURES[best.unit]} they fit within ${sayNumber(best.worst, 2)} %.` : ' Is it the certificate of this nozzle?'}`,
      ...(best
        ? {
            fix: entryFix(`The pressures are in ${CERTIFICATE_PRESSURES[best.unit]}`, { p0_unit: best.unit }),
          }
        : {}),
    },
  ]
}

/** Nitrogen through a sonic nozzle at several pressures: what passes, how the meter compares, with its baseline. */
export function nozzleCheck(s: NozzleEntries): NozzleCheck {
  const pressures = numbersOf(s.p0_list).map((p) => absolute_kPa(s, p))
  if (pressures.length === 0) return { findings: trend(s), charts: [], tables: [] }
  const certified = s.Cd
  const points: Point[] = []
  const findings: Finding[] = []
  for (const p0_kPa of pressures) {
    const flow = nozzleFlow(s.throat_mm, p0_kPa, s.t0_C, s.after_kPa, certified > 0 ? certified : null)
    if (!flow)
      findings.push({
        code: 'NOZZLE_OUTSIDE',
        severity: 'stop',
        where: ['p0_list'],
        says: `Nitrogen is known here from 100 to 5000 kPa absolute and from 0 to 40 °C; ${sayNumber(p0_kPa)} kPa at ${sayNumber(s.t0_C)} °C is outside.`,
      })
    else if (flow.massFlow_g_s === null)
      findings.push({
        code: 'NOT_CHOKED',
        severity: 'stop',
        where: ['after_kPa'],
        says: `At ${sayNumber(p0_kPa)} kPa the pressure behind the nozzle is ${sayNumber((s.after_kPa / p0_kPa) * 100, 3)} % of that before it; above 52.8 % it is not sonic and the flow is unknown. Raise the supply.`,
      })
    else points.push({ p0_kPa, flow, reference_kgh: flow.massFlow_g_s * 3.6 })
  }
  const indicated = numbersOf(s.indicated_list)
  const certificate = numbersOf(s.certified_list)
  if (certificate.length > 0 && certificate.length !== pressures.length)
    findings.push({
      code: 'CERTIFICATE_COUNT',
      severity: 'stop',
      where: ['certified_list'],
      says: `There are ${pressures.length} pressures and ${certificate.length} readings of the certificate; one belongs to each.`,
    })
  // Where the certificate tells its own readings, the baseline is theirs; else as it was worked out before.
  const baseline =
    certificate.length === pressures.length && points.length === pressures.length
      ? points.map((p, i) => ((certificate[i] ?? NaN) / p.reference_kgh - 1) * 100)
      : numbersOf(s.baseline_list)
  findings.push(...certificateFindings(s, points, baseline, certificate.length > 0))
  if (indicated.length > 0 && indicated.length !== pressures.length)
    findings.push({
      code: 'NOZZLE_COUNT',
      severity: 'stop',
      where: ['indicated_list'],
      says: `There are ${pressures.length} pressures and ${indicated.length} readings; one reading belongs to each pressure.`,
    })
  const judged =
    indicated.length === pressures.length && points.length === pressures.length
      ? nozzleVerdict(
          points.map((p, i) => ({
            reference: p.reference_kgh,
            indicated: indicated[i] ?? 0,
            baseline_pct: baseline[i] ?? null,
          })),
          s.ofReading_pct,
          s.ofFs_pct,
          s.checkFs_kgh,
        )
      : []
  const worst = ['FAIL', 'ALERT', 'PASS'].find((v) => judged.some((j) => j.verdict === v))
  const at = judged.reduce(
    (w, j, i) => {
      const use = Math.abs(j.deviation_pct) / j.limit_pct
      return use > w.use ? { use, i } : w
    },
    { use: -1, i: 0 },
  )
  const far = judged[at.i]
  if (worst !== undefined && far)
    findings.push({
      code: `NOZZLE_${worst}`,
      severity: worst === 'PASS' ? 'good' : worst === 'ALERT' ? 'warn' : 'stop',
      where: ['indicated_list'],
      says: `${worst === 'FAIL' ? 'Out of limits' : 'Within limits'} at ${judged.length} pressures; the largest share is ${sayNumber(far.deviation_pct, 3)} % of ±${sayNumber(far.limit_pct, 3)} % at ${sayNumber(asCertified(s, pressures[at.i] ?? 0), 5)} ${s.p0_unit.startsWith('kPa') ? 'kPa' : s.p0_unit.startsWith('bar') ? 'bar' : 'psi'}.${worst === 'ALERT' ? ' It has moved by more than half its limit since the baseline.' : ''}`,
    })
  if (points.length > 0) findings.push(suffocation(s))
  const x = points.map((p) => p.reference_kgh)
  const line = (name: string, y: readonly number[], kind: 'points' | 'limit' | 'line') => ({
    name,
    kind,
    points: y.map((v, i) => [x[i] ?? 0, v] as const),
  })
  return {
    findings: [...findings, ...trend(s)],
    tables:
      points.length > 0
        ? [
            {
              title: 'Nozzle check',
              columns: ['before, kPa', 'passes, kg/h', 'meter, kg/h', 'off, %', 'allowed, ± %', 'verdict'],
              rows: points.map((p, i) => {
                const j = judged[i]
                return [
                  sayNumber(p.p0_kPa),
                  roundText(p.reference_kgh, 4),
                  indicated[i] === undefined ? '' : sayNumber(indicated[i], 6),
                  j ? roundText(j.deviation_pct, 4) : '',
                  j ? roundText(j.limit_pct, 4) : '',
                  j ? { PASS: 'passes', ALERT: 'passes, moved', FAIL: 'fails' }[j.verdict] : '',
                ]
              }),
            },
          ]
        : [],
    charts:
      judged.length > 1
        ? [
            {
              title: 'Deviation from the nozzle',
              says: `Deviation at ${judged.length} flows between ${sayNumber(Math.min(...x), 4)} and ${sayNumber(Math.max(...x), 4)} kg/h, with the limits${baseline.length > 0 ? ' and the baseline' : ''}.`,
              x: { label: 'nozzle flow', unit: 'kg/h' },
              y: { label: 'deviation', unit: '%' },
              series: [
                line(
                  'limit',
                  judged.map((j) => j.limit_pct),
                  'limit',
                ),
                line(
                  'limit below',
                  judged.map((j) => -j.limit_pct),
                  'limit',
                ),
                ...(baseline.length === judged.length ? [line('baseline', baseline, 'line')] : []),
                line(
                  'now',
                  judged.map((j) => j.deviation_pct),
                  'points',
                ),
              ],
            },
          ]
        : [],
  }
}
