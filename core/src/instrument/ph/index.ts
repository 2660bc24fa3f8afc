import type { Chart, Table } from '../../chart.ts'
import type { Finding } from '../../finding.ts'
import { numberListProblem, numbersOf } from '../../quantity/number-list.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { choice, number, text, type Setting, type Settings } from '../../quantity/setting.ts'
import { nothing, type Family, type ResultRow, type SetUpResult } from '../family.ts'
import { bufferPH, BUFFERS, recogniseBuffer, type Buffer } from './buffers.ts'
import { calibratePh, type BufferPoint } from './calibrate.ts'
import { electrode_mV, electrode_pH, glassAt25_Mohm, lifeOf, nernst_mV, type Electrode } from './electrode.ts'

const MOST_BUFFERS = 5
const used = (s: Settings, i: number): boolean =>
  i === 1 || (used(s, i - 1) && s.word(`buffer${i - 1}`) !== 'none')
const names = { none: 'none', ...Object.fromEntries(BUFFERS.map((b) => [b, b])) }

/** The points that were entered. */
function pointsOf(s: Settings): (BufferPoint & { readonly index: number })[] {
  return Array.from({ length: MOST_BUFFERS }, (_, i) => i + 1).flatMap((i) =>
    used(s, i) && s.word(`buffer${i}`) !== 'none'
      ? [{ index: i, buffer: s.word(`buffer${i}`) as Buffer, mV: s.num(`mV${i}`), t_C: s.num(`t${i}_C`) }]
      : [],
  )
}

function recognitionFindings(points: readonly (BufferPoint & { readonly index: number })[]): Finding[] {
  return points.flatMap((p): Finding[] => {
    const all = recogniseBuffer(BUFFERS, p.mV, p.t_C)
    if (all.candidates.includes(p.buffer)) return []
    const near = all.candidates[0] ?? all.nearest
    return [
      {
        code: 'BUFFER_WRONG',
        severity: 'stop',
        where: [`buffer${p.index}`],
        says: `${sayNumber(p.mV, 5)} mV is no reading of buffer ${p.buffer} for any acceptable electrode${near ? `; it looks like ${near}` : ''}. Is it the right bottle, and was the electrode rinsed?`,
        rule: 'slope 85 to 105 %, offset ±30 mV, no calibration applied',
      },
    ]
  })
}

function slopeChart(points: readonly BufferPoint[], e: Electrode, t_C: number): Chart {
  const pHs = points.map((p) => bufferPH(p.buffer, p.t_C) ?? 7)
  const [lo, hi] = [Math.min(...pHs, 4) - 1, Math.max(...pHs, 10) + 1]
  return {
    title: 'Electrode',
    says: `Slope ${sayNumber(e.slope_pct, 4)} % and offset ${sayNumber(e.offset_mV, 3)} mV against an ideal electrode.`,
    x: { label: 'pH' },
    y: { label: 'electrode', unit: 'mV' },
    series: [
      {
        name: 'this electrode',
        kind: 'line',
        points: [lo, hi].map((p) => [p, electrode_mV(e, p, t_C)] as const),
      },
      {
        name: 'ideal',
        kind: 'limit',
        points: [lo, hi].map((p) => [p, -nernst_mV(t_C) * (p - 7)] as const),
      },
      { name: 'buffers', kind: 'points', points: points.map((p, i) => [pHs[i] ?? 7, p.mV] as const) },
    ],
  }
}

function lifePart(s: Settings): { findings: Finding[]; charts: Chart[] } {
  const days = numbersOf(s.word('days'))
  const slopes = numbersOf(s.word('slopes'))
  if (days.length === 0 && slopes.length === 0) return { findings: [], charts: [] }
  const where = ['slopes']
  if (days.length !== slopes.length)
    return {
      findings: [
        {
          code: 'LIFE_COUNT',
          severity: 'stop',
          where,
          says: `There are ${days.length} days and ${slopes.length} slopes; one belongs to each.`,
        },
      ],
      charts: [],
    }
  const life = lifeOf(days, slopes)
  if (!life)
    return {
      findings: [
        {
          code: 'LIFE_SHORT',
          severity: 'note',
          where,
          says: 'A life estimate needs three calibrations of the same sensor.',
        },
      ],
      charts: [],
    }
  const end = life.endsOnDay
  return {
    findings: [
      {
        code: 'LIFE',
        severity: end !== null && end - (days.at(-1) ?? 0) < 60 ? 'warn' : 'note',
        where,
        says:
          end === null
            ? 'The slope does not fall: no end is in sight.'
            : `The slope falls by about ${sayNumber(-life.rate_pct_per_day * 30, 3)} % in 30 days and reaches 85 % about day ${sayNumber(end, 4)}.`,
      },
    ],
    charts: [
      {
        title: 'Slope over the sensor’s life',
        says: `${days.length} calibrations.`,
        x: { label: 'day' },
        y: { label: 'slope', unit: '%' },
        series: [
          { name: 'calibrations', kind: 'points', points: days.map((d, i) => [d, slopes[i] ?? 0] as const) },
          {
            name: '85 %',
            kind: 'limit',
            points: [days[0] ?? 0, end ?? days.at(-1) ?? 0].map((d) => [d, 85] as const),
          },
        ],
      },
    ],
  }
}

