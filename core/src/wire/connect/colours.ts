import { knownParts, partOf, terminalAt, type WireColour, type Wiring } from '../../part/wiring.ts'

/** Cores of a signal cable in their order: DIN 47100 here, the usual control cable order there. */
const CORES: Readonly<Record<Wiring['school'], readonly WireColour[]>> = {
  iec: ['WH', 'BN', 'GN', 'YE', 'GY', 'PK', 'BU', 'RD'],
  na: ['BK', 'WH', 'RD', 'GN', 'OG', 'BU', 'BN', 'YE'],
}
/** Mains and control wiring of the two schools; the local code decides. @see IEC 60445 */
const BY_ROLE: Readonly<Record<Wiring['school'], Readonly<Record<string, WireColour>>>> = {
  iec: { L: 'BN', N: 'BU', PE: 'GNYE', 'dc+': 'RD', 'dc-': 'WH', other: 'BU' },
  na: { L: 'BK', N: 'WH', PE: 'GN', 'dc+': 'BU', 'dc-': 'WHBU', other: 'BU' },
}
/** The leads of a sensor are the same everywhere. @see IEC 60947-5-2 */
const SENSOR = { bn: 'BN', bu: 'BU', bk: 'BK', wh: 'WH' } as const
const MAINS = ['L', 'N', 'PE'] as const

/** The colour a wire between two terminals has by the chosen school. */
export function usualColour(w: Wiring, from: string, to: string): WireColour {
  const roles = [from, to].map((at) => terminalAt(w, at)?.role)
  const colours = BY_ROLE[w.school]
  for (const role of MAINS) if (roles.includes(role)) return colours[role] ?? 'BK'
  for (const role of ['bn', 'bu', 'bk', 'wh'] as const) if (roles.includes(role)) return SENSOR[role]
  const cables = knownParts(w).filter((p) => p.kind.conductor)
  for (const at of [from, to])
    if (cables.some((c) => c.id === partOf(at)))
      return CORES[w.school][(Number(/\d+$/.exec(at)?.[0]) - 1) % 8] ?? 'BK'
  if (roles.includes('lead+')) return 'RD'
  if (roles.includes('lead-')) return 'BK'
  for (const role of ['dc+', 'dc-']) if (roles.includes(role as 'dc+')) return colours[role] ?? 'BK'
  return colours['other'] ?? 'BU'
}
