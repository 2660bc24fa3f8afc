import type { Finding } from '../../finding.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { choice, number, text, type Settings } from '../../quantity/setting.ts'
import { unitOf } from '../../quantity/units.ts'
import { nothing, type Family, type Live, type ResultRow, type SetUpResult } from '../family.ts'
import { tankOfSettings, VESSEL_GROUP, vesselOf, vesselPages } from '../vessel.ts'
import { accuracy_pct, staticError_pct, turndown, TYPICAL_ACCURACY } from './accuracy.ts'
import { legsDrawing } from './drawing.ts'
import {
  differentialAt_Pa,
  dpRange,
  GRAVITY_M_S2,
  indicatedLevel_m,
  interfaceAt_Pa,
  type DpLevel,
} from './hydrostatic.ts'
import {
  judgeSequence,
  manifold,
  RULE_SAYS,
  valvesOf,
  type ManifoldKind,
  type ValveMove,
} from './manifold.ts'

const duty =
  (...kinds: string[]) =>
  (s: Settings) =>
    kinds.includes(s.word('duty'))
const isLevel = duty('open', 'dry', 'wet', 'seals')
const isTapped = duty('open', 'dry', 'wet', 'seals', 'interface')
const VACUUM_KPA = -101.325

/** Taps, legs and fills of a level by differential pressure, from the entries. */
function levelOf(s: Settings): DpLevel {
  const density = s.num('density')
  const kind = s.word('duty')
  const vapour = kind === 'open' ? 0 : s.num('vapour')
  return {
    lowerTap_m: s.num('lowerTap_m'),
    upperTap_m: kind === 'open' ? s.num('full_m') : s.num('upperTap_m'),
    transmitter_m: s.num('transmitter_m'),
    density,
    vapourDensity: vapour,
    highFill: kind === 'seals' ? s.num('fill') : s.num('lineFill'),
    lowFill: kind === 'open' ? 0 : kind === 'dry' ? vapour : s.num('fill'),
    gravity: s.num('gravity'),
  }
}

interface RangeOfDuty {
  readonly lrv_kPa: number
  readonly urv_kPa: number
  readonly rows: readonly ResultRow[]
}

/** The range in kPa, typed for a pressure and computed for a level; or what is wrong. */
function rangeOf(s: Settings): RangeOfDuty | { readonly where: string; readonly says: string } {
  if (isLevel(s) || s.word('duty') === 'interface') {
    const [zero, full] = [s.num('zero_m'), s.num('full_m')]
    if (full <= zero)
      return {
        where: 'full_m',
        says: `100 % at ${sayNumber(full)} m is not above 0 % at ${sayNumber(zero)} m.`,
      }
  }
  if (s.word('duty') === 'interface') {
    const d = {
      lower: s.num('density'),
      upper: s.num('upperDensity'),
      fill: s.num('fill'),
      lowerTap_m: s.num('lowerTap_m'),
      upperTap_m: s.num('upperTap_m'),
      gravity: s.num('gravity'),
    }
    if (d.upper >= d.lower)
      return { where: 'upperDensity', says: 'The upper liquid must be lighter than the lower one.' }
    const [lrv, urv] = [interfaceAt_Pa(d, s.num('zero_m')), interfaceAt_Pa(d, s.num('full_m'))]
    return { lrv_kPa: lrv / 1000, urv_kPa: urv / 1000, rows: [] }
  }
  if (isLevel(s)) {
    const d = levelOf(s)
    if (s.word('duty') !== 'open' && d.upperTap_m <= d.lowerTap_m)
      return { where: 'upperTap_m', says: 'The upper tap is not above the lower one.' }
    const r = dpRange(d, s.num('zero_m'), s.num('full_m'))
    const words = { SUPPRESSED: 'suppressed (above 0)', ELEVATED: 'elevated (below 0)', NONE: 'none' }
    return {
      lrv_kPa: r.lrv_Pa / 1000,
      urv_kPa: r.urv_Pa / 1000,
      rows: [{ label: 'Zero shift', value: words[r.shift] }],
    }
  }
  // A liquid column between tap and transmitter is read as well.
  const head =
    s.word('duty') === 'gauge' || s.word('duty') === 'absolute'
      ? (s.num('lineDensity') * GRAVITY_M_S2 * s.num('below_m')) / 1000
      : 0
  const [lo, hi] = [s.num('lrv_kPa'), s.num('urv_kPa')]
  if (lo === hi)
    return { where: 'urv_kPa', says: 'The range has no span: 4 and 20 mA are at the same pressure.' }
  if (s.word('duty') === 'absolute' && Math.min(lo, hi) < 0)
    return { where: 'lrv_kPa', says: 'An absolute pressure below 0 kPa does not exist. Is the range gauge?' }
  if (s.word('duty') === 'gauge' && Math.min(lo, hi) < VACUUM_KPA)
    return { where: 'lrv_kPa', says: `No gauge pressure is below ${VACUUM_KPA} kPa: that is a full vacuum.` }
  return {
    lrv_kPa: lo + head,
    urv_kPa: hi + head,
    rows: head === 0 ? [] : [{ label: 'Head of the line', value: head, unit: 'kPa', decimals: 4 }],
  }
}