const SAYS: Readonly<Record<string, string>> = {
  SUSPECT_BUFFER:
    'One buffer is more than 3 mV off the line of the others: suspect the bottle or the rinsing.',
  BUFFERS_TOO_CLOSE: 'Two of the buffers are closer than 1.5 pH: the slope from them is not worth much.',
  TEMPERATURES_APART: 'The buffers were more than 10 °C apart.',
}

function compute(s: Settings): SetUpResult {
  const [low, high] = [s.num('low_pH'), s.num('high_pH')]
  if (low === high) return nothing('RANGE', 'high_pH', 'The range has no span.')
  const old: Electrode = { offset_mV: s.num('offset_mV'), slope_pct: s.num('slope_pct') }
  const t = s.num('sample_C')
  const points = pointsOf(s)
  const outside = points.find((p) => bufferPH(p.buffer, p.t_C) === null)
  if (outside)
    return nothing(
      'BUFFER_TEMPERATURE_OUT_OF_RANGE',
      `t${outside.index}_C`,
      `Buffers are tabulated from 0 to 50 °C; ${sayNumber(outside.t_C)} °C has no value.`,
    )
  const findings: Finding[] = recognitionFindings(points)
  const rows: ResultRow[] = [
    { label: 'Theoretical slope of the sample', value: nernst_mV(t), unit: 'mV/pH', decimals: 5 },
    { label: 'Electrode at 4 mA', value: electrode_mV(old, low, t), unit: 'mV', decimals: 2 },
    { label: 'Electrode at 20 mA', value: electrode_mV(old, high, t), unit: 'mV', decimals: 2 },
  ]
  const calibration = points.length > 0 ? calibratePh(points, old.slope_pct) : null
  if (points.length > 1 && !calibration)
    findings.push({
      code: 'SAME_BUFFER',
      severity: 'stop',
      where: ['buffer2'],
      says: 'The same buffer twice is a repeat, not a second point.',
    })
  const electrode = calibration?.electrode ?? old
  if (calibration) {
    const e = calibration.electrode
    rows.push(
      { label: 'Offset', value: e.offset_mV, unit: 'mV', decimals: 4 },
      { label: 'Slope', value: e.slope_pct, unit: '%', decimals: 4 },
    )
    if (points.length > 2)
      rows.push({
        label: 'Largest distance from the line',
        value: calibration.maxResidual_mV,
        unit: 'mV',
        decimals: 4,
      })
    const state = calibration.state
    findings.push({
      code: `ELECTRODE_${state}`,
      severity: state === 'GOOD' ? 'good' : state === 'NEARING_END' ? 'warn' : 'stop',
      where: ['buffer1'],
      says:
        state === 'GOOD'
          ? `The electrode is good: slope ${sayNumber(e.slope_pct, 4)} %, offset ${sayNumber(e.offset_mV, 3)} mV.`
          : state === 'NEARING_END'
            ? `Accepted, but nearing its end: slope ${sayNumber(e.slope_pct, 4)} %, offset ${sayNumber(e.offset_mV, 3)} mV. Have the next one ready.`
            : `Not accepted: slope ${sayNumber(e.slope_pct, 4)} %, offset ${sayNumber(e.offset_mV, 3)} mV; 85 to 105 % and ±30 mV are. The old calibration stays in force. Clean it, check the buffers, then replace it.`,
      rule: '85 to 105 %, ±30 mV; good within 90 to 102 %, ±15 mV; typical',
    })
    for (const w of calibration.warnings)
      findings.push({ code: w, severity: 'warn', where: ['buffer1'], says: SAYS[w] ?? w })
    const at = s.num('process_pH')
    const mV = electrode_mV(e, at, t)
    const was = electrode_pH(old, mV, t) - at
    rows.push({
      label: `At pH ${sayNumber(at)} the old calibration was off by`,
      value: was,
      unit: 'pH',
      decimals: 5,
    })
    findings.push({
      code: 'AS_FOUND',
      severity: Math.abs(was) < 0.05 ? 'note' : 'warn',
      where: ['process_pH'],
      says:
        Math.abs(was) < 0.05
          ? `As found it was off by ${sayNumber(was, 2)} pH: an adjustment below 0.05 pH adds noise. Leave it alone.`
          : `As found it read ${sayNumber(was, 3)} pH ${was > 0 ? 'too high' : 'too low'} at the process’ pH: that is what the record since the last calibration is worth.`,
    })
  }
  const glass = s.num('glass_Mohm')
  if (glass > 0) {
    const at25 = glassAt25_Mohm(glass, s.num('sample_C'))
    rows.push({ label: 'Glass at 25 °C', value: at25, unit: 'MΩ', decimals: 0, typical: true })
    if (at25 < 10 || at25 > 1000)
      findings.push({
        code: 'GLASS',
        severity: at25 < 10 ? 'stop' : 'warn',
        where: ['glass_Mohm'],
        says:
          at25 < 10
            ? 'The glass is broken or the connector is wet: below 10 MΩ.'
            : 'The glass is dry or coated: above 1000 MΩ.',
      })
  }
  if (s.num('reference_kohm') > 50)
    findings.push({
      code: 'REFERENCE',
      severity: 'warn',
      where: ['reference_kohm'],
      says: `The reference has ${sayNumber(s.num('reference_kohm'))} kΩ: clogged or dry above 50 kΩ.`,
    })
  const mV = s.num('read_mV')
  if (mV !== 0)
    rows.push({
      label: 'Reading of the sample',
      value: electrode_pH(electrode, mV, t),
      unit: 'pH',
      decimals: 5,
    })
  const life = lifePart(s)
  const tables: Table[] =
    points.length > 0
      ? [
          {
            title: 'Buffers',
            columns: ['buffer', 'at °C', 'its pH', 'mV', 'off the line, mV'],
            rows: points.map((p, i) => [
              p.buffer,
              sayNumber(p.t_C),
              roundText(bufferPH(p.buffer, p.t_C) ?? 0, 4),
              sayNumber(p.mV, 6),
              calibration ? roundText(calibration.residuals_mV[i] ?? 0, 3) : '',
            ]),
          },
        ]
      : []
  return {
    rows,
    findings: [...findings, ...life.findings],
    sheet: [
      { says: 'pH at 4 mA', value: sayNumber(low) },
      { says: 'pH at 20 mA', value: sayNumber(high) },
      { says: 'Zero point of the electrode', value: 'pH 7.00' },
      { says: 'Offset', value: `${electrode.offset_mV.toFixed(2)} mV` },
      { says: 'Slope', value: `${electrode.slope_pct.toFixed(2)} %` },
      { says: 'Temperature compensation', value: 'automatic; it corrects the electrode, not the sample' },
      { says: 'Lock the device again', value: 'after the work' },
    ],
    drawing: null,
    charts: [...(calibration ? [slopeChart(points, electrode, t)] : []), ...life.charts],
    tables,
  }
}

