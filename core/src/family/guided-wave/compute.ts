import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { currentOfFraction, fractionOf } from '../../signal/current-range.ts'
import { nothing, type AtWork, type SetUpResult } from '../family.ts'
import { echoReadingFindings, echoReadingLines } from '../echo-reading.ts'
import { levelReadingFindings } from '../level-reading.ts'
import { levelDrawing } from '../level-drawing.ts'
import { tankOfEntries, vesselPages, volumeAt_m3 } from '../vessel.ts'
import { strappingFindings } from '../strapping-findings.ts'
import { vesselLines } from '../vessel-sheet.ts'
import { deadZoneFindings } from './dead-zones.ts'
import { checkProbe, levelFromProbeEnd, PROBES, readProbe, type ProbeSetUp } from './probe.ts'
import type { Entries } from './settings.ts'

const probeKind = (s: Entries) => PROBES[s.probe]

/** The probe and its points, however they were entered. */
export function probeOf(s: Entries): ProbeSetUp {
  const base = {
    probe_m: s.probe_m,
    topDead_m: s.topDead_m,
    bottomDead_m: s.bottomDead_m,
  }
  switch (s.points) {
    case 'distance':
      return { ...base, at4_m: s.at4_m, at20_m: s.at20_m }
    case 'level':
      return {
        ...base,
        at4_m: s.zero_m - s.level4_m,
        at20_m: s.zero_m - s.level20_m,
      }
    default:
      return { ...base, at4_m: base.probe_m - base.bottomDead_m, at20_m: base.topDead_m }
  }
}
export const zeroDistance = (s: Entries, p: ProbeSetUp) => (s.points === 'level' ? s.zero_m : p.at4_m)

function probeFindings(s: Entries, p: ProbeSetUp): Finding[] {
  const c = checkProbe(p)
  const out: Finding[] = []
  const mA = (pct: number) => sayNumber(currentOfFraction(pct / 100), 5)
  for (const flag of c.flags)
    switch (flag) {
      case 'FULL_IN_TOP_DEAD_ZONE':
        out.push({
          code: flag,
          severity: 'stop',
          where: ['at20_m', 'level20_m'],
          says: `100 % at ${sayNumber(p.at20_m)} m lies in the upper dead zone of ${sayNumber(p.topDead_m)} m: the output stops at ${sayNumber(c.reachHigh_pct ?? 0, 4)} % (${mA(c.reachHigh_pct ?? 0)} mA) while the tank still fills, and may hold, jump or go to fault. Overfill protection must not hang on it.`,
        })
        break
      case 'ZERO_IN_BOTTOM_DEAD_ZONE':
        out.push({
          code: flag,
          severity: 'stop',
          where: ['at4_m', 'level4_m'],
          says: `0 % at ${sayNumber(p.at4_m)} m lies below the measurable ${sayNumber(c.farthest_m, 4)} m: the output freezes at ${sayNumber(c.reachLow_pct ?? 0, 4)} % (${mA(c.reachLow_pct ?? 0)} mA) although the tank empties further; pumps run dry.`,
        })
        break
      case 'ZERO_BEYOND_PROBE':
        out.push({
          code: flag,
          severity: 'stop',
          where: ['at4_m', 'level4_m', 'probe_m'],
          says: `0 % at ${sayNumber(p.at4_m)} m is beyond the probe’s end at ${sayNumber(p.probe_m)} m.`,
        })
        break
      case 'POINTS_REVERSED_OR_EQUAL':
        break
    }
  if (c.flags.length === 0)
    out.push({
      code: 'ZONES_CLEAR',
      severity: 'good',
      where: ['at4_m'],
      says: `Both points are inside what the probe measures: ${sayNumber(c.span_m, 5)} m of ${sayNumber(c.maxSpan_m, 5)} m.`,
    })
  const kind = probeKind(s)
  const eps = s.eps
  if (eps < kind.leastEps)
    out.push({
      code: 'EPS_LOW',
      severity: 'warn',
      where: ['eps'],
      says: `A ${kind.title} sees permittivities from about ${kind.leastEps}; ${sayNumber(eps)} needs a coax, or the echo of the probe’s end.`,
      rule: 'typical; check the data sheet',
    })
  if (s.probe === 'cable' && p.bottomDead_m < 0.1)
    out.push({
      code: 'WEIGHT',
      severity: 'note',
      where: ['bottomDead_m'],
      says: 'The length of a cable’s weight cannot be measured: count it into the lower dead zone.',
    })
  return out
}

