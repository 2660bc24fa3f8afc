import { fractionOf } from '../../signal/current-range.ts'
import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { nothing, type AtWork, type ResultRow, type SetUpResult } from '../family.ts'
import { echoReadingFindings, echoReadingLines } from '../echo-reading.ts'
import { levelReadingFindings } from '../level-reading.ts'
import { levelDrawing } from '../level-drawing.ts'
import { tankOfEntries, vesselPages, volumeAt_m3 } from '../vessel.ts'
import { strappingFindings } from '../strapping-findings.ts'
import { vesselLines } from '../vessel-sheet.ts'
import { fullInBlocking, nearest_m } from './blocking-distance.ts'
import { pointsOfMode, readEcho, type EchoSetUp } from './echo.ts'
import { beamAngle_deg, entersBeamAt_m, footprint_m, reflection } from './radar.ts'
import { airSoundSpeed_m_s, temperatureError } from './sound-in-air.ts'
import type { Entries } from './settings.ts'

const GHZ = { ultrasonic: null, radar6: 6, radar26: 26, radar80: 80 } as const
const isRadar = (s: Entries) => GHZ[s.principle] !== null
/** Foam and waves come nearer than the mean level: so much is kept free, typical. */
const LEAST_MARGIN_M = 0.05
const LEAST_MARGIN_SHARE = 0.05

/** Where 100 % is, as a distance from the reference. */
export function fullDistance_m(s: Entries): number {
  if (s.hundred === 'deadZone') return s.blocking_m - s.offset_m
  return s.hundred === 'top' ? s.roof_m : s.full_m
}

/** The points as they were entered, or what is wrong with them. */
export function echoOf(s: Entries): EchoSetUp | { readonly where: string; readonly says: string } {
  const empty_m = s.empty_m
  const offset_m = s.offset_m
  const blocking_m = s.blocking_m
  const full_m = fullDistance_m(s)
  if (full_m >= empty_m)
    return {
      where: 'full_m',
      says: `The full point at ${sayNumber(full_m)} m is not above the empty point at ${sayNumber(empty_m)} m. Both are distances downwards from the sensor’s reference.`,
    }
  const points = s.points
  const base = { empty_m, full_m, offset_m, blocking_m }
  if (points === 'level' || points === 'distance')
    return { ...base, ...pointsOfMode(empty_m, full_m, points) }
  const [at4_m, at20_m] =
    points === 'ownDistance' ? [s.at4_m, s.at20_m] : [empty_m - s.level4_m, empty_m - s.level20_m]
  if (at4_m === at20_m)
    return {
      where: points === 'ownDistance' ? 'at20_m' : 'level20_m',
      says: 'The 4 mA and the 20 mA point are the same.',
    }
  return { ...base, at4_m, at20_m }
}
const isDistance = (e: EchoSetUp) => e.at4_m < e.at20_m

function zoneFindings(s: Entries, e: EchoSetUp): Finding[] {
  const gap = nearest_m(e) + e.offset_m - e.blocking_m
  const wanted = Math.max(LEAST_MARGIN_M, LEAST_MARGIN_SHARE * (e.empty_m - e.full_m))
  if (fullInBlocking(e))
    return [
      {
        code: 'FULL_IN_BLOCKING',
        severity: 'stop',
        where: ['full_m'],
        says: `100 % lies ${sayNumber(-gap * 1000, 3)} mm inside the dead zone of ${sayNumber(e.blocking_m)} m: the last part of the tank cannot be measured and the output may hold or jump. Raise the sensor or lower the full point.`,
      },
    ]
  if (gap < wanted)
    return [
      {
        code: 'MARGIN_SMALL',
        severity: 'warn',
        where: ['full_m'],
        says: `Between 100 % and the dead zone stay ${sayNumber(gap * 1000, 3)} mm; ${sayNumber(wanted * 1000, 3)} mm are wanted, since foam and waves come closer than the mean level.`,
        rule: '5 cm or 5 % of span, typical',
      },
    ]
  return [
    {
      code: 'ZONES_CLEAR',
      severity: 'good',
      where: ['full_m'],
      says: `100 % is ${sayNumber(gap * 1000, 3)} mm clear of the dead zone.`,
    },
  ]
}

function ultrasonicFindings(s: Entries, e: EchoSetUp): Finding[] {
  const [set, gas] = [s.set_C, s.gas_C]
  if (set === gas) return []
  const err = temperatureError(e.empty_m, set, gas)
  return [
    {
      code: 'GAS_TEMPERATURE',
      severity: Math.abs(err.levelError_m) > 0.005 * (e.empty_m - e.full_m) ? 'warn' : 'note',
      where: ['gas_C'],
      says: `With the gas at ${sayNumber(gas)} °C and ${sayNumber(set)} °C counted with, the empty tank reads ${sayNumber(Math.abs(err.levelError_m) * 1000, 3)} mm too ${err.levelError_m > 0 ? 'high' : 'low'}: sound runs at ${sayNumber(airSoundSpeed_m_s(gas), 5)} m/s. Calibrate on a target at a known distance, never by shifting the empty point.`,
      rule: 'sound in air, ISO 9613-1; −0.17 % of distance per K',
    },
  ]
}