const COLUMNS = { conv: 'conventional', '4C': 'at 4 °C', '60F': 'at 60 °F', '20C': 'at 20 °C' }

function columnFindings(s: Settings): Finding[] {
  const [tx, cal] = [s.word('columnTx'), s.word('columnCal')]
  if (tx === 'none' || cal === 'none' || tx === cal) return []
  const error = (unitOf(`mmH2O@${cal}`).factor / unitOf(`mmH2O@${tx}`).factor - 1) * 100
  const named = (k: string) => COLUMNS[k as keyof typeof COLUMNS]
  return [
    {
      code: 'WATER_COLUMN_MIXED',
      severity: 'stop',
      where: ['columnTx', 'columnCal'],
      says: `The transmitter counts water columns ${named(tx)}, the calibrator ${named(cal)}: a span error of ${sayNumber(error, 4)} %, which no zero shows. Set both to the same convention.`,
      rule: 'there is no bare mmH2O or inH2O: the water’s temperature belongs to the unit',
    },
  ]
}

/** A sequence as typed: "close L; open E". */
export function movesOf(kind: ManifoldKind, sequence: string): ValveMove[] | string {
  const out: ValveMove[] = []
  for (const item of sequence.split(/[;,\n]+/).map((x) => x.trim())) {
    if (item === '') continue
    const m = /^(open|close|shut)\s+([A-Z]{1,2})$/i.exec(item)
    const valve = m?.[2]?.toUpperCase() ?? ''
    if (!m || !valvesOf(kind).includes(valve))
      return `“${item}” is not a move. Type open or close and one of ${valvesOf(kind).join(', ')}, with semicolons between.`
    out.push({ valve, to: m[1]?.toLowerCase() === 'open' ? 'open' : 'close' })
  }
  return out
}
const manifoldKind = (s: Settings): ManifoldKind | null => {
  const m = s.word('manifold')
  return m === 'three-valve' || m === 'five-valve' ? m : null
}
function manifoldFindings(s: Settings): Finding[] {
  const kind = manifoldKind(s)
  if (!kind || s.word('sequence').trim() === '') return []
  const moves = movesOf(kind, s.word('sequence'))
  const where = ['sequence']
  if (typeof moves === 'string') return [{ code: 'MANIFOLD_MOVE', severity: 'stop', where, says: moves }]
  const v = judgeSequence(manifold(kind, 'in service'), moves)
  const bad = v.at === null ? undefined : moves[v.at]
  return [
    v.rule && bad
      ? {
          code: v.rule,
          severity: 'stop',
          where,
          says: `Move ${(v.at ?? 0) + 1}, ${bad.to} ${bad.valve}: ${RULE_SAYS[v.rule]}`,
        }
      : {
          code: 'MANIFOLD_FINE',
          severity: 'good',
          where,
          says: 'This order keeps all three rules: no flow through, no process to the vent, no one-sided pressure.',
        },
  ]
}