/** What a guided wave device is told wrong, by the reading that it gives. */
function readingFindings(s: Entries, p: ProbeSetUp): Finding[] {
  if (s.compared === 'no') return []
  const zero = zeroDistance(s, p)
  const distance = zero - s.known
  return levelReadingFindings(
    {
      known: s.known,
      reads: s.reads,
      empty_m: zero,
      span_m: p.at4_m - p.at20_m,
      zeroAbove_m: s.shape === 'none' ? 0 : s.zeroAbove_m,
    },
    [
      {
        says: 'the end of the probe is taken for the surface: the tank is nearly empty, or the product hardly reflects',
        reads: zero - p.probe_m,
      },
      { says: 'the reference mark or a nozzle is taken for the surface', reads: zero - p.topDead_m },
      ...(s.standpipe_m === 0
        ? []
        : [{ says: 'the standpipe is not counted', reads: s.known + s.standpipe_m }]),
      {
        says: 'vapour or a coating over the surface slows the pulse',
        reads: zero - distance * 1.05,
        slope: 1,
      },
    ],
  )
}

export function compute(s: Entries, live: AtWork): SetUpResult {
  const p = probeOf(s)
  const c = checkProbe(p)
  if (c.flags.includes('POINTS_REVERSED_OR_EQUAL'))
    return nothing(
      'POINTS_REVERSED_OR_EQUAL',
      s.points === 'level' ? 'level20_m' : 'at20_m',
      `The 20 mA point at ${sayNumber(p.at20_m)} m is not above the 4 mA point at ${sayNumber(p.at4_m)} m. Both are distances downwards from the flange.`,
    )
  if (c.maxSpan_m <= 0)
    return nothing('NO_SPAN', 'probe_m', 'The dead zones take up the whole probe: nothing can be measured.')
  const tank = tankOfEntries(s)
  if (typeof tank === 'string') return nothing('TANK', 'shape', tank)
  const zero = zeroDistance(s, p)
  const distance = s.distance_m
  const now = distance > 0 ? readProbe(p, distance) : null
  const surface =
    distance > 0
      ? distance
      : live.current_mA === null
        ? null
        : p.at4_m + (p.at20_m - p.at4_m) * fractionOf(live.current_mA)
  const findings = [
    ...probeFindings(s, p),
    ...readingFindings(s, p),
    ...deadZoneFindings(s, p),
    ...echoReadingFindings(s),
    ...strappingFindings(s),
  ]
  const bottom = tank ? zero + s.zeroAbove_m : Math.max(p.probe_m, zero)
  if (tank && p.probe_m > bottom + 1e-9)
    findings.push({
      code: 'PROBE_TOUCHES',
      severity: 'stop',
      where: ['probe_m'],
      says: `A probe of ${sayNumber(p.probe_m)} m would go ${sayNumber((p.probe_m - bottom) * 1000, 3)} mm through the bottom.`,
    })
  if (tank && bottom > p.probe_m + 0.3)
    findings.push({
      code: 'TANK_TALLER',
      severity: 'warn',
      where: ['probe_m'],
      says: `The tank goes ${sayNumber((bottom - p.probe_m) * 1000, 3)} mm deeper than the probe: what lies below is not measured.`,
    })
  const apparent = s.apparentEnd_m
  const end = apparent > 0 ? levelFromProbeEnd(p.probe_m, apparent, s.eps) : null
  if (end && (end.height_m < 0 || end.height_m > p.probe_m))
    findings.push({
      code: 'PROBE_END',
      severity: 'stop',
      where: ['apparentEnd_m'],
      says: `The end of the probe at ${sayNumber(apparent)} m fits no level: it appears between ${sayNumber(p.probe_m)} and ${sayNumber(p.probe_m * Math.sqrt(s.eps), 4)} m.`,
    })
  const span = c.span_m
  const level = (d: number) => zero - d
  return {
    rows: [
      {
        label: 'Measurable from the flange',
        value: `${sayNumber(c.nearest_m, 5)} to ${sayNumber(c.farthest_m, 5)} m`,
      },
      {
        label: '4 mA point',
        value: `distance ${sayNumber(p.at4_m, 5)} m = level ${sayNumber(level(p.at4_m), 5)} m`,
      },
      {
        label: '20 mA point',
        value: `distance ${sayNumber(p.at20_m, 5)} m = level ${sayNumber(level(p.at20_m), 5)} m`,
      },
      { label: 'Span', value: span, unit: 'm', decimals: 4 },
      { label: 'Reach, low', value: c.reachLow_pct ?? 0, unit: '%', decimals: 2 },
      { label: 'Reach, high', value: c.reachHigh_pct ?? 0, unit: '%', decimals: 2 },
      ...(tank
        ? [
            {
              label: 'Volume at 100 %',
              value: volumeAt_m3(s, tank, level(p.at20_m)),
              unit: 'm³',
              decimals: 3,
            },
          ]
        : []),
      ...(now
        ? [
            { label: 'Level of the reading', value: level(distance), unit: 'm', decimals: 4 },
            { label: 'in percent', value: now.percent, unit: '%', decimals: 4 },
            { label: 'Current of the reading', value: now.current_mA, unit: 'mA', decimals: 4 },
          ]
        : []),
      ...(end && end.height_m >= 0 && end.height_m <= p.probe_m
        ? [
            {
              label: 'Level above the probe’s end, by its echo',
              value: end.height_m,
              unit: 'm',
              decimals: 5,
            },
            { label: 'Surface by the end’s echo', value: end.surface_m, unit: 'm', decimals: 5 },
          ]
        : []),
    ],
    findings,
    sheet: [
      { says: 'Display shows', value: s.shows === 'none' ? 'it has none' : s.shows, part: 'Display' },
      { says: 'Probe', value: probeKind(s).title, part: 'Probe' },
      {
        says: 'Probe length',
        value: `${sayNumber(p.probe_m, 6)} m`,
        part: 'Probe',
        trap: 'as it hangs: measured after it was cut',
      },
      { says: 'Upper dead zone', value: `${sayNumber(p.topDead_m, 6)} m`, part: 'Probe' },
      { says: 'Lower dead zone', value: `${sayNumber(p.bottomDead_m, 6)} m`, part: 'Probe' },
      { says: 'Permittivity', value: sayNumber(s.eps, 4), part: 'Probe' },
      ...vesselLines(s),
      ...echoReadingLines(s).filter((l) => l.says !== 'Display shows'),
      { says: '4 mA at distance', value: `${sayNumber(p.at4_m, 6)} m`, part: 'Current output' },
      {
        says: '20 mA at distance',
        value: `${sayNumber(p.at20_m, 6)} m`,
        part: 'Current output',
        trap: 'not less than the upper dead zone',
      },
      {
        says: 'False-echo map, stored of its own',
        value: 'with the tank as empty as can be',
        part: 'Last',
        act: true,
      },
      {
        says: 'Store: yes',
        act: true,
        value: 'power off and on, then read both points back',
        part: 'Last',
        trap: 'leaving the menu without it loses everything',
      },
    ],
    drawing: levelDrawing({
      says: `Probe of ${sayNumber(p.probe_m)} m, 4 mA at ${sayNumber(p.at4_m, 4)} m, 20 mA at ${sayNumber(p.at20_m, 4)} m${surface === null ? '' : `, surface at ${sayNumber(surface, 4)} m`}`,
      tank,
      bottom_m: bottom,
      surface_m: surface,
      dead: [
        [0, p.topDead_m, 'upper dead zone'],
        [p.probe_m - p.bottomDead_m, p.probe_m, 'lower dead zone'],
      ],
      marks: [
        [p.at4_m, `4 mA  ${sayNumber(p.at4_m, 4)} m`],
        [p.at20_m, `20 mA  ${sayNumber(p.at20_m, 4)} m`],
      ],
      probe_m: p.probe_m,
    }),
    ...(tank ? vesselPages(s, tank, level(p.at20_m)) : {}),
  }
}