function radarFindings(s: Entries, e: EchoSetUp): { rows: ResultRow[]; findings: Finding[] } {
  const beam = beamAngle_deg(GHZ[s.principle] ?? 26, s.antenna_m)
  const r = reflection(1, s.eps)
  const wall = s.lateral_m
  const enters = entersBeamAt_m(wall, beam)
  const findings: Finding[] = []
  if (s.eps < 1.9)
    findings.push({
      code: 'WEAK_ECHO',
      severity: 'warn',
      where: ['eps'],
      says: `A permittivity of ${sayNumber(s.eps)} sends back ${sayNumber(r.power * 100, 2)} % of the power: take a larger antenna, a stilling pipe or a guided wave; the tank’s bottom may show instead.`,
      rule: 'weak below about 1.9, typical',
    })
  if (enters < e.empty_m)
    findings.push({
      code: 'WALL_IN_BEAM',
      severity: 'warn',
      where: ['lateral_m'],
      says: `What stands ${sayNumber(wall)} m beside the axis enters the beam at ${sayNumber(enters, 4)} m, before the empty point: expect a false echo, map it with the tank as empty as can be, or move the sensor.`,
    })
  return {
    rows: [
      { label: 'Beam angle', value: beam, unit: '°', decimals: 1, typical: true },
      { label: 'Footprint at the empty point', value: footprint_m(e.empty_m, beam), unit: 'm', decimals: 3 },
      { label: 'Echo of the surface', value: r.dB, unit: 'dB', decimals: 2 },
    ],
    findings,
  }
}

/** What a level device from above is told wrong, by the reading that it gives. */
function readingFindings(s: Entries, e: EchoSetUp): Finding[] {
  if (s.compared === 'no') return []
  const distance = e.empty_m - s.known
  const by = (ratio: number) => e.empty_m - distance * ratio
  const sound = airSoundSpeed_m_s(s.set_C) / airSoundSpeed_m_s(s.gas_C)
  return levelReadingFindings(
    {
      known: s.known,
      reads: s.reads,
      empty_m: e.empty_m,
      span_m: e.empty_m - e.full_m,
      zeroAbove_m: s.shape === 'none' ? 0 : s.zeroAbove_m,
    },
    [
      ...(e.offset_m === 0
        ? []
        : [
            {
              says: 'the height of the face above the reference is not in the device',
              reads: s.known - e.offset_m,
            },
            {
              says: 'the height of the face above the reference is in the device twice, or the other way',
              reads: s.known + e.offset_m,
            },
          ]),
      ...(isRadar(s)
        ? []
        : [
            { says: 'the gas temperature is not followed', reads: by(sound) },
            { says: 'the echo is read at half its way', reads: by(0.5) },
          ]),
      { says: 'a double echo: the surface is seen at twice its distance', reads: by(2) },
    ],
  )
}

