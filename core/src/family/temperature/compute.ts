import { currentOf } from '../../signal/current-range.ts'
import type { Table } from '../../chart.ts'
import type { Finding } from '../../finding.ts'
import { roundText, sayNumber } from '../../quantity/round.ts'
import { nothing, type ResultRow, type SetUpResult } from '../family.ts'
import { firstReadingFindings } from './first-reading.ts'
import { surfaceTemperature } from './mounting.ts'
import { leadError_C, RTD_VALIDITY, rtdResistance_ohm, rtdTemperature_C, rtdTolerance_C } from './rtd.ts'
import {
  thermocouple_mV,
  thermocoupleRange_C,
  classRange_C,
  thermocoupleTolerance_C,
  withColdJunction,
  type Thermocouple,
} from './thermocouple.ts'
import { FLUIDS, type Entries } from './settings.ts'

const isRtd = (s: Entries) => s.sensor === 'pt100' || s.sensor === 'pt1000'
const isCouple = (s: Entries) => !isRtd(s)
const r0 = (s: Entries) => (s.sensor === 'pt1000' ? 1000 : 100)
/** The thermocouple; type K where a resistance thermometer is entered and nothing asks. */
const couple = (s: Entries): Thermocouple => (s.sensor === 'pt100' || s.sensor === 'pt1000' ? 'K' : s.sensor)

const WIRES = { '2': 2, '3': 3, '4': 4 } as const

function rtdPart(s: Entries): { rows: ResultRow[]; findings: Finding[] } {
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const kind = s.rtdClass
  const [low, high] = [s.low_C, s.high_C]
  const [from, to] = RTD_VALIDITY[kind][s.build === 'film' ? 'film' : 'wire']
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
    label: `Class ${kind} at the end of the range`,
    value: rtdTolerance_C(kind, top),
    unit: 'ddegC',
    decimals: 4,
  })
  const wires = WIRES[s.wires]
  const error = leadError_C(high, wires, s.lead1_ohm, s.lead2_ohm, r0(s))
  if (error !== null) {
    rows.push({ label: 'Leads add at the top', value: error, unit: 'ddegC', decimals: 5 })
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
  const measured = s.read_ohm
  if (measured > 0) {
    const t = rtdTemperature_C(measured, r0(s))
    if (t === null)
      findings.push({
        code: 'RESISTANCE_OUT_OF_RANGE',
        severity: 'stop',
        where: ['read_ohm'],
        says: `${sayNumber(measured, 6)} Ω is not a temperature of a Pt${r0(s)}: an open circuit, a short, or the other R0.`,
      })
    else rows.push({ label: 'Resistance read is', value: t, unit: '°C', decimals: 5 })
  }
  return { rows, findings }
}

