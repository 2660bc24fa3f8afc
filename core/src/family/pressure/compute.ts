import { currentOf, fractionOf } from '../../signal/current-range.ts'
import type { Finding } from '../../finding.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { unitOf } from '../../quantity/units.ts'
import { nothing, type AtWork, type ResultRow, type SetUpResult } from '../family.ts'
import { tankOfEntries, vesselPages } from '../vessel.ts'
import { accuracy_pct, staticError_pct, turndown } from './accuracy.ts'
import { firstReadingFindings } from './first-reading.ts'
import { legsDrawing } from './drawing.ts'
import { differentialAt_Pa, indicatedLevel_m } from './hydrostatic.ts'
import { isLevel, isTapped, levelOf, rangeOf } from './range.ts'
import { COLUMNS, GROUPS, type Entries } from './settings.ts'
import { manifoldFindings } from './valve-order.ts'

function columnFindings(s: Entries): Finding[] {
  const [tx, cal] = [s.columnTx, s.columnCal]
  if (tx === 'none' || cal === 'none' || tx === cal) return []
  const error = (unitOf(`mmH2O@${cal}`).factor / unitOf(`mmH2O@${tx}`).factor - 1) * 100
  return [
    {
      code: 'WATER_COLUMN_MIXED',
      severity: 'stop',
      where: ['columnTx', 'columnCal'],
      says: `The transmitter counts water columns ${COLUMNS[tx]}, the calibrator ${COLUMNS[cal]}: a span error of ${sayNumber(error, 4)} %, which no zero shows. Set both to the same convention.`,
      rule: 'there is no bare mmH2O or inH2O: the water’s temperature belongs to the unit',
    },
  ]
}

/** No liquid that a leg is filled with is lighter, kg/m³. */
const LEAST_FILL_KG_M3 = 300
const DUTY_TITLES: Readonly<Record<string, string>> = Object.fromEntries(
  GROUPS[0].settings[0].options.map((o) => [o.value, o.title]),
)
/** Root or line, as the signal path has it. */
const sayTransfer = ({ root }: AtWork): string =>
  root === null ? 'not known' : root.takers.includes('transmitter') ? 'square root' : 'linear'