export function compute(s: Entries, live: AtWork): SetUpResult {
  const e = echoOf(s)
  if ('says' in e) return nothing('POINTS', e.where, e.says)
  const tank = tankOfEntries(s)
  if (typeof tank === 'string') return nothing('TANK', 'shape', tank)
  const span = e.empty_m - e.full_m
  const { at4_m, at20_m } = e
  const radar = isRadar(s) ? radarFindings(s, e) : { rows: [], findings: ultrasonicFindings(s, e) }
  const fromCurrent = live.current_mA === null ? null : at4_m + (at20_m - at4_m) * fractionOf(live.current_mA)
  const face = s.face_m
  const now = face > 0 ? readEcho(e, face) : null
  const surface = now?.distance_m ?? fromCurrent
  const findings: Finding[] = [
    ...zoneFindings(s, e),
    ...radar.findings,
    ...echoReadingFindings(s),
    ...readingFindings(s, e),
    ...strappingFindings(s),
  ]
  if (now?.inBlocking)
    findings.push({
      code: 'IN_BLOCKING',
      severity: 'stop',
      where: ['face_m'],
      says: `${sayNumber(face)} m from the face is inside the dead zone of ${sayNumber(e.blocking_m)} m: this reading is not valid. Hold or alarm, never trust it.`,
    })
  const beyond = Math.max(at4_m, at20_m) - e.empty_m
  if (beyond > 0.001 * span)
    findings.push({
      code: 'POINT_BELOW_EMPTY',
      severity: 'warn',
      where: ['at4_m', 'level4_m'],
      says: `The ${at4_m > at20_m ? 4 : 20} mA point lies ${sayNumber(beyond * 1000, 3)} mm below the empty point: the output never reaches it. A slip in the distance?`,
    })
  if (isDistance(e))
    findings.push({
      code: 'REVERSED',
      // Chosen as a mode it is meant; typed as two points it may be an exchange.
      severity: s.points === 'distance' ? 'note' : 'warn',
      where: ['points'],
      says: `A full tank gives 4 mA: the output is the distance. The receiver has to be scaled ${sayNumber(at4_m)} m at 4 mA to ${sayNumber(at20_m)} m at 20 mA, or turned round.`,
    })
  if (tank && e.empty_m + e.offset_m > 0 && span + s.zeroAbove_m > tank.height_m + 1e-9)
    findings.push({
      code: 'ABOVE_TANK',
      severity: 'stop',
      where: ['full_m'],
      says: `100 % would be ${sayNumber(span + s.zeroAbove_m, 4)} m above the lowest point of a tank that is ${sayNumber(tank.height_m, 4)} m high. Metres for millimetres, or the empty point beyond the bottom?`,
    })
  const pages = tank ? vesselPages(s, tank, span) : { charts: [], tables: [] }
  const points = (d: number) => `distance ${sayNumber(d, 5)} m = level ${sayNumber(e.empty_m - d, 5)} m`
  return {
    rows: [
      { label: '4 mA point', value: points(at4_m) },
      { label: '20 mA point', value: points(at20_m) },
      { label: 'Span', value: span, unit: 'm', decimals: 3 },
      { label: 'Sensor face to 100 %', value: e.full_m + e.offset_m, unit: 'm', decimals: 3 },
      ...(isRadar(s)
        ? []
        : [{ label: 'Sound in the gas', value: airSoundSpeed_m_s(s.gas_C), unit: 'm/s', decimals: 2 }]),
      ...radar.rows,
      ...(tank
        ? [{ label: 'Volume at 100 %', value: volumeAt_m3(s, tank, span), unit: 'm³', decimals: 3 }]
        : []),
      ...(now
        ? [
            { label: 'Level of the reading', value: now.level_m, unit: 'm', decimals: 4 },
            { label: 'in percent', value: now.percent, unit: '%', decimals: 4 },
            { label: 'Free up to 100 %', value: now.spaceToFull_m, unit: 'm', decimals: 4 },
            { label: 'Current of the reading', value: now.current_mA, unit: 'mA', decimals: 4 },
            ...(tank
              ? [
                  {
                    label: 'Volume of the reading',
                    value: volumeAt_m3(s, tank, now.level_m),
                    unit: 'm³',
                    decimals: 3,
                  },
                ]
              : []),
          ]
        : []),
    ],
    findings,
    sheet: [
      {
        says: 'Output',
        value: isDistance(e) ? 'distance, 4 mA full' : 'level, 20 mA full',
        part: 'Mode',
        trap: 'first: the points below are told in it, and stay as they were when it changes',
      },
      { says: 'Empty distance', value: `${sayNumber(e.empty_m, 6)} m`, part: 'Distances' },
      { says: 'Full distance', value: `${sayNumber(e.full_m, 6)} m`, part: 'Distances' },
      { says: 'Dead zone from the face', value: `${sayNumber(e.blocking_m, 6)} m`, part: 'Distances' },
      { says: 'Sensor face above the reference', value: `${sayNumber(e.offset_m, 6)} m`, part: 'Distances' },
      ...(isRadar(s)
        ? []
        : [{ says: 'Gas temperature', value: `${sayNumber(s.set_C)} °C`, part: 'Distances' }]),
      ...vesselLines(s),
      ...echoReadingLines(s),
      { says: '4 mA at', value: points(at4_m), part: 'Current output' },
      {
        says: '20 mA at',
        value: points(at20_m),
        part: 'Current output',
        trap: 'set by themselves, not by the mode',
      },
      {
        says: 'Echo map, stored of its own',
        act: true,
        value: 'with the tank as empty as can be',
        part: 'Last',
      },
    ],
    drawing: levelDrawing({
      says: `Empty at ${sayNumber(e.empty_m)} m, full at ${sayNumber(e.full_m)} m below the reference, dead zone ${sayNumber(e.blocking_m)} m${surface === null ? '' : `, surface at ${sayNumber(surface, 4)} m`}`,
      tank,
      bottom_m: e.empty_m + (tank ? s.zeroAbove_m : 0),
      surface_m: surface,
      dead: [[-e.offset_m, e.blocking_m - e.offset_m, 'dead zone']],
      marks: [
        [at4_m, `4 mA  ${sayNumber(at4_m, 4)} m`],
        [at20_m, `20 mA  ${sayNumber(at20_m, 4)} m`],
      ],
      ...(isRadar(s) ? { halfBeam_deg: beamAngle_deg(GHZ[s.principle] ?? 26, s.antenna_m) / 2 } : {}),
    }),
    ...pages,
  }
}