function couplePart(s: Entries): { rows: ResultRow[]; findings: Finding[] } {
  const type = couple(s)
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const top = Math.max(Math.abs(s.low_C), Math.abs(s.high_C))
  const grade = s.grade === '1' ? 1 : 2
  const tolerance = thermocoupleTolerance_C(type, grade, top)
  const classRange = classRange_C(type, grade)
  if (tolerance === null)
    findings.push({
      code: 'NO_CLASS',
      severity: 'note',
      where: ['grade'],
      says: classRange
        ? `Class ${grade} of type ${type} holds from ${classRange[0]} to ${classRange[1]} °C: at ${sayNumber(top)} °C it promises nothing. Ask for the wire’s certificate.`
        : `Type ${type} has no class ${grade}: ask for the wire’s certificate.`,
    })
  else
    rows.push({
      label: `Class ${grade} at the end of the range`,
      value: tolerance,
      unit: 'ddegC',
      decimals: 2,
    })
  const measured = s.read_mV
  if (measured !== 0) {
    const r = withColdJunction(type, measured, s.cold_C)
    if (!r)
      findings.push({
        code: 'VOLTAGE_OUT_OF_RANGE',
        severity: 'stop',
        where: ['read_mV'],
        says: `${sayNumber(measured, 6)} mV with the cold junction at ${sayNumber(s.cold_C)} °C is not a temperature of type ${type}: reversed leads, an open circuit, or another type.`,
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

function mountingFindings(s: Entries): { rows: ResultRow[]; findings: Finding[] } {
  if (s.mounting === 'well') {
    const wanted = s.sensitive_mm + 10 * s.well_mm
    const there = s.immersion_mm
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
  if (s.mounting === 'pipe') {
    const fluid = FLUIDS[s.inside]
    const od = s.od_mm / 1000
    const bore = od - (2 * s.wall_mm) / 1000
    if (!(bore > 0))
      return {
        rows: [],
        findings: [
          { code: 'NO_BORE', severity: 'stop', where: ['wall_mm'], says: 'The wall leaves no bore.' },
        ],
      }
    const r = surfaceTemperature({
      fluid_C: s.high_C,
      ambient_C: s.ambient_C,
      bore_m: bore,
      od_m: od,
      wall_W_mK: 16,
      inside_W_m2K: fluid.h,
      insulation_m: s.insulation_mm / 1000,
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
        s.inside === 'gas'
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
function tableOf(s: Entries): Table {
  const [low, high] = [s.low_C, s.high_C]
  // With copper to a junction at this temperature a source has to give that much less.
  const junction = isRtd(s) ? null : thermocouple_mV(couple(s), s.cold_C)
  return {
    title: isRtd(s)
      ? `What to set: Pt${r0(s)} by IEC 60751`
      : `What to set: type ${couple(s)} by IEC 60584-1`,
    columns: isRtd(s)
      ? ['%', 'temperature, °C', 'set, Ω', 'mA']
      : ['%', 'temperature, °C', 'mV', `set, mV at ${sayNumber(s.cold_C)} °C`, 'mA'],
    rows: Array.from({ length: STEPS + 1 }, (_, i) => {
      const t = low + ((high - low) * i) / STEPS
      const v = isRtd(s) ? rtdResistance_ohm(t, r0(s)) : thermocouple_mV(couple(s), t)
      return [
        String((100 * i) / STEPS),
        sayNumber(t, 6),
        v === null ? 'outside' : roundText(v, isRtd(s) ? 3 : 4),
        ...(isRtd(s) ? [] : [v === null || junction === null ? 'outside' : roundText(v - junction, 4)]),
        roundText(currentOf(i / STEPS), 2),
      ]
    }),
  }
}

export function compute(s: Entries): SetUpResult {
  const [low, high] = [s.low_C, s.high_C]
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
      { label: 'Span', value: high - low, unit: 'ddegC', decimals: 2 },
      ...part.rows,
      ...mounting.rows,
      ...(isCouple(s) && part.rows.length < 2
        ? [{ label: 'Junction at 25 °C adds', value: value(25), unit: 'mV', decimals: 4 }]
        : []),
    ],
    findings: [...part.findings, ...mounting.findings, ...firstReadingFindings(s)],
    sheet: [
      {
        says: 'Sensor',
        value: isRtd(s) ? `Pt${r0(s)}, ${s.wires} wires` : `type ${couple(s)}`,
        part: 'Sensor',
        trap: isRtd(s)
          ? 'two wires on a three-wire input read the leads too'
          : 'another type reads plausibly wrong',
      },
      {
        says: 'Standard',
        value: isRtd(s) ? 'IEC 60751, alpha 0.003851' : 'IEC 60584',
        part: 'Sensor',
        trap: 'a curve of another standard is off by more than its class',
      },
      ...(isCouple(s)
        ? [{ says: 'Cold junction', value: 'internal, on', part: 'Sensor' }]
        : [
            {
              says: 'Lead compensation',
              value:
                s.wires === '2'
                  ? `fixed, ${sayNumber(s.lead1_ohm + s.lead2_ohm)} ohm`
                  : `by ${s.wires} wires`,
              part: 'Sensor',
            },
          ]),
      { says: '4 mA at', value: `${sayNumber(low)} °C`, part: 'Range' },
      { says: '20 mA at', value: `${sayNumber(high)} °C`, part: 'Range' },
      { says: 'On a broken sensor', value: s.burnout === 'high' ? 'upscale' : 'downscale', part: 'Reading' },
      { says: 'Damping', value: `${sayNumber(s.damping_s)} s`, part: 'Reading' },
    ],
    drawing: null,
    tables: [tableOf(s)],
  }
}
