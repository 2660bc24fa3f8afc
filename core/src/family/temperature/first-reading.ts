import type { Finding } from '../../finding.ts'
import { judgeFirstReading, rangeSlips, type ReadingSlip } from '../first-reading.ts'
import { leadError_C, rtdResistance_ohm, rtdTemperature_C } from './rtd.ts'
import { UNTOUCHED_C, type Entries } from './settings.ts'
import { THERMOCOUPLES, thermocouple_mV, withColdJunction, type Thermocouple } from './thermocouple.ts'

/** Slips of a resistance thermometer. */
function rtdSlips(s: Entries, r0: number): ReadingSlip[] {
  const R = rtdResistance_ohm(s.known, r0)
  if (R === null) return []
  const as = (ohm: number, by: number) => rtdTemperature_C(ohm, by) ?? NaN
  const two = leadError_C(s.known, 2, s.lead1_ohm, s.lead2_ohm, r0) ?? 0
  return [
    {
      says: 'the leads of a two-wire connection are read with it',
      reads: s.known + two,
      ...(s.wires === '2' ? {} : { set: { wires: '2' } }),
    },
    {
      says: `the input is set to Pt${r0 === 100 ? 1000 : 100} and the sensor is a Pt${r0}`,
      reads: as(R, r0 === 100 ? 1000 : 100),
    },
    {
      says: `the sensor is a Pt${r0 === 100 ? 1000 : 100} and Pt${r0} was entered`,
      reads: as(rtdResistance_ohm(s.known, r0 === 100 ? 1000 : 100) ?? NaN, r0),
      set: { sensor: r0 === 100 ? 'pt1000' : 'pt100' },
    },
    // α 0.003916 and 0.00392: the slope of another standard over the same R0.
    { says: 'the curve of another standard (α 0.003916)', reads: s.known * (0.003851 / 0.003916) },
    { says: 'the sensor is of another standard (α 0.003916)', reads: s.known * (0.003916 / 0.003851) },
  ]
}

/** Slips of a thermocouple. */
function coupleSlips(s: Entries, type: Thermocouple): ReadingSlip[] {
  const E = thermocouple_mV(type, s.known)
  const cold = thermocouple_mV(type, s.cold_C)
  if (E === null || cold === null) return []
  const loop = E - cold
  const read = (mV: number, by: Thermocouple, junction_C: number) =>
    withColdJunction(by, mV, junction_C)?.t_C ?? NaN
  const others = THERMOCOUPLES.filter((t) => t !== type)
  return [
    { says: 'plus and minus of the thermocouple are exchanged', reads: read(-loop, type, s.cold_C) },
    { says: 'the cold junction is not compensated', reads: read(loop, type, 0) },
    {
      says: 'copper instead of extension wire, to a cabinet 10 K colder than the head',
      reads: read(loop - ((thermocouple_mV(type, s.cold_C + 10) ?? cold) - cold), type, s.cold_C),
    },
    ...others.map((t) => ({
      says: `the input is set to type ${t} and the thermocouple is type ${type}`,
      reads: read(loop, t, s.cold_C),
    })),
    ...others.map((t) => {
      const [e, c] = [thermocouple_mV(t, s.known), thermocouple_mV(t, s.cold_C)]
      return {
        says: `the thermocouple is type ${t} and type ${type} was entered`,
        reads: e === null || c === null ? NaN : read(e - c, type, s.cold_C),
        set: { sensor: t },
      }
    }),
  ]
}

/** Beyond its range by this share a transmitter tells of a broken sensor. */
const BEYOND = 0.02
/** An input at its end: a lead is open, or what is connected gives nothing that the input knows. */
function brokenSlips(s: Entries): ReadingSlip[] {
  const span = s.high_C - s.low_C
  const beyond = (s.reads - s.low_C) / span
  return beyond > 1 + BEYOND || beyond < -BEYOND
    ? [
        {
          says: 'the input is at its end: an open lead, a sensor with another R0, or plus and minus exchanged',
          reads: s.reads,
        },
      ]
    : []
}

/** A known temperature against what the loop reads. Allowed: half a percent of span, and not less than 1 K. */
export function firstReadingFindings(s: Entries): Finding[] {
  if (s.compared === 'no') return []
  const { known, reads } = s
  const agrees = Math.max(1, 0.005 * Math.abs(s.high_C - s.low_C))
  return judgeFirstReading({ known, reads, unit: '°C', agrees, untouched: UNTOUCHED_C }, [
    { says: 'the reading is in °F', reads: known * 1.8 + 32, slope: 1.8 },
    { says: 'the range is in °F and was typed as °C', reads: (known - 32) / 1.8 },
    { says: 'the reading is in kelvin', reads: known + 273.15 },
    ...(s.sensor === 'pt100'
      ? rtdSlips(s, 100)
      : s.sensor === 'pt1000'
        ? rtdSlips(s, 1000)
        : coupleSlips(s, s.sensor)),
    ...rangeSlips(known, s.low_C, s.high_C),
    ...brokenSlips(s),
  ])
}
