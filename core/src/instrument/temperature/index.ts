import type { Table } from '../../chart.ts'
import type { Finding } from '../../finding.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { choice, number, type Settings } from '../../quantity/setting.ts'
import { nothing, type Family, type ResultRow, type SetUpResult } from '../family.ts'
import { surfaceTemperature } from './mounting.ts'
import {
  leadError_C,
  RTD_VALIDITY,
  rtdResistance_ohm,
  rtdTemperature_C,
  rtdTolerance_C,
  type RtdClass,
} from './rtd.ts'
import {
  thermocouple_mV,
  thermocoupleRange_C,
  THERMOCOUPLES,
  thermocoupleTolerance_C,
  withColdJunction,
  type Thermocouple,
} from './thermocouple.ts'

const isRtd = (s: Settings) => s.word('sensor').startsWith('pt')
const isCouple = (s: Settings) => !isRtd(s)
const r0 = (s: Settings) => (s.word('sensor') === 'pt1000' ? 1000 : 100)
const couple = (s: Settings) => s.word('sensor') as Thermocouple

const FLUIDS: Readonly<Record<string, { title: string; h: number }>> = {
  water: { title: 'water, flowing', h: 1200 },
  slow: { title: 'water, slow', h: 300 },
  gas: { title: 'gas', h: 30 },
}

function rtdPart(s: Settings): { rows: ResultRow[]; findings: Finding[] } {
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const kind = s.word('rtdClass') as RtdClass
  const [low, high] = [s.num('low_C'), s.num('high_C')]
  const [from, to] = RTD_VALIDITY[kind][s.word('build') === 'film' ? 'film' : 'wire']
  if (Math.min(low, high) < from || Math.max(low, high) > to)
    findings.push({
      code: 'CLASS_OUTSIDE',
      severity: 'warn',
      where: ['rtdClass'],
      says: `Class ${kind} holds from ${from} to ${to} °C for this build; beyond that it promises nothing.`,
      rule: 'IEC 60751',
    })
  const top = Math.max(Math.abs(low), Math.abs(high))
  rows.push({
    label: `Class ${kind} at ${sayNumber(top)} °C`,
    value: rtdTolerance_C(kind, top),
    unit: '°C',
    decimals: 4,
  })
  const wires = Number(s.word('wires')) as 2 | 3 | 4
  const error = leadError_C(high, wires, s.num('lead1_ohm'), s.num('lead2_ohm'), r0(s))
  if (error !== null) {
    rows.push({ label: 'Leads add at the top', value: error, unit: '°C', decimals: 5 })
    findings.push(
      Math.abs(error) > rtdTolerance_C(kind, top)
        ? {
            code: 'LEADS',
            severity: 'warn',
            where: ['wires'],
            says: `The leads read as ${sayNumber(error, 4)} °C, more than the sensor’s own ±${sayNumber(rtdTolerance_C(kind, top), 3)} °C: ${wires === 2 ? 'take three or four wires, or a Pt1000' : 'match the three leads, or take four'}.`,
          }
        : {
            code: 'LEADS_FINE',
            severity: 'good',
            where: ['wires'],
            says: `The leads add ${sayNumber(error, 3)} °C at the most.`,
          },
    )
  }
  const measured = s.num('read_ohm')
  if (measured > 0) {
    const t = rtdTemperature_C(measured, r0(s))
    if (t === null)
      findings.push({
        code: 'RESISTANCE_OUT_OF_RANGE',
        severity: 'stop',
        where: ['read_ohm'],
        says: `${sayNumber(measured, 6)} Ω is no temperature of a Pt${r0(s)}: an open circuit, a short, or the other R0.`,
      })
    else rows.push({ label: 'Resistance read is', value: t, unit: '°C', decimals: 5 })
  }
  return { rows, findings }
}

function couplePart(s: Settings): { rows: ResultRow[]; findings: Finding[] } {
  const type = couple(s)
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const top = Math.max(Math.abs(s.num('low_C')), Math.abs(s.num('high_C')))
  const grade = s.word('grade') === '1' ? 1 : 2
  const tolerance = thermocoupleTolerance_C(type, grade, top)
  if (tolerance === null)
    findings.push({
      code: 'NO_CLASS',
      severity: 'note',
      where: ['grade'],
      says: `Type ${type} has no class ${grade} here: ask for the wire’s certificate.`,
    })
  else
    rows.push({ label: `Class ${grade} at ${sayNumber(top)} °C`, value: tolerance, unit: '°C', decimals: 2 })
  const measured = s.num('read_mV')
  if (measured !== 0) {
    const r = withColdJunction(type, measured, s.num('cold_C'))
    if (!r)
      findings.push({
        code: 'VOLTAGE_OUT_OF_RANGE',
        severity: 'stop',
        where: ['read_mV'],
        says: `${sayNumber(measured, 6)} mV with the cold junction at ${sayNumber(s.num('cold_C'))} °C is no temperature of type ${type}: reversed leads, an open circuit, or another type.`,
      })
    else
      rows.push(
        { label: 'Cold junction adds', value: r.cold_mV, unit: 'mV', decimals: 4 },
        { label: 'Voltage read is', value: r.t_C, unit: '°C', decimals: 3 },
      )
  }
  findings.push({
    code: 'COLD_JUNCTION',
    severity: 'note',
    where: ['cold_C'],
    says: 'An error of the cold junction passes through nearly 1 : 1. Extension cable reversed at both ends reads wrong by twice the difference between head and cabinet, and looks plausible.',
  })
  return { rows, findings }
}

