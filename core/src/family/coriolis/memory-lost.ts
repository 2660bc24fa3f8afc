import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { keysOf } from '../../quantity/setting.ts'
import { entryFix } from '../entry-fix.ts'
import type { SheetLine } from '../family.ts'
import { densityIn, massIn, temperatureIn, volumeIn } from './in-units.ts'
import { nameOf, type Constant } from './characterization.ts'
import type { Role } from './roles.ts'
import { BORE_UNITS, SOURCES, TOTALS, type Entries } from './settings.ts'

const MM: Readonly<Record<Entries['boreUnit'], number>> = { mm: 1, cm: 10, m: 1000, in: 25.4 }
/** The plate’s bore as a device that asks for it in a unit has to show it. */
export const boreIn = (bore_mm: number, unit: Entries['boreUnit']): number => bore_mm / MM[unit]
const sayBore = (bore_mm: number, unit: Entries['boreUnit']) =>
  `${sayNumber(boreIn(bore_mm, unit), 6)} ${BORE_UNITS[unit]}`
const SAME = 0.002

/** What a device shows as its bore against the plate: the number may be right and its unit wrong. */
function boreFindings(s: Entries): Finding[] {
  if (s.boreShown === 0) return []
  const wanted = boreIn(s.bore_mm, s.boreUnit)
  const near = (a: number, b: number) => Math.abs(a / b - 1) <= SAME
  if (near(s.boreShown, wanted))
    return [
      {
        code: 'BORE_AS_PLATE',
        severity: 'good',
        where: ['boreShown'],
        says: `The device has the bore of the plate: ${sayBore(s.bore_mm, s.boreUnit)} = ${sayNumber(s.bore_mm)} mm.`,
      },
    ]
  const meant = keysOf(BORE_UNITS).find((u) => near(s.boreShown, boreIn(s.bore_mm, u)))
  const has = s.boreShown * MM[s.boreUnit]
  const by = (has / s.bore_mm) ** 2
  return [
    {
      code: meant ? 'BORE_UNIT' : 'BORE_OTHER',
      severity: 'stop',
      where: ['boreShown'],
      says: `The device asks for ${BORE_UNITS[s.boreUnit]} and shows ${sayNumber(s.boreShown)}: a tube of ${sayNumber(has, 6)} mm, the plate says ${sayNumber(s.bore_mm)} mm.${meant ? ` The number was typed in ${BORE_UNITS[meant]}.` : ''} Velocities and limits would be wrong by a factor of ${sayNumber(by > 1 ? by : 1 / by, 3)}. Key in ${sayBore(s.bore_mm, s.boreUnit)}.`,
      fix: entryFix('It shows the plate’s now', { boreShown: wanted }),
    },
  ]
}

type Constants = Readonly<Partial<Record<Role, Constant>>>
/** What a meter whose memory is lost still needs from its plate, and whether its bore is right. */
export function memoryFindings(s: Entries, constants: Constants): Finding[] {
  if (!s.memoryLost) return []
  const missing = (['flowFactor', 'driveFrequency'] as const).filter((r) => !constants[r])
  return [
    {
      code: 'MEMORY_LOST',
      severity: 'warn',
      where: ['memoryLost'],
      says: 'The sensor’s memory is lost: size, factor and frequency are keyed in by hand from the plate, and with them direction, spans, totalizers, outputs and cutoff, which are lost too. The sheet has them in order. Nothing of the old set-up can be trusted, and a zero and a comparison come last.',
    },
    ...(missing.length > 0
      ? [
          {
            code: 'PLATE_MISSING',
            severity: 'stop' as const,
            where: missing.map((r) => `${r}_certificate`),
            says: `From the plate or the certificate ${missing.length === 1 ? 'is' : 'are'} still missing: ${missing.map((r) => nameOf(s, r)).join(' and ')}. Without ${missing.length === 1 ? 'it' : 'them'} the meter does not measure.`,
          },
        ]
      : []),
    ...boreFindings(s),
  ]
}

const BORE_LINE = 'Tube bore'
/** Lines of the plate without which the meter does not measure. */
export const plateLines = (s: Entries) =>
  ({
    bore: BORE_LINE,
    flowFactor: nameOf(s, 'flowFactor'),
    driveFrequency: nameOf(s, 'driveFrequency'),
  }) as const

/** What is keyed in again when the memory is lost, in the order in which a device asks for it. */
export function memoryLines(s: Entries, constants: Constants): SheetLine[] {
  const constant = (role: Role): SheetLine => ({
    says: nameOf(s, role),
    value: constants[role]?.typed ?? 'not entered',
    exact: true,
    trap: 'every decimal, digit by digit',
  })
  const units = keysOf(BORE_UNITS)
    .filter((u) => u !== s.boreUnit)
    .map((u) => sayBore(s.bore_mm, u))
  const part = (name: string, lines: readonly SheetLine[]) => lines.map((l) => ({ ...l, part: name }))
  return [
    ...part('From the plate', [
      {
        says: BORE_LINE,
        value: sayBore(s.bore_mm, s.boreUnit),
        trap: `in the unit the device asks for: the same bore is ${units.join(', ')}`,
      },
      constant('flowFactor'),
      constant('driveFrequency'),
      {
        says: 'Access code',
        value: s.access.trim() === '' ? 'not entered' : s.access.trim(),
        act: true,
      },
    ]),
    ...part('Lost with it', [
      {
        says: 'Flow direction',
        value: s.direction,
        trap: 'left at its default a reversed meter reads nothing',
      },
      {
        says: 'Span of the mass flow',
        value: massIn(s, s.flow_kgh),
        trap: `the device’s unit first: ${s.massUnit}`,
      },
      { says: 'Span of the volume flow', value: volumeIn(s, s.volume_m3h) },
      { says: 'Span of the density', value: `0 to ${densityIn(s, s.density_kg_m3)}` },
      {
        says: 'Span of the temperature',
        value: `${temperatureIn(s, s.coldest_C)} to ${temperatureIn(s, s.hottest_C)} ${s.temperatureUnit}`,
      },
      { says: 'Totalizer 1', value: TOTALS[s.total1], trap: 'what it had counted is gone: write it down' },
      { says: 'Totalizer 2', value: TOTALS[s.total2] },
      {
        says: 'Current output',
        value: s.currentOn,
        trap: 'off by default: the loop stays at its lowest current',
      },
      { says: 'Current output carries', value: SOURCES[s.source] },
    ]),
  ]
}