function compute(s: Settings, live: Live): SetUpResult {
  const r = rangeOf(s)
  if ('says' in r) return nothing('RANGE', r.where, r.says)
  const tank = tankOfSettings(s)
  if (typeof tank === 'string') return nothing('TANK', 'shape', tank)
  const span = Math.abs(r.urv_kPa - r.lrv_kPa)
  const url = s.num('url_kPa')
  const td = turndown(url, span)
  const spec = { a: s.num('acc_a'), b: s.num('acc_b'), c: s.num('acc_c'), td0: s.num('acc_td0') }
  const accuracy = accuracy_pct(spec, td)
  const findings: Finding[] = [...columnFindings(s), ...manifoldFindings(s)]
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
  const line = s.num('line_kPa')
  if (s.word('duty') !== 'gauge' && s.word('duty') !== 'absolute' && line > 0) {
    const e = staticError_pct(s.num('static_pct'), line, s.num('staticPer_kPa'), url, span)
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
  let pages: Pick<SetUpResult, 'charts' | 'tables'> = {}
  if (isLevel(s)) {
    const d = levelOf(s)
    const now = s.num('densityNow')
    if (now !== d.density) {
      const at = s.num('full_m')
      const read = indicatedLevel_m(d.lowerTap_m, at, now, d.density)
      findings.push({
        code: 'DENSITY',
        severity: Math.abs(read - at) > 0.005 * (at - s.num('zero_m')) ? 'warn' : 'note',
        where: ['densityNow'],
        says: `At a density of ${sayNumber(now)} instead of ${sayNumber(d.density)} kg/m³ a full tank reads ${sayNumber(Math.abs(read - at) * 1000, 4)} mm too ${read > at ? 'high' : 'low'}.`,
      })
    }
    if (s.word('duty') === 'wet')
      findings.push({
        code: 'WET_LEG',
        severity: 'note',
        where: ['duty'],
        says: 'A wet leg that is lost or holds gas reads high: look at its fill before believing a full tank.',
      })
    if (s.word('duty') === 'dry')
      findings.push({
        code: 'DRY_LEG',
        severity: 'note',
        where: ['duty'],
        says: 'Condensate in the dry leg reads as a falling level: drain its pot.',
      })
    if (tank) pages = vesselPages(s, tank, s.num('full_m') - s.num('zero_m'))
    else
      pages = {
        tables: [
          {
            title: 'Differential over level',
            columns: ['level, %', 'level, m', 'kPa', 'mA'],
            rows: [0, 25, 50, 75, 100].map((p) => {
              const z = s.num('zero_m') + ((s.num('full_m') - s.num('zero_m')) * p) / 100
              return [
                String(p),
                roundText(z, 3),
                roundText(differentialAt_Pa(d, z) / 1000, 4),
                roundText(4 + (16 * p) / 100, 2),
              ]
            }),
          },
        ],
      }
  }
  if (s.word('duty') === 'absolute')
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
      { says: 'Pressure kind', value: s.word('duty') },
      { says: '4 mA at', value: `${sayNumber(r.lrv_kPa, 8)} kPa` },
      { says: '20 mA at', value: `${sayNumber(r.urv_kPa, 8)} kPa` },
      { says: 'Damping', value: `${sayNumber(s.num('damping_s'))} s` },
      { says: 'Zero trim', value: 'after mounting, at zero input, the controller in manual' },
    ],
    drawing: isTapped(s)
      ? legsDrawing({
          lowerTap_m: s.num('lowerTap_m'),
          upperTap_m: s.word('duty') === 'open' ? null : s.num('upperTap_m'),
          transmitter_m: s.num('transmitter_m'),
          zero_m: s.num('zero_m'),
          full_m: s.num('full_m'),
          level_m:
            live.current_mA === null
              ? null
              : s.num('zero_m') + ((s.num('full_m') - s.num('zero_m')) * (live.current_mA - 4)) / 16,
          lowLeg: s.word('duty') === 'wet' ? 'wet leg' : s.word('duty') === 'dry' ? 'dry leg' : 'capillary',
        })
      : null,
    ...pages,
  }
}