const buffers: Setting[] = Array.from({ length: MOST_BUFFERS }, (_, i) => i + 1).flatMap((i) => {
  const when = (s: Settings) => used(s, i)
  const filled = (s: Settings) => used(s, i) && s.word(`buffer${i}`) !== 'none'
  return [
    choice(`buffer${i}`, `Buffer ${i}`, 'none', names, when),
    number(`mV${i}`, `Stable reading ${i}`, 'mV', 0, -1000, 1000, filled),
    number(`t${i}_C`, `Temperature ${i}`, 'degC', 25, -20, 100, filled),
  ]
})

/** Glass electrodes: buffers, electrode state, readings. */
export const ph: Family = {
  id: 'ph',
  title: 'pH',
  fits: (words) => /\bph\b/.test(words),
  groups: [
    {
      title: 'Range and electrode in force',
      settings: [
        number('low_pH', 'pH at 4 mA', '', 4, -2, 16),
        number('high_pH', 'pH at 20 mA', '', 10, -2, 16),
        number('offset_mV', 'Offset in force', 'mV', 0, -200, 200),
        number('slope_pct', 'Slope in force', '%', 100, 10, 150),
        number('sample_C', 'Sample temperature', 'degC', 25, -20, 140),
        number('process_pH', 'Usual pH of the process', '', 7, -2, 16),
        number('read_mV', 'Electrode reads (0: not yet)', 'mV', 0, -1000, 1000),
        number('glass_Mohm', 'Glass resistance, MΩ (0: not known)', '', 0, 0, 100_000),
        number('reference_kohm', 'Reference resistance (0: not known)', 'kohm', 0, 0, 100_000),
      ],
    },
    { title: 'Buffers, in the order they were used', columns: 3, settings: buffers },
    {
      title: 'Earlier calibrations of this sensor',
      settings: [
        text('days', 'Days, as 0 60 120', '', numberListProblem),
        text('slopes', 'Slopes, %', '', numberListProblem),
      ],
    },
  ],
  compute,
  ranges: (s) => [{ low: s.num('low_pH'), high: s.num('high_pH'), unit: 'pH' }],
  kit: [
    'two buffers in date, their table and lot at hand',
    'demineralised water, soft paper to dab, never to rub',
    'cup for each buffer; used buffer is discarded',
    'thermometer, if the sensor has none',
  ],
  cautions: [
    'Acid and alkali burn: goggles and gloves; know where the shower is.',
    'Never pour process liquid into a buffer bottle, or the reverse.',
    'Alkaline buffers take up carbon dioxide: use once, close at once.',
  ],
}
