import type { Chart, Table } from '../../chart.ts'
import type { Finding } from '../../finding.ts'
import { numberListProblem, numbersOf, positiveListProblem } from '../../quantity/number-list.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { number, text, type Settings } from '../../quantity/setting.ts'
import type { SettingGroup } from '../family.ts'
import {
  driftOf,
  minutesToLeave,
  nozzleFlow,
  nozzleVerdict,
  OXYGEN_LEAVE_PCT,
  oxygenAfter_pct,
  type NozzleFlow,
} from './nozzle.ts'

export const NOZZLE_GROUP: SettingGroup = {
  title: 'Nitrogen and nozzle check',
  settings: [
    number('throat_mm', 'Nozzle throat', 'mm', 3.2, 0.2, 50),
    number('Cd', 'Discharge coefficient of its certificate (0: none)', '', 0, 0, 1),
    text('p0_list', 'Pressures before it, kPa absolute (three to five)', '', positiveListProblem),
    text('indicated_list', 'The meter reads at each, kg/h', '', positiveListProblem),
    text('baseline_list', 'Deviation of the baseline at each, %', '', numberListProblem),
    text('yearly_list', 'Mean deviations of earlier yearly checks, %', '', numberListProblem),
    number('t0_C', 'Temperature before the nozzle', 'degC', 22, -20, 60),
    number('after_kPa', 'Pressure behind it, absolute', 'kPa', 118, 0, 6000),
    number('ofReading_pct', 'Allowed, of reading', '%', 1, 0, 20),
    number('ofFs_pct', 'Allowed, of full scale', '%', 0.2, 0, 20),
    number('checkFs_kgh', 'Full scale of the check', 'kg/h', 60, 0.1, 1e6),
    number('room_m3', 'Room', 'm3', 42, 1, 1e6),
    number('release_m3h', 'Nitrogen released', 'm3/h', 55, 0.1, 1e5),
  ],
}

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

function suffocation(s: Settings): Finding {
  const [room, release] = [s.num('room_m3'), s.num('release_m3h')]
  const minutes = minutesToLeave(room, release)
  return {
    code: 'OXYGEN',
    severity: minutes < 60 ? 'warn' : 'note',
    where: ['room_m3'],
    says: `Nitrogen suffocates without warning: in ${sayNumber(room)} m³ without ventilation oxygen falls below ${OXYGEN_LEAVE_PCT} % after ${sayNumber(minutes, 3)} minutes, and to ${sayNumber(oxygenAfter_pct(room, release, 15), 3)} % after 15. Vent outdoors, wear an oxygen meter.`,
  }
}

/** The trend of yearly checks and the year in which the limit of reading is crossed. */
function trend(s: Settings): Finding[] {
  const yearly = numbersOf(s.word('yearly_list'))
  const limit = s.num('ofReading_pct')
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

/** Nitrogen through a sonic nozzle at several pressures: what passes, how the meter compares, with its baseline. */
export function nozzleCheck(s: Settings): NozzleCheck {
  const pressures = numbersOf(s.word('p0_list'))
  if (pressures.length === 0) return { findings: trend(s), charts: [], tables: [] }
  const certified = s.num('Cd')
  const points: Point[] = []
  const findings: Finding[] = []
  for (const p0_kPa of pressures) {
    const flow = nozzleFlow(
      s.num('throat_mm'),
      p0_kPa,
      s.num('t0_C'),
      s.num('after_kPa'),
      certified > 0 ? certified : null,
    )
    if (!flow)
      findings.push({
        code: 'NOZZLE_OUTSIDE',
        severity: 'stop',
        where: ['p0_list'],
        says: `Nitrogen is known here from 100 to 5000 kPa absolute and from 0 to 40 °C; ${sayNumber(p0_kPa)} kPa at ${sayNumber(s.num('t0_C'))} °C is outside.`,
      })
    else if (!flow.choked)
      findings.push({
        code: 'NOT_CHOKED',
        severity: 'stop',
        where: ['after_kPa'],
        says: `At ${sayNumber(p0_kPa)} kPa the pressure behind the nozzle is ${sayNumber((s.num('after_kPa') / p0_kPa) * 100, 3)} % of that before it; above 52.8 % it is not sonic and the flow is unknown. Raise the supply.`,
      })
    else points.push({ p0_kPa, flow, reference_kgh: flow.massFlow_g_s * 3.6 })
  }
  const indicated = numbersOf(s.word('indicated_list'))
  const baseline = numbersOf(s.word('baseline_list'))
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
          s.num('ofReading_pct'),
          s.num('ofFs_pct'),
          s.num('checkFs_kgh'),
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
      says: `${worst === 'FAIL' ? 'Out of limits' : 'Within limits'} at ${judged.length} pressures; the largest share is ${sayNumber(far.deviation_pct, 3)} % of ±${sayNumber(far.limit_pct, 3)} % at ${sayNumber(pressures[at.i] ?? 0)} kPa.${worst === 'ALERT' ? ' It has moved by more than half its limit since the baseline.' : ''}`,
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