/** Gauge, absolute and differential pressure, and levels by it. */
export const pressure: Family = {
  id: 'pressure',
  title: 'Pressure and differential pressure',
  fits: (words) => /pressure|hydrostatic/.test(words) && !/flow/.test(words),
  groups: [
    {
      title: 'Duty and range',
      settings: [
        choice('duty', 'Measures', 'gauge', {
          gauge: 'gauge pressure',
          absolute: 'absolute pressure',
          differential: 'differential pressure',
          open: 'level of an open tank',
          dry: 'level, closed tank, dry leg',
          wet: 'level, closed tank, wet leg',
          seals: 'level, two remote seals',
          interface: 'interface of two liquids',
        }),
        number('lrv_kPa', 'Pressure at 4 mA, at the tap', 'kPa', 0, -1e5, 1e6, (s) => !isTapped(s)),
        number('urv_kPa', 'Pressure at 20 mA, at the tap', 'kPa', 100, -1e5, 1e6, (s) => !isTapped(s)),
        number('below_m', 'Transmitter below the tap', 'm', 0, -100, 100, duty('gauge', 'absolute')),
        number(
          'lineDensity',
          'Liquid in the line (0: gas)',
          'kg/m3',
          1000,
          0,
          20_000,
          duty('gauge', 'absolute'),
        ),
        number('zero_m', 'Level at 0 %, elevation', 'm', 0.2, -100, 200, isTapped),
        number('full_m', 'Level at 100 %, elevation', 'm', 2.8, -100, 200, isTapped),
        number('lowerTap_m', 'Lower tap, elevation', 'm', 0.2, -100, 200, isTapped),
        number(
          'upperTap_m',
          'Upper tap, elevation',
          'm',
          3,
          -100,
          200,
          (s) => isTapped(s) && s.word('duty') !== 'open',
        ),
        number('transmitter_m', 'Transmitter, elevation', 'm', -0.5, -100, 200, isTapped),
        number('density', 'Density, lower liquid', 'kg/m3', 1000, 1, 20_000, isTapped),
        number('densityNow', 'Density there now', 'kg/m3', 1000, 1, 20_000, isLevel),
        number('upperDensity', 'Density, upper liquid', 'kg/m3', 860, 1, 20_000, duty('interface')),
        number('vapour', 'Density of the vapour', 'kg/m3', 0, 0, 500, duty('dry', 'wet', 'seals')),
        number(
          'lineFill',
          'Fill of the high-side line',
          'kg/m3',
          1000,
          0,
          20_000,
          duty('open', 'dry', 'wet'),
        ),
        number(
          'fill',
          'Fill of the low leg or the capillaries',
          'kg/m3',
          960,
          0,
          20_000,
          duty('wet', 'seals', 'interface'),
        ),
        number('gravity', 'Local gravity', 'm/s2', GRAVITY_M_S2, 9.7, 9.9, isTapped),
        number('damping_s', 'Damping', 's', 1, 0, 100),
      ],
    },
    {
      title: 'Cell and accuracy',
      settings: [
        number('url_kPa', 'Upper limit of the cell', 'kPa', 200, 0.001, 1e6),
        number('acc_a', 'Accuracy up to the knee, % of span', '', TYPICAL_ACCURACY.a, 0, 10),
        number('acc_td0', 'Knee, turndown', '', TYPICAL_ACCURACY.td0, 1, 500),
        number('acc_b', 'Beyond it: b, % of span', '', TYPICAL_ACCURACY.b, 0, 10),
        number('acc_c', 'and c per turndown', '', TYPICAL_ACCURACY.c, 0, 10),
        number('line_kPa', 'Line pressure', 'kPa', 0, 0, 1e6, (s) => !duty('gauge', 'absolute', 'open')(s)),
        number(
          'static_pct',
          'Zero by static pressure, % of the limit',
          '',
          0.05,
          0,
          10,
          (s) => !duty('gauge', 'absolute', 'open')(s),
        ),
        number('staticPer_kPa', 'per', 'kPa', 7000, 1, 1e6, (s) => !duty('gauge', 'absolute', 'open')(s)),
        choice('columnTx', 'Water column in the transmitter', 'none', { none: 'not used', ...COLUMNS }),
        choice('columnCal', 'Water column on the calibrator', 'none', { none: 'not used', ...COLUMNS }),
      ],
    },
    {
      title: 'Manifold',
      settings: [
        choice('manifold', 'Manifold', 'none', {
          none: 'none',
          'three-valve': 'three valves and two vents',
          'five-valve': 'five valves',
        }),
        text(
          'sequence',
          'Order to be checked, from service: close L; open E',
          '',
          undefined,
          (s) => s.word('manifold') !== 'none',
        ),
      ],
    },
    {
      ...VESSEL_GROUP,
      settings: VESSEL_GROUP.settings.map((x) => ({
        ...x,
        when: (s: Settings) => isLevel(s) && (x.when?.(s) ?? true),
      })),
    },
  ],
  compute,
  ranges: (s) => {
    const r = rangeOf(s)
    if ('says' in r) return []
    const unit = s.word('duty') === 'gauge' ? 'kPa(g)' : s.word('duty') === 'absolute' ? 'kPa(a)' : 'kPa'
    const asked = isTapped(s)
      ? [{ low: s.num('zero_m'), high: s.num('full_m'), unit: 'm' }]
      : [{ low: s.num('lrv_kPa'), high: s.num('urv_kPa'), unit }]
    return [{ low: r.lrv_kPa, high: r.urv_kPa, unit }, ...asked]
  },
  vessel: (s) => (isLevel(s) ? vesselOf(s, s.num('full_m') - s.num('zero_m')) : null),
  manifold: manifoldKind,
  kit: [
    'hand pump with a reference gauge',
    'manifold key',
    'loop meter',
    'hose and fittings',
    'rag and drain bottle',
  ],
  cautions: [
    'Isolate, depressurise, prove, lock and tag; a closed valve is not proof of zero.',
    'Vents point away from people; steam and hot brine flash.',
    'Liquid-filled or hot legs: never open vents without the site’s own procedure.',
    'Put the loop in manual and bypass its trips by authorisation; both are recorded and taken back.',
  ],
}
