import type { Chart, Table } from '../../chart.ts'
import type { Finding } from '../../finding.ts'
import { numbersOf } from '../../quantity/number-list.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { nothing, type ResultRow, type SetUpResult } from '../family.ts'
import { bufferPH, BUFFERS, recogniseBuffer } from './buffers.ts'
import { calibratePh, type BufferPoint } from './calibrate.ts'
import { electrode_mV, electrode_pH, glassAt25_Mohm, lifeOf, nernst_mV, type Electrode } from './electrode.ts'
import type { Entries } from './settings.ts'

/** The points that were entered: one after the other, a gap ends them. */
function pointsOf(s: Entries): (BufferPoint & { readonly index: number })[] {
  const entered = [
    { index: 1, buffer: s.buffer1, mV: s.mV1, t_C: s.t1_C },
    { index: 2, buffer: s.buffer2, mV: s.mV2, t_C: s.t2_C },
    { index: 3, buffer: s.buffer3, mV: s.mV3, t_C: s.t3_C },
    { index: 4, buffer: s.buffer4, mV: s.mV4, t_C: s.t4_C },
    { index: 5, buffer: s.buffer5, mV: s.mV5, t_C: s.t5_C },
  ]
  const out: (BufferPoint & { readonly index: number })[] = []
  for (const { index, buffer, mV, t_C } of entered) {
    if (buffer === 'none') break
    out.push({ index, buffer, mV, t_C })
  }
  return out
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
        says: `${sayNumber(p.mV, 5)} mV is not a reading of buffer ${p.buffer} for any acceptable electrode${near ? `; it looks like ${near}` : ''}. Is it the right bottle, and was the electrode rinsed?`,
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

function lifePart(s: Entries): { findings: Finding[]; charts: Chart[] } {
  const days = numbersOf(s.days)
  const slopes = numbersOf(s.slopes)
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

export function compute(s: Entries): SetUpResult {
  const [low, high] = [s.low_pH, s.high_pH]
  if (low === high) return nothing('RANGE', 'high_pH', 'The range has no span.')
  const old: Electrode = { offset_mV: s.offset_mV, slope_pct: s.slope_pct }
  const t = s.sample_C
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
    const at = s.process_pH
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
          : `As found it read ${sayNumber(Math.abs(was), 3)} pH ${was > 0 ? 'too high' : 'too low'} at the process’ pH: that is what the record since the last calibration is worth.`,
    })
  }
  const glass = s.glass_Mohm
  if (glass > 0) {
    const at25 = glassAt25_Mohm(glass, s.sample_C)
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
  if (s.reference_kohm > 50)
    findings.push({
      code: 'REFERENCE',
      severity: 'warn',
      where: ['reference_kohm'],
      says: `The reference has ${sayNumber(s.reference_kohm)} kΩ: clogged or dry above 50 kΩ.`,
    })
  const mV = s.read_mV
  const read = electrode_pH(electrode, mV, t)
  // An electrode without a slope reads nothing.
  if (mV !== 0 && Number.isFinite(read))
    rows.push({
      label: 'Reading of the sample',
      value: read,
      unit: 'pH',
      decimals: 5,
    })
  const life = lifePart(s)
  const tables: Table[] =
    points.length > 0
      ? [
          {
            title: 'Buffers',
            columns: ['buffer', 'temperature, °C', 'its pH', 'mV', 'off the line, mV'],
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
      ...(s.serial.trim() === '' ? [] : [{ says: 'Serial of the sensor', value: s.serial.trim() }]),
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