export function compute(s: Entries, live: AtWork): SetUpResult {
  const r = rangeOf(s)
  if ('says' in r) return nothing('RANGE', r.where, r.says)
  const tank = tankOfEntries(s)
  if (typeof tank === 'string') return nothing('TANK', 'shape', tank)
  const span = Math.abs(r.urv_kPa - r.lrv_kPa)
  const url = s.url_kPa
  const td = turndown(url, span)
  const spec = { a: s.acc_a, b: s.acc_b, c: s.acc_c, td0: s.acc_td0 }
  const accuracy = accuracy_pct(spec, td)
  const findings: Finding[] = [...columnFindings(s), ...manifoldFindings(s), ...firstReadingFindings(s, r)]
  const largest = Math.max(Math.abs(r.lrv_kPa), Math.abs(r.urv_kPa))
  if (largest > url * (1 + 1e-9))
    findings.push({
      code: 'RANGE_OUTSIDE_SENSOR',
      severity: 'stop',
      where: ['url_kPa'],
      says: `The range reaches ${sayNumber(largest, 5)} kPa and the cell ends at ${sayNumber(url, 5)} kPa: take a larger cell.`,
    })
  else if (td > spec.td0)
    findings.push({
      code: 'TURNDOWN',
      severity: 'warn',
      where: ['url_kPa'],
      says: `A turndown of ${sayNumber(td, 3)} leaves ${sayNumber(accuracy, 3)} % of span; below ${sayNumber(spec.td0)} it would be ${sayNumber(spec.a)} %. In kPa the error hardly falls any more: a smaller cell would.`,
      rule: 'b + c·TD beyond the knee, typical; check the data sheet',
    })
  else
    findings.push({
      code: 'RANGE_FITS',
      severity: 'good',
      where: ['url_kPa'],
      says: `The range fits the cell with a turndown of ${sayNumber(td, 3)}: ±${sayNumber(accuracy, 3)} % of span.`,
    })
  const rows: ResultRow[] = [
    { label: '4 mA at', value: r.lrv_kPa, unit: 'kPa', decimals: 5 },
    { label: '20 mA at', value: r.urv_kPa, unit: 'kPa', decimals: 5 },
    { label: 'Span', value: span, unit: 'kPa', decimals: 5 },
    ...r.rows,
    { label: 'Turndown', value: td, decimals: 2 },
    { label: 'Accuracy', value: accuracy, unit: '% of span', decimals: 4, typical: true },
  ]
  const line = s.line_kPa
  if (s.duty !== 'gauge' && s.duty !== 'absolute' && line > 0) {
    const e = staticError_pct(s.static_pct, line, s.staticPer_kPa, url, span)
    rows.push({
      label: 'Zero by line pressure, until zeroed',
      value: e,
      unit: '% of span',
      decimals: 4,
      typical: true,
    })
    findings.push({
      code: 'STATIC',
      severity: Math.abs(e) > accuracy ? 'warn' : 'note',
      where: ['line_kPa'],
      says: `Line pressure shifts the zero by up to ${sayNumber(e, 3)} % of span: zero it at line pressure with the manifold equalised. Its effect on span does not show at zero.`,
    })
  }
  if (s.duty === 'wet' && s.fill < LEAST_FILL_KG_M3)
    findings.push({
      code: 'WET_LEG_EMPTY',
      severity: 'stop',
      where: ['fill'],
      says: `A wet leg filled with ${sayNumber(s.fill)} kg/m³ is no wet leg: enter what it is filled with, or choose the dry leg. An unfilled leg reads the tank as too full by its whole height.`,
    })
  let pages: Pick<SetUpResult, 'charts' | 'tables'> = {}
  if (isLevel(s)) {
    const d = levelOf(s)
    const now = s.densityNow
    if (now !== d.density) {
      const at = s.full_m
      const read = indicatedLevel_m(d.lowerTap_m, at, now, d.density)
      findings.push({
        code: 'DENSITY',
        severity: Math.abs(read - at) > 0.005 * (at - s.zero_m) ? 'warn' : 'note',
        where: ['densityNow'],
        says: `At a density of ${sayNumber(now)} instead of ${sayNumber(d.density)} kg/m³ a full tank reads ${sayNumber(Math.abs(read - at) * 1000, 4)} mm too ${read > at ? 'high' : 'low'}.`,
      })
    }
    if (s.duty === 'wet')
      findings.push({
        code: 'WET_LEG',
        severity: 'note',
        where: ['duty'],
        says: 'A wet leg that is lost or holds gas reads high: look at its fill before believing a full tank.',
      })
    if (s.duty === 'dry')
      findings.push({
        code: 'DRY_LEG',
        severity: 'note',
        where: ['duty'],
        says: 'Condensate in the dry leg reads as a falling level: drain its pot.',
      })
    if (tank) pages = vesselPages(s, tank, s.full_m - s.zero_m)
    else
      pages = {
        tables: [
          {
            title: 'Differential over level',
            columns: ['level, %', 'level, m', 'differential, kPa', 'mA'],
            rows: [0, 25, 50, 75, 100].map((p) => {
              const z = s.zero_m + ((s.full_m - s.zero_m) * p) / 100
              return [
                String(p),
                roundText(z, 3),
                roundText(differentialAt_Pa(d, z) / 1000, 4),
                roundText(currentOf(p / 100), 2),
              ]
            }),
          },
        ],
      }
  }
  if (s.duty === 'absolute')
    findings.push({
      code: 'ABSOLUTE',
      severity: 'note',
      where: ['duty'],
      says: 'An absolute transmitter is never zeroed in open air: it reads the barometer then, and is trimmed to it.',
    })
  return {
    rows,
    findings,
    sheet: [
      { says: 'Pressure kind', value: DUTY_TITLES[s.duty] ?? s.duty, part: 'Kind' },
      ...(s.columnTx === 'none'
        ? []
        : [{ says: 'Water column in the transmitter', value: COLUMNS[s.columnTx], part: 'Kind' }]),
      { says: '4 mA at', value: `${sayNumber(r.lrv_kPa, 8)} kPa`, part: 'Range' },
      {
        says: '20 mA at',
        value: `${sayNumber(r.urv_kPa, 8)} kPa`,
        part: 'Range',
        trap: 'at the transmitter: legs, seals and height are in it',
      },
      {
        says: 'Transfer',
        value: sayTransfer(live),
        part: 'Range',
        trap: 'a root is taken once, in one place',
      },
      { says: 'Damping', value: `${sayNumber(s.damping_s)} s`, part: 'Reading' },
      ...(s.shows === 'none' ? [] : [{ says: 'Display shows', value: s.shows, part: 'Reading' }]),
      { says: 'On a fault', value: s.failTo, part: 'Reading' },
      {
        says: 'Zero trim',
        act: true,
        value: 'after mounting, at zero input, the controller in manual',
        part: 'Last',
        trap: 'never at line pressure with one side vented',
      },
    ],
    drawing: isTapped(s)
      ? legsDrawing({
          lowerTap_m: s.lowerTap_m,
          upperTap_m: s.duty === 'open' ? null : s.upperTap_m,
          transmitter_m: s.transmitter_m,
          zero_m: s.zero_m,
          full_m: s.full_m,
          level_m:
            live.current_mA === null ? null : s.zero_m + (s.full_m - s.zero_m) * fractionOf(live.current_mA),
          lowLeg: s.duty === 'wet' ? 'wet leg' : s.duty === 'dry' ? 'dry leg' : 'capillary',
        })
      : null,
    ...pages,
  }
}