function mountingFindings(s: Settings): { rows: ResultRow[]; findings: Finding[] } {
  if (s.word('mounting') === 'well') {
    const wanted = s.num('sensitive_mm') + 10 * s.num('well_mm')
    const there = s.num('immersion_mm')
    return {
      rows: [],
      findings: [
        there < wanted
          ? {
              code: 'IMMERSION',
              severity: 'warn',
              where: ['immersion_mm'],
              says: `${sayNumber(there)} mm in the flow; ${sayNumber(wanted)} mm are wanted, the sensitive length and ten well diameters. The head’s temperature leaks in.`,
              rule: 'typical',
            }
          : {
              code: 'IMMERSION_FINE',
              severity: 'good',
              where: ['immersion_mm'],
              says: 'The immersion is enough.',
            },
      ],
    }
  }
  if (s.word('mounting') === 'pipe') {
    const fluid = FLUIDS[s.word('inside')] ?? { title: '', h: 1200 }
    const od = s.num('od_mm') / 1000
    const bore = od - (2 * s.num('wall_mm')) / 1000
    if (!(bore > 0))
      return {
        rows: [],
        findings: [
          { code: 'NO_BORE', severity: 'stop', where: ['wall_mm'], says: 'The wall leaves no bore.' },
        ],
      }
    const r = surfaceTemperature({
      fluid_C: s.num('high_C'),
      ambient_C: s.num('ambient_C'),
      bore_m: bore,
      od_m: od,
      wall_W_mK: 16,
      inside_W_m2K: fluid.h,
      insulation_m: s.num('insulation_mm') / 1000,
      insulation_W_mK: 0.04,
      outside_W_m2K: 10,
    })
    return {
      rows: [
        {
          label: 'Surface at the top of the range',
          value: r.surface_C,
          unit: '°C',
          decimals: 4,
          typical: true,
        },
      ],
      findings: [
        s.word('inside') === 'gas'
          ? {
              code: 'CLAMP_ON_GAS',
              severity: 'stop',
              where: ['inside'],
              says: `On a gas line the surface is ${sayNumber(Math.abs(r.error_C), 3)} °C off: do not control by it.`,
            }
          : {
              code: 'CLAMP_ON',
              severity: Math.abs(r.error_C) > 0.5 ? 'warn' : 'note',
              where: ['insulation_mm'],
              says: `The surface reads ${sayNumber(r.error_C, 3)} °C against the fluid. Insulate ten pipe diameters either side, paste under the sensor, the lead once round the pipe.`,
              rule: 'typical coefficients',
            },
      ],
    }
  }
  return { rows: [], findings: [] }
}

const STEPS = 10
function tableOf(s: Settings): Table {
  const [low, high] = [s.num('low_C'), s.num('high_C')]
  return {
    title: isRtd(s) ? `Pt${r0(s)} by IEC 60751` : `Type ${couple(s)} by IEC 60584-1, junction at 0 °C`,
    columns: ['%', '°C', isRtd(s) ? 'Ω' : 'mV', 'mA'],
    rows: Array.from({ length: STEPS + 1 }, (_, i) => {
      const t = low + ((high - low) * i) / STEPS
      const v = isRtd(s) ? rtdResistance_ohm(t, r0(s)) : thermocouple_mV(couple(s), t)
      return [
        String((100 * i) / STEPS),
        sayNumber(t, 6),
        v === null ? 'outside' : roundText(v, isRtd(s) ? 3 : 4),
        roundText(4 + (16 * i) / STEPS, 2),
      ]
    }),
  }
}

function compute(s: Settings): SetUpResult {
  const [low, high] = [s.num('low_C'), s.num('high_C')]
  if (low === high) return nothing('RANGE', 'high_C', 'The range has no span.')
  const [from, to] = isRtd(s) ? [-200, 850] : thermocoupleRange_C(couple(s))
  for (const [name, t] of [
    ['low_C', low],
    ['high_C', high],
  ] as const)
    if (t < from || t > to)
      return nothing(
        'SENSOR_RANGE',
        name,
        `${sayNumber(t)} °C is outside what this sensor is defined for, ${from} to ${to} °C.`,
      )
  const part = isRtd(s) ? rtdPart(s) : couplePart(s)
  const mounting = mountingFindings(s)
  const value = (t: number) => (isRtd(s) ? rtdResistance_ohm(t, r0(s)) : thermocouple_mV(couple(s), t)) ?? 0
  const unit = isRtd(s) ? 'Ω' : 'mV'
  return {
    rows: [
      { label: 'Sensor at 4 mA', value: value(low), unit, decimals: isRtd(s) ? 4 : 4 },
      { label: 'Sensor at 20 mA', value: value(high), unit, decimals: isRtd(s) ? 4 : 4 },
      { label: 'Span', value: high - low, unit: '°C', decimals: 2 },
      ...part.rows,
      ...mounting.rows,
      ...(isCouple(s) && part.rows.length < 2
        ? [{ label: 'Junction at 25 °C adds', value: value(25), unit: 'mV', decimals: 4 }]
        : []),
    ],
    findings: [...part.findings, ...mounting.findings],
    sheet: [
      { says: 'Sensor', value: isRtd(s) ? `Pt${r0(s)}, ${s.word('wires')} wires` : `type ${couple(s)}` },
      { says: '4 mA at', value: `${sayNumber(low)} °C` },
      { says: '20 mA at', value: `${sayNumber(high)} °C` },
      ...(isCouple(s) ? [{ says: 'Cold junction', value: 'internal, on' }] : []),
      { says: 'On a broken sensor', value: s.word('burnout') === 'high' ? 'upscale' : 'downscale' },
      { says: 'Damping', value: `${sayNumber(s.num('damping_s'))} s` },
    ],
    drawing: null,
    tables: [tableOf(s)],
  }
}

/** Resistance thermometers and thermocouples. */
export const temperature: Family = {
  id: 'temperature',
  title: 'Temperature',
  fits: (words) => /temperature|pt100|pt1000|thermocouple/.test(words),
  groups: [
    {
      title: 'Sensor and range',
      settings: [
        choice('sensor', 'Sensor', 'pt100', {
          pt100: 'Pt100',
          pt1000: 'Pt1000',
          ...Object.fromEntries(THERMOCOUPLES.map((t) => [t, `thermocouple ${t}`])),
        }),
        number('low_C', 'Temperature at 4 mA', 'degC', 0, -273.15, 2000),
        number('high_C', 'Temperature at 20 mA', 'degC', 100, -273.15, 2000),
        choice('rtdClass', 'Class', 'B', { AA: 'AA', A: 'A', B: 'B', C: 'C' }, isRtd),
        choice('build', 'Build', 'film', { film: 'film', wire: 'wire-wound' }, isRtd),
        choice('wires', 'Wires', '3', { '2': '2', '3': '3', '4': '4' }, isRtd),
        number('lead1_ohm', 'Lead 1', 'ohm', 0.4, 0, 1000, isRtd),
        number('lead2_ohm', 'Lead 2', 'ohm', 0.4, 0, 1000, isRtd),
        number('read_ohm', 'Resistance read (0: not yet)', 'ohm', 0, 0, 10_000, isRtd),
        choice('grade', 'Class', '2', { '1': '1', '2': '2' }, isCouple),
        number('cold_C', 'Cold junction', 'degC', 25, -50, 100, isCouple),
        number('read_mV', 'Voltage read (0: not yet)', 'mV', 0, -20, 100, isCouple),
        choice('burnout', 'On a broken sensor', 'high', { high: 'upscale', low: 'downscale' }),
        number('damping_s', 'Damping', 's', 1, 0, 100),
      ],
    },
    {
      title: 'Mounting',
      settings: [
        choice('mounting', 'Mounted', 'none', {
          none: 'not entered',
          well: 'in a well',
          pipe: 'clamped on a pipe',
        }),
        number(
          'immersion_mm',
          'Immersion in the flow',
          'mm',
          100,
          0,
          5000,
          (s) => s.word('mounting') === 'well',
        ),
        number('well_mm', 'Well diameter', 'mm', 12, 1, 100, (s) => s.word('mounting') === 'well'),
        number('sensitive_mm', 'Sensitive length', 'mm', 15, 1, 200, (s) => s.word('mounting') === 'well'),
        number('od_mm', 'Pipe outside diameter', 'mm', 114.3, 5, 3000, (s) => s.word('mounting') === 'pipe'),
        number('wall_mm', 'Wall', 'mm', 6, 0.3, 200, (s) => s.word('mounting') === 'pipe'),
        choice(
          'inside',
          'Inside',
          'water',
          Object.fromEntries(Object.entries(FLUIDS).map(([k, f]) => [k, f.title])),
          (s) => s.word('mounting') === 'pipe',
        ),
        number('insulation_mm', 'Insulation', 'mm', 25, 0, 500, (s) => s.word('mounting') === 'pipe'),
        number('ambient_C', 'Ambient', 'degC', 15, -50, 60, (s) => s.word('mounting') === 'pipe'),
      ],
    },
  ],
  compute,
  ranges: (s) => [{ low: s.num('low_C'), high: s.num('high_C'), unit: 'degC' }],
  kit: ['decade box or millivolt source', 'reference thermometer and bath or block', 'heat-conducting paste'],
  cautions: [
    'A well under pressure is never unscrewed: it is the wall of the process.',
    'Hot surfaces burn: above 60 °C gloves.',
    'Put the loop in manual before the sensor is disconnected: a broken sensor drives the output to its end.',
  ],
}
